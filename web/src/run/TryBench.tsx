import { Play } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { formatNumber } from '@vigilum/core/quantity';
import { tryCircumstances, type KnownRobot, type Lesson, type Rehearsal } from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { FindingCard } from '../ui/Finding.tsx';
import { Fact, Panel } from '../ui/Panel.tsx';
import { useKey } from '../ui/useKey.ts';
import { simulation } from '../workers/simulation.ts';
import { CurrentSteps } from './CurrentSteps.tsx';
import { Judgements } from './Judgements.tsx';
import { LogTable } from './LogTable.tsx';
import { MatDrawing } from './MatDrawing.tsx';
import { outcomeOf, predictedNumber, Prediction } from './Prediction.tsx';
import { WhatIsChecked } from './WhatIsChecked.tsx';
import { RunView, watchOf } from './RunView.tsx';
import { SecondRobot } from './SecondRobot.tsx';
import { useSecondRobot } from './useSecondRobot.ts';
import { usePlayback } from './usePlayback.ts';
import { valuesAt } from './values.ts';

/** A run that this one can be compared with. */
export interface Comparable {
  id: string;
  name: string;
  /** Computes it again from the same start. */
  run: (start: string, seed: number) => Promise<Rehearsal>;
}

interface Props {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
  /** A seed that has not been used. */
  nextSeed: () => number;
  ran?: (run: { start: string; seed: number; predicted: number | null; kept: boolean }) => void;
  /** Shown before the first run in place of judgements. */
  before?: ReactNode;
  footer?: ReactNode;
  comparables?: readonly Comparable[];
  /** Beside the start: what else can be done with the run. */
  toggle?: ReactNode;
}

/** Why a run ended where it did, when that is not as it should be. */
function Ending({ run: { ended, programOverS } }: Pick<Rehearsal, 'run'>) {
  switch (ended.how) {
    case 'error':
      return (
        <FindingCard
          tone="fault"
          where={`line ${ended.line}`}
          says={ended.says}
          more="The run stopped there. Mend the line."
        />
      );
    case 'left the mat':
      return <FindingCard tone="fault" says="It drove off the mat." more="The run was given up there." />;
    case 'fell off':
      return <FindingCard tone="fault" says="It went over the edge." more="The run was over there." />;
    case 'time limit':
      return programOverS === null ? (
        <FindingCard
          tone="now"
          says={`The program was still going after ${formatNumber(ended.atS)} s.`}
          more="The run was stopped there: no program may run for ever."
        />
      ) : null;
    default:
      return null;
  }
}

/** Predict, run, watch: one script on one robot, from a start, with everything in one time. */
export function TryBench({
  lesson,
  known,
  text,
  nextSeed,
  ran,
  before,
  footer,
  comparables = [],
  toggle,
}: Props) {
  const { build, kit, thresholds } = known;
  const [start, setStart] = useState(lesson.course.starts[0]!.name);
  const [rehearsal, setRehearsal] = useState<Rehearsal | null>(null);
  const [previous, setPrevious] = useState<Rehearsal | null>(null);
  const [compared, setCompared] = useState<Rehearsal | null>(null);
  const [choice, setChoice] = useState('');
  const [typed, setTyped] = useState('');
  const [busy, setBusy] = useState(false);
  const last = useRef({ start: '', seed: 0 });
  const second = useSecondRobot(lesson);
  // Where nobody sends or listens, a second robot would only be one thing more to look at.
  const speaks = /\b(send|heard)\b/i.test(text);
  const playback = usePlayback(rehearsal?.evidence ?? null);

  const run = async () => {
    if (busy) return;
    setBusy(true);
    const seed = nextSeed();
    try {
      const done = await simulation().attempt(
        { lesson, known, text },
        start,
        seed,
        speaks ? second.of(text, start) : null,
      );
      setPrevious(rehearsal);
      setRehearsal(done);
      setCompared(null);
      setChoice('');
      last.current = { start, seed };
      const kept = done.judgements.every((j) => j.verdict === 'holds');
      ran?.({ start, seed, predicted: predictedNumber(typed), kept });
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  useKey('r', () => void run());

  const compare = async (id: string) => {
    setChoice(id);
    if (id === '' || id === 'before') return setCompared(id === '' ? null : previous);
    const found = comparables.find((one) => one.id === id);
    if (!found) return;
    try {
      setCompared(await found.run(last.current.start, last.current.seed));
    } catch (error) {
      setChoice('');
      toast.error(sentenceOf(error));
    }
  };

  const signals = rehearsal?.evidence.signals;
  const { sample } = playback;
  const ended = rehearsal !== null && playback.timeS >= playback.endS;
  const line = signals?.line?.values[sample] ?? -1;
  const display = rehearsal?.run.events.findLast(
    (e) => e.kind === 'display' && e.atS <= playback.timeS,
  )?.text;
  const word = rehearsal?.run.events.findLast(
    (e) => (e.kind === 'sent' || e.kind === 'heard') && e.atS <= playback.timeS,
  );
  const reading = signals?.[lesson.need.socket];
  const now = reading?.values[sample];
  const watch = watchOf(build, lesson);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel>
        {rehearsal ? (
          <RunView
            lesson={lesson}
            build={build}
            kit={kit}
            rehearsal={rehearsal}
            compared={compared}
            playback={playback}
            thresholds={thresholds}
            text={text}
          />
        ) : (
          <div className="flex min-h-0 flex-1 flex-col gap-3">
            <MatDrawing
              className="max-h-[27rem] min-h-0 w-full flex-1"
              course={lesson.course}
              build={build}
              pose={tryCircumstances(lesson, start, 1).start}
              {...(watch ? { watch } : {})}
              label={`The mat of ${lesson.title} with the robot at start ${start}.`}
            />
            <p className="text-lg">
              The robot stands at start {start}. Say first what it will do, then run it.
            </p>
          </div>
        )}
      </Panel>
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel className="shrink-0 py-3">
          {toggle ? <div className="mb-2">{toggle}</div> : null}
          <div className="flex flex-wrap items-center gap-2">
            <Button main icon={Play} disabled={busy} onClick={() => void run()}>
              Run from {start} <kbd className="kbd">R</kbd>
            </Button>
            <div role="radiogroup" aria-label="Start" className="ml-auto flex gap-1">
              {lesson.course.starts.map((s) => (
                <button
                  key={s.name}
                  type="button"
                  role="radio"
                  aria-checked={start === s.name}
                  className={`size-11 rounded-lg border font-bold ${start === s.name ? 'border-sea bg-sea-soft text-sea' : 'border-edge'}`}
                  onClick={() => setStart(s.name)}
                >
                  {s.name}
                </button>
              ))}
            </div>
          </div>
          {speaks ? <SecondRobot second={second} lesson={lesson} start={start} /> : null}
          <div className="mt-2">
            <Prediction
              lesson={lesson}
              typed={typed}
              type={setTyped}
              outcome={rehearsal && ended ? outcomeOf(lesson, rehearsal) : null}
            />
          </div>
          {rehearsal ? (
            <div className="mt-2 flex flex-wrap gap-x-7 gap-y-1">
              {reading ? (
                <Fact
                  label={`${lesson.need.name} now`}
                  value={now === undefined || Number.isNaN(now) ? 'nothing' : formatNumber(now)}
                  unit={now === undefined || Number.isNaN(now) ? '' : reading.unit}
                />
              ) : null}
              <Fact label="speed now" value={formatNumber(signals?.speed?.values[sample], 0)} unit="mm/s" />
              {display ? <Fact label="display" value={display} /> : null}
              {word ? <Fact label={word.kind} value={word.text} /> : null}
              {valuesAt(rehearsal.evidence, sample).map(({ name, value }) => (
                <Fact key={name} label={name} value={value} />
              ))}
            </div>
          ) : null}
          {rehearsal && (previous || comparables.length > 0) ? (
            <Labelled beside label="compare with" className="mt-2 flex-wrap">
              <select
                className="input h-11 w-auto max-w-56"
                value={choice}
                onChange={(event) => void compare(event.target.value)}
              >
                <option value="">nothing</option>
                {previous ? <option value="before">the run before</option> : null}
                {comparables.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
              {compared ? <span className="text-brass">dashed</span> : null}
            </Labelled>
          ) : null}
        </Panel>
        <Panel scrolls title="Steps" className="flex-1" footer={footer}>
          <CurrentSteps text={text} current={line} over={line === 0 && rehearsal !== null} />
          <div className="mt-3 flex flex-col gap-3">
            {/* What came of it stands there at once: nobody waits for the playback. */}
            {rehearsal ? (
              <>
                <Ending run={rehearsal.run} />
                <Judgements lesson={lesson} judgements={rehearsal.judgements} />
                <LogTable log={rehearsal.run.log} />
              </>
            ) : (
              <>
                {before}
                {rehearsal ? null : <WhatIsChecked lesson={lesson} />}
              </>
            )}
          </div>
        </Panel>
      </div>
    </div>
  );
}
