import { ChevronDown, ChevronUp } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { EDGE } from '@vigilum/core/classroom';
import { narrowestLine } from '@vigilum/core/lesson';
import { countOf, formatNumber, formatQuantity } from '@vigilum/core/quantity';
import { sensorWords, type Reading } from '@vigilum/core/sensing';
import {
  beyond,
  figures,
  gradeSeparation,
  judgeThreshold,
  recommend,
  byMethod,
  separation,
  stateChanges,
  takenFor,
  type Pair,
  type SurfaceFigures,
  MISREADS_POOR,
} from '@vigilum/core/threshold';
import { Labelled } from '../../ui/fields.tsx';
import { Button, IconButton } from '../../ui/Button.tsx';
import { Choice as Buttons } from '../../ui/Choice.tsx';
import { FindingCard } from '../../ui/Finding.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { useKey } from '../../ui/useKey.ts';
import { VerdictChip } from '../../ui/verdict.tsx';
import { robotNumbers } from '../../workings/robotNumbers.ts';
import { WorkingLink } from '../../workings/WorkingLink.tsx';
import type { StageContext } from '../../workspace/context.ts';
import { nextPath, NextStep } from '../../workspace/NextStage.tsx';
import { DecideChart } from './DecideChart.tsx';
import { aptWhen, shownValue, MethodsTable, methodWords, type Choice } from './MethodsTable.tsx';
import { useWholeRecording } from '../../data/queries.ts';
import { useSaveThreshold } from '../../reading/saves.ts';

/** Reasons that teachers give most often for another method; anything else can be typed. */
const usualReasons = [
  'the class works it out on the board',
  'the lesson teaches this method',
  'the light changes here',
  'there are rivals on the mat',
];

/** Where the levels stand in the chart: a change is drawn from the surface it starts at. */
function levelsOf(
  choice: { compare: string; value: number; leave?: number },
  pair: Pair,
  wanted: 'low' | 'high',
) {
  if (choice.compare === 'change')
    return [wanted === 'low' ? pair.high.mean - choice.value : pair.low.mean + choice.value];
  return choice.leave === undefined ? [choice.value] : [choice.value, choice.leave];
}

/** What the dead band saves on the team's own sweep, in a sentence. */
function overSweep(values: readonly Reading[], enter: number, leave: number, unit: string): string {
  const { two, single, at } = stateChanges(values, { enter, leave });
  const level = `a single level at ${formatNumber(at)} ${unit}`;
  return two === single
    ? `On the sweep they change state ${countOf(two, 'time')}, as ${level} would.`
    : `On the sweep they change state ${countOf(two, 'time')}; ${level} would ${countOf(single, 'time')}.`;
}

/** A threshold between two surfaces that are read: every method beside the others, and how safe each is. */
export function BetweenSurfaces({ context, pair }: { context: StageContext; pair: Pair }) {
  const { robot, record, threshold, sets, fitted } = context;
  // The split is found in every look of the sweep, not in those that a page is given to draw.
  const sweep = useWholeRecording(context.sweep);
  const { need, read } = record.lesson;
  const navigate = useNavigate();
  const next = nextPath(context) ?? `${context.base}/script`;
  const [wanted, setWanted] = useState<'low' | 'high'>(() =>
    pair.low.name === read.tasks[0]?.surface ? 'low' : 'high',
  );
  const others = useMemo(
    () =>
      sets
        .filter(({ surface }) => surface !== EDGE && !read.tasks.some((task) => task.surface === surface))
        .map((set) => figures({ ...set, name: set.surface }, pair.step))
        .filter((set): set is SurfaceFigures => set !== null),
    [sets, read.tasks, pair.step],
  );
  const edge = sets.find(({ surface }) => surface === EDGE);
  const { candidates, missing } = useMemo(
    () =>
      byMethod(pair, {
        wanted,
        others,
        ...(edge ? { edge: { ...edge, name: EDGE } } : {}),
        ...(sweep ? { sweep: sweep.values } : {}),
      }),
    [pair, wanted, others, edge, sweep],
  );
  const { best, because } = recommend(candidates, context.step?.part?.method);
  const step = fitted?.spec.step ?? 1;
  const range = { min: fitted?.spec.min ?? 0, max: fitted?.spec.max ?? 100 };
  const [choice, setChoice] = useState<Choice>(
    () => (threshold?.method as Choice | undefined) ?? best.method,
  );
  const [own, setOwn] = useState(() => (threshold?.method === 'own choice' ? threshold.value : best.value));
  const [reason, setReason] = useState(threshold?.reason ?? '');
  const candidate = candidates.find((c) => c.method === choice);
  const method: Choice = candidate?.method ?? 'own choice';
  const chosen = candidate ?? { compare: 'level' as const, value: own };
  const value = chosen.value;
  const safety = candidate?.safety ?? judgeThreshold(own, pair, wanted);
  const between = candidate !== undefined || (own > pair.low.mean && own < pair.high.mean);
  const same = threshold !== null && threshold.value === value && threshold.method === method;
  const other = method !== best.method;
  const name = wanted === 'low' ? pair.low.name : pair.high.name;
  const save = useSaveThreshold(robot.id);
  const accept = () => {
    if (!between || save.isPending) return;
    const [low, high] = read.tasks.map((task) => sets.find((s) => s.surface === task.surface)!.id);
    if (low === undefined || high === undefined) return;
    save.mutate(
      {
        socket: need.socket,
        value,
        method,
        setIds: [low, high],
        ...(candidate?.leave === undefined ? {} : { leave: candidate.leave }),
        reason: other ? reason.trim() : '',
      },
      { onSuccess: () => void navigate(next) },
    );
  };
  const nudge = (by: number) => {
    const from = candidate?.compare === 'level' ? value : candidate ? best.value : own;
    setOwn(Math.min(range.max, Math.max(range.min, Number((from + by * step).toFixed(6)))));
    setChoice('own choice');
  };
  useKey('Enter', accept);
  useKey('ArrowUp', () => nudge(1));
  useKey('ArrowDown', () => nudge(-1));
  const grade = gradeSeparation(separation(pair));
  const held =
    candidate?.leave !== undefined && sweep
      ? overSweep(sweep.values, candidate.value, candidate.leave, pair.unit)
      : null;
  const outside = beyond(wanted, pair, others);
  const mixed = candidate?.takenFor ?? takenFor(own, wanted, pair, others);
  const side =
    candidate?.side ??
    `${wanted === 'low' ? 'less' : 'more'} than ${formatQuantity(own, pair.unit, 2)} is the ${name}`;
  const shown = `${shownValue(chosen, wanted)} ${pair.unit}`.trim();
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_41.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel
          title={`Where should the robot say “${name}”?`}
          aside={
            <Buttons
              label="The robot looks for"
              options={['low', 'high']}
              value={wanted}
              choose={setWanted}
              words={{ low: pair.low.name, high: pair.high.name }}
            />
          }
          className="min-h-80! flex-1"
        >
          <DecideChart
            pair={pair}
            wanted={wanted}
            levels={levelsOf(chosen, pair, wanted)}
            range={range}
            label={shown}
            others={others}
            what={sensorWords[need.kind]}
          />
        </Panel>
        <Panel className="py-2.5 lg:max-h-72">
          <div className="flex items-center gap-3">
            <Figure
              label={
                chosen.compare === 'change'
                  ? 'wait for a change of'
                  : chosen.compare === 'pair'
                    ? 'enter | leave'
                    : 'threshold'
              }
              value={shownValue(chosen, wanted)}
              unit={pair.unit}
              tone="text-signal"
            />
            {chosen.compare === 'pair' ? null : (
              <div className="flex flex-col gap-1">
                <IconButton icon={ChevronUp} label="One more (↑)" className="px-3" onClick={() => nudge(1)} />
                <IconButton
                  icon={ChevronDown}
                  label="One less (↓)"
                  className="px-3"
                  onClick={() => nudge(-1)}
                />
              </div>
            )}
            <p className="min-w-0 flex-1 pl-2 leading-snug">
              <strong className="block first-letter:uppercase">{side}.</strong>
              <span className="text-ink-2">{aptWhen(method)}</span>
            </p>
          </div>
          {candidate ? (
            <dl className="mt-2 border-t border-line-soft pt-2" aria-label="Working">
              {candidate.working.map((w) => (
                <div key={w.label} className="flex flex-wrap justify-between gap-x-3">
                  <dt className="text-ink-2">{w.label}</dt>
                  <dd className="ml-auto font-mono">{w.line}</dd>
                </div>
              ))}
            </dl>
          ) : null}
        </Panel>
      </div>
      <Panel
        title="Methods of choosing"
        aside={
          grade === 'sound' ? (
            `the same ${pair.low.n + pair.high.n} readings, ${candidates.length} methods${candidates.some((c) => c.takenFor.length > 0) ? '; △ takes another surface for it' : ''}`
          ) : (
            <VerdictChip tone={grade === 'usable' ? 'risk' : 'fault'}>
              {grade === 'usable' ? 'surfaces close' : 'surfaces too close'}
            </VerdictChip>
          )
        }
        footer={
          <>
            <Button main disabled={!between || save.isPending} onClick={accept}>
              Use {shown} <kbd className="kbd">Enter</kbd>
            </Button>
            {other ? (
              <Labelled
                beside
                label={<>why not {methodWords[best.method].toLowerCase()}?</>}
                className="min-w-0 flex-1 max-sm:flex-wrap"
              >
                <input
                  className="input min-w-32 flex-1"
                  maxLength={200}
                  list="usual-reasons"
                  autoComplete="off"
                  placeholder="your reason, for the record"
                  value={reason}
                  onChange={(event) => setReason(event.target.value)}
                />
                <datalist id="usual-reasons">
                  {usualReasons.map((usual) => (
                    <option key={usual} value={usual} />
                  ))}
                </datalist>
              </Labelled>
            ) : null}
            {same ? (
              <NextStep inUse />
            ) : threshold ? (
              <span className="text-ink-2">
                in use: {shownValue({ ...threshold, leave: threshold.leave ?? undefined }, wanted)}{' '}
                {pair.unit}
              </span>
            ) : null}
          </>
        }
      >
        <MethodsTable
          pair={pair}
          wanted={wanted}
          candidates={candidates}
          missing={missing}
          own={{
            value: own,
            safety: judgeThreshold(own, pair, wanted),
            takenFor: takenFor(own, wanted, pair, others),
          }}
          best={best}
          choice={method}
          choose={setChoice}
        />
        <section className="mt-2 flex flex-col gap-3 border-t border-line-soft pt-3">
          {between ? (
            <FindingCard
              tone={
                mixed.length > 0
                  ? 'fault'
                  : Math.max(safety.misreadsLow, safety.misreadsHigh) >= MISREADS_POOR
                    ? 'risk'
                    : 'done'
              }
              says={
                candidate?.advice ??
                (mixed.length > 0
                  ? `It takes the ${mixed.join(' and the ')} for the ${name}.`
                  : `It survives a change of room light of ${formatNumber(safety.lightShift)} points.`)
              }
              more={held ?? (method === best.method ? because : undefined)}
            />
          ) : (
            <FindingCard
              tone="fault"
              says="Both surfaces lie on the same side of this value."
              more={`Choose a value from ${formatNumber(pair.low.mean)} to ${formatNumber(pair.high.mean)} ${pair.unit}.`}
            />
          )}
          {outside.length > 0 ? (
            <FindingCard
              tone="now"
              says={`No level tells the ${outside.join(' or the ')} from the ${name}.`}
              more={`It reads ${wanted === 'low' ? 'darker' : 'lighter'} still. Keep the robot away from it, or watch for two levels.`}
            />
          ) : null}
          <div className="-mt-2 flex flex-wrap gap-x-8">
            <WorkingLink
              sheet="line-speed"
              numbers={{
                ...robotNumbers({ kit: record.kit, build: record.build }, { socket: need.socket }),
                width: narrowestLine(record.lesson),
              }}
            >
              How fast over the line
            </WorkingLink>
            <WorkingLink sheet="steering" numbers={{ x1: pair.low.mean, x2: pair.high.mean }}>
              Steering from it
            </WorkingLink>
          </div>
        </section>
      </Panel>
    </div>
  );
}
