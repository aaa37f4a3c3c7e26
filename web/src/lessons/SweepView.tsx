import { Ban, Download, Grid3x3 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { sweepCsv } from '@vigilum/core/formats';
import { knobFactsOf } from '@vigilum/core/lesson';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import {
  along,
  axisOf,
  handWalk,
  knobsOf,
  resultFacts,
  resultText,
  safeAt,
  sensibleRange,
  tightnessOf,
  usualKnobs,
  type Knob,
  type ResultKey,
  type Sweep,
  type Tightness,
  type Trial,
} from '@vigilum/core/tuning';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { useSweep } from '../tuning/useSweep.ts';
import { Chart } from '../ui/Chart.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { useKey } from '../ui/useKey.ts';
import { endsOf, sweepOption } from '../tuning/sweepOption.ts';
import { AxisFields, type AxisChoice } from './AxisFields.tsx';
import { SweepTable } from './SweepTable.tsx';
import type { Subject } from './useSubject.ts';

const sizes = ['11', '15', '21'] as const;
const runChoices = ['5', '10', '25'] as const;

const choiceOf = (knob: Knob | undefined): AxisChoice => {
  if (!knob) return { knob: '', from: '', to: '' };
  const { low, high } = sensibleRange(knob);
  return { knob: knob.name, from: formatNumber(low, 3), to: formatNumber(high, 3) };
};

/** An axis as it is typed; null where it cannot be one. */
function typedAxis(knob: Knob | undefined, { from, to }: AxisChoice, count: number) {
  const [low, high] = [typedNumber(from), typedNumber(to)];
  if (!knob || !(high > low) || Math.max(Math.abs(low), Math.abs(high)) > 100_000) return null;
  return axisOf(knob, low, high, count);
}

/** “6 in 10”, or “6 to 7 in 10” where it lies between. */
const tenths = (share: number): string => {
  const low = Math.floor(10 * share + 1e-9);
  const rest = 10 * share - low;
  if (rest > 0.35 && rest < 0.65) return `${low} to ${low + 1} in 10`;
  return `${Math.round(10 * share)} in 10`;
};
const percent = (share: number): string => formatNumber(100 * share, 0);

/** “A team that guesses both passes with 6 in 10 (57 to 63 %).” */
function TightLine({ who, tight }: { who: string; tight: Tightness | null }) {
  if (!tight) return null;
  return (
    <li className="border-l-4 border-l-sea pl-3">
      {who} passes with <strong>{tenths(tight.share)}</strong>
      <span className="block text-ink-2">
        {percent(tight.share)} % of {tight.runs} runs ({percent(tight.low)} to {percent(tight.high)} %);{' '}
        {percent(tight.safe)} % of these values are safe
      </span>
    </li>
  );
}

/** How tight a lesson is, by the sweep: what somebody who guesses comes to. */
function HowTight({ sweep, knobs }: { sweep: Sweep; knobs: readonly Knob[] }) {
  const { x, y } = sweep;
  const value = (name: string) => knobs.find((knob) => knob.name === name)?.value;
  const both = tightnessOf(sweep);
  const other = (knob: string) => {
    const at = value(knob);
    return at === undefined ? null : tightnessOf(sweep, along(sweep, knob, at));
  };
  return (
    <section className="mt-3">
      <h3 className="font-bold">How tight is the lesson?</h3>
      <ul className="mt-1 flex flex-col gap-1.5">
        {y ? (
          <>
            <TightLine who={`Who has ${y.knob} right and guesses ${x.knob}`} tight={other(y.knob)} />
            <TightLine who={`Who has ${x.knob} right and guesses ${y.knob}`} tight={other(x.knob)} />
          </>
        ) : null}
        <TightLine who={y ? 'Who guesses both' : `Who guesses ${x.knob}`} tight={both} />
      </ul>
      <p className="mt-1 text-ink-2">A guess is any value of the ranges above, each as likely.</p>
    </section>
  );
}

/** One number of a script or two over their ranges, on this robot: what comes out, and where it is safe. */
export function SweepView({ subject, trials }: { subject: Subject; trials: readonly Trial[] }) {
  const { text, known, lesson } = subject;
  const knobs = useMemo(() => knobsOf(text, knobFactsOf(known)), [text, known]);
  const [first, second] = useMemo(() => {
    const usual = usualKnobs(knobs, 9);
    const gain = usual.find(({ role }) => role === 'gain') ?? usual[0];
    const speed = usual.find(({ role }) => role === 'speed' && gain?.name !== undefined);
    return [
      gain,
      speed === gain ? usual.find((one) => one !== gain) : (speed ?? usual.find((one) => one !== gain)),
    ];
  }, [knobs]);
  const [x, setX] = useState(() => choiceOf(first));
  const [y, setY] = useState(() => choiceOf(second));
  const [size, setSize] = useState<(typeof sizes)[number]>('21');
  const [runs, setRuns] = useState<(typeof runChoices)[number]>('10');
  const [chosen, setChosen] = useState<ResultKey>('pass rate');
  const [view, setView] = useState<'picture' | 'table'>('picture');
  const { sweep, going, begin, cancel, took, cannot } = useSweep();
  const knob = (name: string) => knobs.find((one) => one.name === name);
  const xAxis = typedAxis(knob(x.knob), x, Number(size));
  const yAxis = y.knob === '' ? null : typedAxis(knob(y.knob), y, Number(size));
  const ready = xAxis !== null && (y.knob === '' || yAxis !== null) && x.knob !== y.knob;
  const start = () => {
    if (!ready || going) return;
    void begin({
      job: { lesson, known, text },
      x: xAxis,
      y: yAxis,
      runs: Number(runs),
      bar: lesson.proof.bar,
      seed: lesson.proof.seed,
    });
  };
  useKey('g', start);
  const results = useMemo(() => {
    const found = new Set<ResultKey>(['pass rate']);
    for (const point of sweep?.points ?? [])
      for (const key of Object.keys(point?.sums ?? {}) as ResultKey[]) found.add(key);
    return [...found];
  }, [sweep]);
  const result = results.includes(chosen) ? chosen : 'pass rate';
  const done = sweep?.points.reduce((sum, point) => sum + (point ? 1 : 0), 0) ?? 0;
  const made = sweep?.points.reduce((sum, point) => sum + (point?.runs ?? 0), 0) ?? 0;
  const onField = (trial: Trial) => {
    const at = (name: string | undefined) => trial.knobs.find((one) => one.name === name)?.value;
    const [a, b] = [at(sweep?.x.knob), sweep?.y ? at(sweep.y.knob) : 0];
    return a === undefined || b === undefined ? [] : [{ x: a, y: b }];
  };
  const model =
    sweep && knob(sweep.x.knob)
      ? { x: knob(sweep.x.knob)!.value, y: sweep.y ? (knob(sweep.y.knob)?.value ?? 0) : 0 }
      : null;
  // Beside another script the model answer is marked too, where it has the same numbers.
  const answerKnobs = useMemo(
    () => (text === lesson.modelScript ? [] : knobsOf(lesson.modelScript, knobFactsOf(known))),
    [text, lesson.modelScript, known],
  );
  const answerAt = (name: string | undefined) => answerKnobs.find((one) => one.name === name)?.value;
  const [answerX, answerY] = [answerAt(sweep?.x.knob), sweep?.y ? answerAt(sweep.y.knob) : 0];
  const answer = answerX === undefined || answerY === undefined ? null : { x: answerX, y: answerY };
  const roleOf = (name: string | undefined) => knob(name ?? '')?.role;
  const hand =
    took && sweep && roleOf(sweep.x.knob) === 'gain' && roleOf(sweep.y?.knob) === 'speed'
      ? handWalk(sweep, results.includes('rms') ? 'rms' : 'time')
      : null;
  const team = trials.flatMap(onField);
  const ends = sweep && endsOf(sweep, result);
  const safeCount = sweep?.points.filter((point) => safeAt(point, sweep.bar)?.safe).length ?? 0;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        className="min-h-96"
        title={
          sweep ? `${sweep.x.knob}${sweep.y ? ` and ${sweep.y.knob}` : ''} over their ranges` : 'A sweep'
        }
        aside={
          sweep ? (
            <span role="status">
              {done} of {sweep.points.length} points, {made} runs
              {took ? `, in ${formatNumber(took.ms / 1000)} s` : going ? ' …' : ', cut off'}
            </span>
          ) : undefined
        }
      >
        {sweep ? (
          <>
            <div className="mb-1 flex flex-wrap items-center gap-2">
              <Labelled beside label="shown">
                <select
                  className="input h-11 w-auto"
                  value={result}
                  onChange={(event) => setChosen(event.target.value as ResultKey)}
                >
                  {results.map((key) => (
                    <option key={key} value={key}>
                      {resultFacts[key].name}
                      {resultFacts[key].unit
                        ? `, ${resultFacts[key].unit === 'deg' ? '°' : resultFacts[key].unit}`
                        : ''}
                    </option>
                  ))}
                </select>
              </Labelled>
              <span className="ml-auto flex flex-wrap gap-2">
                <Choice
                  label="How the sweep is shown"
                  options={['picture', 'table'] as const}
                  value={view}
                  choose={setView}
                />
                <Button
                  icon={Download}
                  onClick={() => saveFile(`${lesson.slug}-sweep.csv`, 'text/csv', sweepCsv(sweep))}
                >
                  CSV
                </Button>
              </span>
            </div>
            {view === 'picture' ? (
              <>
                <Chart
                  className="min-h-72 flex-1"
                  label={`${resultFacts[result].name} over ${sweep.x.knob}${sweep.y ? ` and ${sweep.y.knob}` : ''}: ${safeCount} of ${done} points are safe. The table beside it has every number.`}
                  option={() =>
                    sweepOption(sweep, result, {
                      model,
                      answer,
                      team: team.length > 0 ? { name: subject.name, points: team } : null,
                      hand,
                    })
                  }
                  redraw={[sweep, result, model?.x, model?.y, answer?.x, answer?.y, team.length]}
                />
                <p className="text-ink-2">
                  {ends
                    ? `faint ${resultText(result, ends[0])}, strong ${resultText(result, ends[1])} · `
                    : ''}
                  <span className="font-semibold text-done">▬ outline: safe</span>, {percent(sweep.bar)} % of
                  the runs or more pass · <span className="font-semibold text-brass">◆</span> the script as it
                  is
                  {answer ? (
                    <>
                      {' '}
                      · <span className="font-semibold text-done">▲</span> the model answer
                    </>
                  ) : null}
                  {team.length > 0 ? ' · ○ the team’s trials' : ''}
                  {hand ? ` · dashed: ${hand.says}` : ''}
                </p>
              </>
            ) : (
              <SweepTable sweep={sweep} result={result} />
            )}
          </>
        ) : (
          <p className="text-ink-2">
            Choose one number of the script or two. Each point of the field is run several times on this
            robot, in the lesson’s changing conditions; coarse first, then the rim of what is safe.
          </p>
        )}
      </Panel>
      <Panel
        title="What is swept"
        footer={
          going ? (
            <Button icon={Ban} key="cancel" onClick={cancel}>
              Cancel at {done} of {sweep?.points.length ?? '…'}
            </Button>
          ) : (
            <Button main icon={Grid3x3} key="begin" disabled={!ready} onClick={start}>
              Sweep {(yAxis ? Number(size) : 1) * Number(size)} points <kbd className="kbd">G</kbd>
            </Button>
          )
        }
      >
        {knobs.length === 0 ? (
          <p>This script has no number to sweep.</p>
        ) : (
          <div className="flex flex-col gap-2">
            <AxisFields
              label="across"
              knobs={knobs}
              value={x}
              change={setX}
              pick={(name) => setX(choiceOf(knob(name)))}
              good={xAxis !== null && x.knob !== y.knob}
            />
            <AxisFields
              label="upwards"
              none
              knobs={knobs.filter(({ name }) => name !== x.knob)}
              value={y}
              change={setY}
              pick={(name) => setY(choiceOf(knob(name)))}
              good={y.knob === '' || yAxis !== null}
            />
            {ready ? null : (
              <p role="alert" className="text-fault">
                {x.knob === y.knob
                  ? 'Choose two different numbers.'
                  : 'Each range goes from a smaller number to a larger one.'}
              </p>
            )}
            <div className="flex flex-wrap items-center gap-2">
              <span className="w-28 text-ink-2">points a side</span>
              <Choice label="Points a side" options={sizes} value={size} choose={setSize} />
            </div>
            <div className="flex flex-wrap items-center gap-2">
              <span className="w-28 text-ink-2">runs a point</span>
              <Choice label="Runs a point" options={runChoices} value={runs} choose={setRuns} />
            </div>
            {cannot > 0 ? (
              <p className="text-ink-2">{cannot} points were left out: the script cannot run with them.</p>
            ) : null}
            {sweep && made > 0 ? <HowTight sweep={sweep} knobs={knobs} /> : null}
          </div>
        )}
      </Panel>
    </div>
  );
}
