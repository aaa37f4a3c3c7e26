import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { formatFixed, formatNumber } from '@vigilum/core/quantity';
import {
  gradeSeparation,
  judgeThreshold,
  pairOf,
  recommend,
  separation,
  thresholdWays,
  type Pair,
  type Safety,
  type Way,
} from '@vigilum/core/threshold';
import { post } from '../../data/api.ts';
import { useChange } from '../../data/queries.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Fact, Figure, Panel } from '../../ui/Panel.tsx';
import { Empty } from '../../ui/states.tsx';
import { useKey } from '../../ui/useKey.ts';
import { VerdictChip } from '../../ui/verdict.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { DecideChart } from './DecideChart.tsx';

type Choice = Way['way'] | 'own choice';

const wayWords: Record<Choice, string> = {
  halfway: 'Halfway',
  'fewest misreads': 'Fewest misreads',
  'own choice': 'Own choice',
};

/** Misreads in a thousand: whole numbers when many, "<0.1" when next to none. */
const perThousand = (misreads: number): string =>
  misreads < 0.05 ? '<0.1' : misreads < 10 ? formatFixed(misreads, 1) : formatFixed(misreads, 0);

function WayRow({
  name,
  value,
  safety,
  chosen,
  choose,
  best,
}: {
  name: Choice;
  value: number;
  safety: Safety;
  chosen: boolean;
  choose: () => void;
  best: boolean;
}) {
  return (
    <tr className={`border-t border-line-soft ${chosen ? 'bg-sea-soft' : ''}`}>
      <th
        scope="row"
        className={`text-left font-normal ${chosen ? 'border-l-4 border-l-sea' : 'border-l-4 border-l-transparent'}`}
      >
        <label className="flex min-h-12 cursor-pointer items-center gap-2 pl-2">
          <input
            type="radio"
            name="way"
            className="size-5 shrink-0 accent-(--sea)"
            checked={chosen}
            onChange={choose}
          />
          <span className={chosen ? 'font-bold' : ''}>
            {wayWords[name]}
            {best ? (
              <span className="block text-sm leading-tight font-normal whitespace-nowrap text-done">
                recommended
              </span>
            ) : null}
          </span>
        </label>
      </th>
      <td className="text-right font-mono">{formatNumber(value)}</td>
      <td className="text-right font-mono">{perThousand(safety.misreadsLow)}</td>
      <td className="text-right font-mono">{perThousand(safety.misreadsHigh)}</td>
      <td className="pr-2 text-right font-mono">{formatNumber(safety.lightShift)}</td>
    </tr>
  );
}

function Ready({ context, pair }: { context: StageContext; pair: Pair }) {
  const { robot, record, threshold, sets, fitted } = context;
  const navigate = useNavigate();
  const ways = thresholdWays(pair);
  const { way: best, because } = recommend(ways);
  const step = fitted?.spec.step ?? 1;
  const range = { min: fitted?.spec.min ?? 0, max: fitted?.spec.max ?? 100 };
  const [choice, setChoice] = useState<Choice>(() => (threshold?.way as Choice | undefined) ?? best.way);
  const [own, setOwn] = useState(() => (threshold?.way === 'own choice' ? threshold.value : best.value));
  const way = ways.find((w) => w.way === choice);
  const value = way?.value ?? own;
  const safety = judgeThreshold(value, pair);
  const between = value > pair.low.mean && value < pair.high.mean;
  const same = threshold !== null && threshold.value === value && threshold.way === choice;
  const save = useChange((body: object) => post(`/robots/${robot.id}/thresholds`, body));
  const accept = () => {
    if (!between || save.isPending) return;
    const setIds = record.lesson.read.tasks.map((task) => sets.find((s) => s.surface === task.surface)!.id);
    save.mutate(
      { socket: record.lesson.need.socket, value, way: choice, setIds },
      { onSuccess: () => void navigate('../script', { relative: 'path' }) },
    );
  };
  const nudge = (by: number) => {
    const from = way ? value : own;
    setOwn(Math.min(range.max, Math.max(range.min, Number((from + by * step).toFixed(6)))));
    setChoice('own choice');
  };
  useKey('Enter', accept);
  useKey('ArrowUp', () => nudge(1));
  useKey('ArrowDown', () => nudge(-1));
  const grade = gradeSeparation(separation(pair));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel
          title={`Where should the robot say “${pair.low.name}”?`}
          aside="green bar: less than 1 misread in 1000 on either side"
          className="flex-1"
        >
          <DecideChart
            pair={pair}
            value={value}
            range={range}
            says={`less than this is the ${pair.low.name}`}
          />
        </Panel>
        <Panel className="shrink-0 py-2.5">
          <div className="grid grid-cols-[auto_1fr_1fr] items-end gap-6 max-sm:grid-cols-1">
            <div className="flex items-center gap-3">
              <Figure label="threshold" value={formatNumber(value)} unit={pair.unit} tone="text-signal" />
              <div className="flex flex-col gap-1">
                <button
                  type="button"
                  className="btn btn-plain px-3"
                  onClick={() => nudge(1)}
                  title="One more (↑)"
                >
                  <ChevronUp size={20} aria-hidden="true" />
                  <span className="sr-only">One more</span>
                </button>
                <button
                  type="button"
                  className="btn btn-plain px-3"
                  onClick={() => nudge(-1)}
                  title="One less (↓)"
                >
                  <ChevronDown size={20} aria-hidden="true" />
                  <span className="sr-only">One less</span>
                </button>
              </div>
            </div>
            <Fact
              label={`margin to the ${pair.low.name}`}
              value={formatNumber(safety.marginLow)}
              unit="points"
              note={`${formatNumber(safety.marginLowSds, 0)} × its scatter`}
            />
            <Fact
              label={`margin to the ${pair.high.name}`}
              value={formatNumber(safety.marginHigh)}
              unit="points"
              note={`${formatNumber(safety.marginHighSds, 0)} × its scatter`}
            />
          </div>
        </Panel>
      </div>
      <Panel
        title="Ways to choose"
        aside={
          grade === 'sound' ? (
            `same ${pair.low.n + pair.high.n} readings`
          ) : (
            <VerdictChip tone={grade === 'usable' ? 'risk' : 'fault'}>
              {grade === 'usable' ? 'surfaces close' : 'surfaces too close'}
            </VerdictChip>
          )
        }
        footer={
          <>
            <button
              type="button"
              className="btn btn-primary"
              disabled={!between || save.isPending}
              onClick={accept}
            >
              Use {formatNumber(value)} {pair.unit} <kbd className="kbd">Enter</kbd>
            </button>
            {same ? (
              <NextStage to="script">In use: on to Script</NextStage>
            ) : threshold ? (
              <span className="text-ink-2">
                in use: {formatNumber(threshold.value)} {pair.unit}
              </span>
            ) : null}
          </>
        }
      >
        <table className="w-full">
          <thead className="text-ink-2">
            <tr>
              <td colSpan={2} />
              <th
                scope="colgroup"
                colSpan={2}
                className="text-right text-sm leading-tight font-semibold whitespace-nowrap"
              >
                misreads in 1000
              </th>
              <td />
            </tr>
            <tr className="align-bottom text-sm leading-tight">
              <th scope="col" className="pb-1 pl-1 text-left font-semibold">
                way
              </th>
              <th scope="col" className="pb-1 text-right font-semibold">
                value, {pair.unit}
              </th>
              <th scope="col" className="pb-1 pl-3 text-right font-semibold">
                {pair.low.name}
              </th>
              <th scope="col" className="pb-1 pl-3 text-right font-semibold">
                {pair.high.name}
              </th>
              <th scope="col" className="pr-2 pb-1 pl-3 text-right font-semibold">
                light shift survived
              </th>
            </tr>
          </thead>
          <tbody>
            {ways.map((w) => (
              <WayRow
                key={w.way}
                name={w.way}
                value={w.value}
                safety={w.safety}
                chosen={choice === w.way}
                choose={() => setChoice(w.way)}
                best={w.way === best.way}
              />
            ))}
            <WayRow
              name="own choice"
              value={own}
              safety={judgeThreshold(own, pair)}
              chosen={choice === 'own choice'}
              choose={() => setChoice('own choice')}
              best={false}
            />
          </tbody>
        </table>
        <details className="mt-3 border-t border-line-soft pt-2" open>
          <summary className="min-h-11 cursor-pointer py-2.5 font-bold">Working</summary>
          {way ? (
            <dl className="mt-1 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 gap-y-0.5">
              {way.working.map((w) => (
                <div key={w.label} className="contents">
                  <dt className="text-ink-2">{w.label}</dt>
                  <dd className="text-right font-mono">{w.line}</dd>
                </div>
              ))}
            </dl>
          ) : (
            <p className="text-ink-2">
              Chosen by you. {between ? '' : 'It does not lie between the two surfaces.'}
            </p>
          )}
        </details>
        <div className="mt-3">
          {between ? (
            <FindingCard
              tone={Math.max(safety.misreadsLow, safety.misreadsHigh) >= 10 ? 'risk' : 'done'}
              says={
                way?.advice ??
                `It survives a change of room light of ${formatNumber(safety.lightShift)} points.`
              }
              more={way && way.way === best.way ? because : undefined}
            />
          ) : (
            <FindingCard
              tone="fault"
              says="Both surfaces lie on the same side of this value."
              more={`Choose a value from ${formatNumber(pair.low.mean)} to ${formatNumber(pair.high.mean)} ${pair.unit}.`}
            />
          )}
        </div>
      </Panel>
    </div>
  );
}

/** Stage 3: readings become a threshold, and everybody sees how safe it is. */
export default function DecideStage() {
  const context = useStage();
  const { record, pair, sets } = context;
  if (pair) return <Ready key={sets.map((s) => s.id).join()} context={context} pair={pair} />;
  const { tasks } = record.lesson.read;
  const missing = tasks.filter((task) => !sets.some((s) => s.surface === task.surface));
  const [a, b] = tasks.map((task) => ({
    name: task.surface,
    values: sets.find((s) => s.surface === task.surface)?.values ?? [],
  }));
  const why = pairOf(a!, b!, '%', 1);
  return (
    <Panel className="flex-1">
      <Empty
        title={
          missing.length > 0
            ? `Not read yet: ${missing.map((task) => task.surface).join(', ')}.`
            : why.ok
              ? ''
              : why.says
        }
      >
        <p>
          {missing.length > 0
            ? 'A threshold lies between two surfaces, so both must be read first.'
            : why.ok
              ? ''
              : why.mend}
        </p>
        <NextStage to="read">Go to Read</NextStage>
      </Empty>
    </Panel>
  );
}
