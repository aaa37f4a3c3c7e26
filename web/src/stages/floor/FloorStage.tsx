import { useEffect, useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { trialKept, type StoredTrial } from '@vigilum/core/classroom';
import { evidenceOfMeasured, judge, pastSignal } from '@vigilum/core/expect';
import { runSeed } from '@vigilum/core/lesson';
import { formatNumber, formatQuantity, typedNumber } from '@vigilum/core/quantity';
import { canRun, parseScript } from '@vigilum/core/script';
import { summarise } from '@vigilum/core/sensing';
import { post } from '../../data/api.ts';
import { sentenceOf, useChange } from '../../data/queries.ts';
import { useRemoval } from '../../data/removal.ts';
import { Judgements } from '../../run/Judgements.tsx';
import { Fact, Figure, Panel } from '../../ui/Panel.tsx';
import { ago, useNow } from '../../ui/time.ts';
import { VerdictChip } from '../../ui/verdict.tsx';
import { simulation } from '../../workers/simulation.ts';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { FloorLine } from './FloorLine.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';

interface Form {
  past: string;
  short: 'past' | 'short';
  rested: 'yes' | 'no';
  took: string;
  note: string;
}

const number = typedNumber;

/** Where the simulator says this script stops, over the lesson's conditions. */
function usePrediction(context: StageContext): number[] {
  const { record, known } = context;
  const { lesson, script } = record;
  const [stops, setStops] = useState<number[]>([]);
  useEffect(() => {
    let stale = false;
    if (!script || !canRun(parseScript(script.text))) {
      setStops([]);
      return;
    }
    const predict = async () => {
      const found: number[] = [];
      for (let i = 0; i < lesson.proof.runs && !stale; i++) {
        const { evidence } = await simulation().replay(
          { lesson, known, text: script.text },
          runSeed(lesson.proof.seed, i),
        );
        found.push(evidence.signals[pastSignal(lesson.floor.landmark)]?.values.at(-1) ?? NaN);
      }
      if (!stale) setStops(found.filter(Number.isFinite));
    };
    predict().catch((error) => toast.error(sentenceOf(error)));
    return () => {
      stale = true;
    };
  }, [lesson, known, script]);
  return stops;
}

function TrialForm({ context }: { context: StageContext }) {
  const { api, record, trials } = context;
  const { lesson } = record;
  const save = useChange((body: object) => post(`${api}/floor-trials`, body));
  const { register, handleSubmit, watch, reset, formState } = useForm<Form>({
    defaultValues: { past: '', short: 'past', rested: 'yes', took: '', note: '' },
    mode: 'onTouched',
  });
  const seen = watch();
  const pastMm = (seen.short === 'short' ? -1 : 1) * number(seen.past);
  const took = seen.took.trim() === '' ? null : number(seen.took);
  const good =
    seen.past.trim() !== '' &&
    Number.isFinite(pastMm) &&
    Math.abs(pastMm) <= 10_000 &&
    (took === null || (took >= 0 && took <= 3600));
  const judgements = useMemo(() => {
    if (!good) return null;
    const evidence = evidenceOfMeasured({
      landmark: lesson.floor.landmark,
      pastMm,
      rested: seen.rested === 'yes',
      tookS: took,
    });
    return lesson.expectations.map((e) => judge(e, evidence));
  }, [good, pastMm, took, seen.rested, lesson]);
  const submit = handleSubmit((form) =>
    save.mutateAsync({ pastMm, rested: form.rested === 'yes', tookS: took, note: form.note.trim() }).then(
      () => reset(),
      () => undefined,
    ),
  );
  const { errors } = formState;
  const field = 'flex min-w-0 flex-col gap-0.5';
  return (
    <form onSubmit={(event) => void submit(event)} className="flex flex-1 flex-col gap-3" noValidate>
      <div className="grid grid-cols-2 gap-3">
        <label className={field}>
          <span className="text-ink-2">from the near edge, mm</span>
          <input
            className="input w-full font-mono text-xl"
            inputMode="decimal"
            autoComplete="off"
            aria-invalid={!!errors.past}
            {...register('past', {
              validate: (text) =>
                (Number.isFinite(number(text)) &&
                  text.trim() !== '' &&
                  number(text) >= 0 &&
                  number(text) <= 10_000) ||
                'Millimetres by ruler, 0 to 10000.',
            })}
          />
          {errors.past ? <span className="text-fault">{errors.past.message}</span> : null}
        </label>
        <fieldset className={field}>
          <legend className="mb-0.5 text-ink-2">the sensor stands</legend>
          <div className="flex min-h-11 items-center gap-4">
            {(['past', 'short'] as const).map((word) => (
              <label key={word} className="flex min-h-11 items-center gap-2">
                <input type="radio" className="size-5 accent-(--sea)" value={word} {...register('short')} />{' '}
                {word === 'past' ? 'past it' : 'short'}
              </label>
            ))}
          </div>
        </fieldset>
        <fieldset className={field}>
          <legend className="mb-0.5 text-ink-2">came to rest by itself</legend>
          <div className="flex min-h-11 items-center gap-4">
            {(['yes', 'no'] as const).map((word) => (
              <label key={word} className="flex min-h-11 items-center gap-2">
                <input type="radio" className="size-5 accent-(--sea)" value={word} {...register('rested')} />{' '}
                {word}
              </label>
            ))}
          </div>
        </fieldset>
        <label className={field}>
          <span className="text-ink-2">stopwatch, s (if taken)</span>
          <input
            className="input w-full font-mono"
            inputMode="decimal"
            autoComplete="off"
            aria-invalid={!!errors.took}
            {...register('took', {
              validate: (text) =>
                text.trim() === '' || (number(text) >= 0 && number(text) <= 3600) || 'Seconds, 0 to 3600.',
            })}
          />
          {errors.took ? <span className="text-fault">{errors.took.message}</span> : null}
        </label>
      </div>
      <label className={field}>
        <span className="text-ink-2">note</span>
        <input className="input w-full" maxLength={200} autoComplete="off" {...register('note')} />
      </label>
      {judgements ? (
        <Judgements lesson={lesson} judgements={judgements} />
      ) : (
        <p className="text-ink-2">Measure from the near edge of the line to the spot under the sensor.</p>
      )}
      <div>
        <button type="submit" className="btn btn-primary" disabled={save.isPending}>
          Log trial {trials.length + 1}
        </button>
      </div>
    </form>
  );
}

function TrialRow({ trial, number: nth, now }: { trial: StoredTrial; number: number; now: number }) {
  const take = useRemoval('floor-trials', `Trial ${nth} removed.`);
  return (
    <tr className="border-t border-line-soft">
      <th scope="row" className="text-left font-mono">
        {nth}
      </th>
      <td className="text-right font-mono">
        {formatQuantity(Math.abs(trial.pastMm), 'mm', 0)} {trial.pastMm < 0 ? 'short' : 'past'}
      </td>
      <td className="text-right font-mono">
        {trial.tookS === null ? 'not taken' : formatQuantity(trial.tookS, 's')}
      </td>
      <td className="pl-4">
        <VerdictChip tone={trialKept(trial) ? 'done' : 'fault'}>
          {trialKept(trial) ? 'kept' : 'broken'}
        </VerdictChip>
      </td>
      <td className="max-w-40 truncate pl-3" title={trial.note}>
        {trial.note}
      </td>
      <td className="pl-3 whitespace-nowrap text-ink-2">
        {trial.scriptVersion === null ? '' : `script ${trial.scriptVersion}, `}
        {ago(trial.at, now)}
      </td>
      <td className="text-right">
        <RemoveButton title={`Remove trial ${nth}`} onClick={() => void take(trial.id)} />
      </td>
    </tr>
  );
}

/** Stage 7: the real robot, by ruler and stopwatch, beside the prediction. */
export default function FloorStage() {
  const context = useStage();
  const { record, trials } = context;
  const { lesson } = record;
  const now = useNow(15_000) + context.skew;
  const predicted = usePrediction(context);
  const stop = lesson.expectations.find((e) => e.kind === 'stops past');
  const good = trials.filter(trialKept).length;
  const simulated = summarise(predicted);
  const measured = summarise(trials.map((t) => t.pastMm));
  const scatter = (sd: number | null) => (sd === null ? undefined : `± ${formatNumber(sd)}`);
  const differs = simulated.mean === null || measured.mean === null ? null : measured.mean - simulated.mean;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel
          className="shrink-0"
          title="Predicted and measured"
          aside={`${predicted.length} simulated stops, ${trials.length} on the floor`}
        >
          <FloorLine withinMm={stop?.withinMm ?? 30} predicted={predicted} trials={trials} />
          <div className="mt-2 flex flex-wrap gap-8">
            <Fact
              label="predicted"
              value={formatNumber(simulated.mean)}
              unit="mm past"
              note={scatter(simulated.sd)}
            />
            <Fact
              label="measured"
              value={formatNumber(measured.mean)}
              unit="mm past"
              note={scatter(measured.sd)}
            />
            {differs === null ? null : (
              <Fact label="the floor differs by" value={formatNumber(differs)} unit="mm" />
            )}
          </div>
        </Panel>
        <Panel title="Trials" aside={trials.length === 0 ? 'none yet' : undefined} className="flex-1">
          {trials.length === 0 ? (
            <p className="text-ink-2">
              Set the robot at start A, hands clear, run it, and log where it stopped. {lesson.floor.trials}{' '}
              trials are wanted.
            </p>
          ) : (
            <div className="relative overflow-x-auto">
              <table className="w-full">
                <thead className="text-ink-2">
                  <tr>
                    <th scope="col" className="text-left font-semibold">
                      trial
                    </th>
                    <th scope="col" className="text-right font-semibold">
                      stopped
                    </th>
                    <th scope="col" className="text-right font-semibold">
                      took
                    </th>
                    <th scope="col" className="pl-4 text-left font-semibold">
                      verdict
                    </th>
                    <th scope="col" className="pl-3 text-left font-semibold">
                      note
                    </th>
                    <th scope="col" className="pl-3 text-left font-semibold">
                      when
                    </th>
                    <th scope="col">
                      <span className="sr-only">remove</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {trials.map((trial, i) => (
                    <TrialRow key={trial.id} trial={trial} number={i + 1} now={now} />
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </Panel>
      </div>
      <Panel title="On the floor" aside={lesson.cautions[1]} className="max-lg:order-first">
        <div className="mb-4">
          <Figure
            label={`kept so far; ${lesson.floor.trials} trials wanted`}
            value={`${good}/${trials.length}`}
          />
        </div>
        <TrialForm context={context} />
      </Panel>
    </div>
  );
}
