import { useEffect, useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { trialVerdict, type StoredTrial } from '@vigilum/core/classroom';
import {
  measureFacts,
  measureSignal,
  measuresOf,
  runSeed,
  type FloorMeasure,
  type Lesson,
} from '@vigilum/core/lesson';
import { countOf, formatNumber, formatQuantity } from '@vigilum/core/quantity';
import { canRun, parseScript } from '@vigilum/core/script';
import { summarise } from '@vigilum/core/sensing';
import { sentenceOf } from '../../ui/sentenceOf.ts';
import { useRemoval } from '../../data/removal.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Fact, Figure, Panel } from '../../ui/Panel.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { ago, useNow } from '../../ui/time.ts';
import { VerdictChip } from '../../ui/verdict.tsx';
import { simulation } from '../../workers/simulation.ts';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { BrakingFit } from './BrakingFit.tsx';
import { FloorLine } from './FloorLine.tsx';
import { LogView } from './LogView.tsx';
import { allowed, valueOf } from './measured.ts';
import { measuredWords } from './measuredWords.ts';
import { TrialForm } from './TrialForm.tsx';
import { AdviceCard } from '../../tuning/AdviceCard.tsx';
import { FloorWalk, useFloorTuning } from './FloorWalk.tsx';

/** What the simulator says this script comes to, over the lesson's conditions, in the measure's unit. */
function usePrediction(context: StageContext, measure: FloorMeasure | undefined): number[] {
  const { record, known } = context;
  const { lesson, script } = record;
  const [found, setFound] = useState<number[]>([]);
  useEffect(() => {
    let stale = false;
    setFound([]);
    if (!measure || !script || !canRun(parseScript(script.text))) return;
    const predict = async () => {
      const values: number[] = [];
      for (let i = 0; i < Math.min(30, lesson.proof.runs) && !stale; i++) {
        const { evidence } = await simulation().replay(
          { lesson, known, text: script.text },
          runSeed(lesson.proof.seed, i),
        );
        values.push(
          (evidence.signals[measureSignal(lesson, measure)]?.values.at(-1) ?? NaN) /
            measureFacts[measure].perUnit,
        );
      }
      if (!stale) setFound(values.filter((value) => Number.isFinite(value) && Math.abs(value) < 10_000));
    };
    predict().catch((error) => toast.error(sentenceOf(error)));
    return () => {
      stale = true;
    };
  }, [lesson, known, script, measure]);
  return found;
}

function TrialRow({
  trial,
  path,
  number: nth,
  now,
  lesson,
}: {
  trial: StoredTrial;
  path: StageContext['path'];
  number: number;
  now: number;
  lesson: Lesson;
}) {
  const take = useRemoval('floor-trials', `Trial ${nth} removed.`, () => [
    { what: 'evidence', team: path.id, lesson: path.slug, part: 'trial' },
  ]);
  const verdict = trialVerdict(trial);
  const words = measuredWords(trial, lesson);
  return (
    <tr className="border-t border-line-soft">
      <th scope="row" className="text-left font-mono">
        {nth}
      </th>
      <td className="max-w-64 truncate text-right font-mono" title={words.full}>
        {words.short}
      </td>
      <td className="pl-4 text-right font-mono whitespace-nowrap">
        {trial.tookS === null ? '–' : formatQuantity(trial.tookS, 's')}
      </td>
      <td className="pl-4">
        <VerdictChip tone={toneOfTrial[verdict]}>{verdict}</VerdictChip>
      </td>
      <td className="max-w-32 truncate pl-3" title={trial.changed}>
        {trial.changed}
      </td>
      <td className="max-w-32 truncate pl-3" title={trial.note}>
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

const toneOfTrial = { kept: 'done', broken: 'fault', 'not judged': 'none' } as const;

const heads: [string, string][] = [
  ['trial', 'text-left'],
  ['measured', 'text-right'],
  ['took', 'text-right'],
  ['verdict', 'pl-4 text-left'],
  ['changed', 'pl-3 text-left'],
  ['note', 'pl-3 text-left'],
  ['when', 'pl-3 text-left'],
];

function Trials({ context, toggle }: { context: StageContext; toggle: ReactNode }) {
  const { record, trials } = context;
  const { lesson } = record;
  const now = useNow(15_000) + context.skew;
  const tuning = useFloorTuning(context);
  const measures = measuresOf(lesson);
  const [measure] = measures;
  const predicted = usePrediction(context, measure);
  const judged = trials.map(trialVerdict).filter((verdict) => verdict !== 'not judged');
  const good = judged.filter((verdict) => verdict === 'kept').length;
  const values = trials.flatMap((trial) => {
    const value = measure ? valueOf(trial, measure) : null;
    return value === null ? [] : [{ id: trial.id, value }];
  });
  const simulated = summarise(predicted);
  const measured = summarise(values.map(({ value }) => value));
  const scatter = (sd: number | null) => (sd === null ? undefined : `± ${formatNumber(sd)}`);
  const differs = simulated.mean === null || measured.mean === null ? null : measured.mean - simulated.mean;
  const unit = measure ? measureFacts[measure].unit.replace('deg', '°') : '';
  const unitWords = measure === 'past' ? 'mm past' : unit;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        {measure ? (
          <Panel className="shrink-0" title="Predicted and measured" aside={toggle}>
            <FloorLine
              measure={measure}
              band={allowed(lesson, measure)}
              predicted={predicted}
              trials={values}
            />
            <div className="mt-2 flex flex-wrap gap-8">
              <Fact
                label="predicted"
                value={formatNumber(simulated.mean)}
                unit={unitWords}
                note={scatter(simulated.sd)}
              />
              <Fact
                label="measured"
                value={formatNumber(measured.mean)}
                unit={unitWords}
                note={scatter(measured.sd)}
              />
              {differs === null ? null : (
                <Fact label="the floor differs by" value={formatNumber(differs)} unit={unit} />
              )}
            </div>
          </Panel>
        ) : null}
        <Panel
          title="Trials"
          aside={
            <>
              {measure
                ? `${predicted.length} simulated runs, ${values.length} on the floor`
                : countOf(trials.length, 'trial')}{' '}
              {measure ? null : toggle}
            </>
          }
          className="min-h-48 flex-1"
        >
          {trials.length === 0 ? (
            <p className="text-ink-2">
              Set the robot at start A, hands clear, run it, and log what it did. {lesson.floor.trials} trials
              are wanted.
            </p>
          ) : (
            <>
              <div className="relative shrink-0 overflow-x-auto">
                <table className="w-full">
                  <thead className="text-ink-2">
                    <tr>
                      {heads.map(([word, style]) => (
                        <th key={word} scope="col" className={`font-semibold ${style}`}>
                          {word}
                        </th>
                      ))}
                      <th scope="col">
                        <span className="sr-only">remove</span>
                      </th>
                    </tr>
                  </thead>
                  <tbody>
                    {trials.map((trial, i) => (
                      <TrialRow
                        key={trial.id}
                        path={context.path}
                        trial={trial}
                        number={i + 1}
                        now={now}
                        lesson={lesson}
                      />
                    ))}
                  </tbody>
                </table>
              </div>
              <FloorWalk tuning={tuning} />
              {measure === 'past' ? <BrakingFit context={context} /> : null}
            </>
          )}
        </Panel>
      </div>
      <Panel title="On the floor" aside={lesson.cautions[1]} className="max-lg:order-first">
        <div className="mb-4">
          <Figure
            label={`kept so far; ${lesson.floor.trials} trials wanted`}
            value={`${good}/${judged.length}`}
          />
        </div>
        {tuning.advice ? (
          <div className="mb-4">
            <AdviceCard advice={tuning.advice} />
          </div>
        ) : null}
        <TrialForm context={context} />
      </Panel>
    </div>
  );
}

const views = ['trials', 'log'] as const;

/** Stage 7: the real robot, by ruler, protractor, stopwatch and count, or by its own log, beside the prediction. */
export default function FloorStage() {
  const context = useStage();
  const [search, setSearch] = useSearchParams();
  const view = search.get('view') === 'log' ? 'log' : 'trials';
  const toggle = (
    <Choice
      label="How it is measured"
      options={views}
      words={{ trials: 'Trials by hand', log: 'A log of the robot' }}
      value={view}
      choose={(next) => setSearch(next === 'log' ? { view: 'log' } : {}, { replace: true })}
    />
  );
  return view === 'log' ? (
    <LogView context={context} toggle={toggle} />
  ) : (
    <Trials context={context} toggle={toggle} />
  );
}
