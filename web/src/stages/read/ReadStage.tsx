import { Trash2 } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { formatFixed, formatNumber } from '@vigilum/core/quantity';
import { summarise, warnAboutPair, warnAboutSet, type Reading } from '@vigilum/core/sensing';
import { gradeSeparation, separation } from '@vigilum/core/threshold';
import { post } from '../../data/api.ts';
import { useLiveReadings } from '../../data/live.ts';
import { useChange } from '../../data/queries.ts';
import { useRemoval } from '../../data/removal.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { ago, useNow } from '../../ui/time.ts';
import { useKey } from '../../ui/useKey.ts';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { SetsChart, type ShownSet } from './SetsChart.tsx';
import { StandInHand } from './StandInHand.tsx';

const separationWords = {
  sound: 'Far apart: any value well between them works.',
  usable: 'Apart, but not by much: choose the threshold with care.',
  poor: 'Too close: the robot will often take one for the other.',
};

/** One surface: choose it, see what was read, take it back. */
function SurfaceRow({
  context,
  surface,
  how,
  chosen,
  choose,
}: {
  context: StageContext;
  surface: string;
  how: string;
  chosen: boolean;
  choose: () => void;
}) {
  const now = useNow(15_000) + context.skew;
  const set = context.sets.find((s) => s.surface === surface);
  const s = set && summarise(set.values);
  const range = context.fitted?.spec ?? { min: 0, max: 100 };
  const take = useRemoval('sample-sets', `Readings of the ${surface} removed.`);
  return (
    <li className={`rounded-lg border ${chosen ? 'border-sea bg-sea-soft' : 'border-line'}`}>
      <div className="flex items-center gap-2 pr-1">
        <label className="flex min-h-12 flex-1 cursor-pointer items-center gap-3 px-3 py-1.5">
          <input
            type="radio"
            name="surface"
            className="size-5 accent-(--sea)"
            checked={chosen}
            onChange={choose}
          />
          <span>
            <span className="block font-bold">{surface}</span>
            {s ? (
              <span className="text-ink-2">
                <span className="font-mono">
                  {formatFixed(s.mean, 1)}±{formatFixed(s.sd, 1)}
                </span>
                , n {s.n}, {ago(set.at, now)}
                {set.lightNote ? <span className="block">{set.lightNote}</span> : null}
              </span>
            ) : (
              <span className="text-ink-2">{how}</span>
            )}
          </span>
        </label>
        {set ? (
          <button
            type="button"
            className="grid size-11 place-items-center rounded-lg hover:bg-line-soft"
            title={`Remove the readings of the ${surface}`}
            onClick={() => void take(set.id)}
          >
            <Trash2 size={19} aria-hidden="true" />
            <span className="sr-only">Remove the readings of the {surface}</span>
          </button>
        ) : null}
      </div>
      {set
        ? warnAboutSet(set.values, range).map((warning) => (
            <div key={warning.says} className="px-3 pb-2">
              <FindingCard tone={warning.grade} says={warning.says} more={warning.mend} />
            </div>
          ))
        : null}
    </li>
  );
}

/** Stage 2: what the robot sees before anything is programmed. */
export default function ReadStage() {
  const context = useStage();
  const { robot, record, fitted, pair } = context;
  const { lesson, build } = record;
  const { tasks, burst } = lesson.read;
  const [surface, setSurface] = useState(
    () => (tasks.find((task) => !context.sets.some((s) => s.surface === task.surface)) ?? tasks[0]!).surface,
  );
  const [taken, setTaken] = useState<Reading[] | null>(null);
  const [lightNote, setLightNote] = useState(() => context.sets.at(-1)?.lightNote ?? '');
  const taking = useRef<Reading[] | null>(null);
  const save = useChange((body: object) => post(`/robots/${robot.id}/sample-sets`, body));

  const finish = (values: Reading[], over: string) => {
    taking.current = null;
    save.mutate(
      {
        socket: lesson.need.socket,
        kind: lesson.need.kind,
        surface: over,
        values,
        lightNote: lightNote.trim(),
      },
      {
        onSettled: () => setTaken(null),
        onSuccess: () => {
          const next = tasks.find(
            (task) => task.surface !== over && !context.sets.some((s) => s.surface === task.surface),
          );
          if (next) setSurface(next.surface);
        },
      },
    );
  };
  const live = useLiveReadings(robot.id, lesson.need.socket, JSON.stringify(build.fittings), (value) => {
    const values = taking.current;
    if (!values) return;
    values.push(value);
    setTaken([...values]);
    if (values.length >= burst) finish(values, surface);
  });
  const busy = taken !== null || save.isPending;
  const start = () => {
    if (busy || live.state !== 'live') return;
    taking.current = [];
    setTaken([]);
  };
  useKey(' ', start);

  const unit = fitted?.spec.unit ?? '%';
  const range = { min: fitted?.spec.min ?? 0, max: fitted?.spec.max ?? 100 };
  const shown = useMemo(
    () =>
      tasks.map((task): ShownSet => {
        const colour = task.role === 'dark' ? 'ink' : 'brass';
        if (taken && task.surface === surface) return { surface: task.surface, values: taken, colour };
        return {
          surface: task.surface,
          values: context.sets.find((s) => s.surface === task.surface)?.values ?? [],
          colour,
        };
      }),
    [tasks, context.sets, taken, surface],
  );
  const [a, b] = tasks.map((task) => context.sets.find((s) => s.surface === task.surface));
  const dPrime = pair && separation(pair);
  const value = live.latest;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="What the robot sees" aside="every dot is one reading">
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-2">
          <div className="flex items-baseline gap-2">
            <span className="inline-block min-w-[2.2ch] text-right text-figure leading-none font-mono font-bold">
              {typeof value === 'number' ? formatNumber(value, 0) : '–'}
            </span>
            <span className="text-xl text-ink-2">{value === null ? 'no reading' : unit}</span>
            <span className="text-ink-2">
              {live.state === 'live'
                ? `live from ${lesson.need.socket}`
                : live.state === 'gone'
                  ? 'the robot does not answer; trying again'
                  : 'listening …'}
            </span>
          </div>
          <StandInHand robotId={robot.id} surfaces={tasks.map((task) => task.surface)} />
        </div>
        <SetsChart sets={shown} range={range} unit={unit} live={value} />
      </Panel>
      <Panel
        title="Which surface?"
        aside="Put the robot there, then take its readings."
        footer={
          <>
            <button
              type="button"
              className="btn btn-primary"
              disabled={busy || live.state !== 'live'}
              onClick={start}
            >
              {taken ? `${taken.length} of ${burst} …` : `Take ${burst} readings`}{' '}
              <kbd className="kbd">Space</kbd>
            </button>
            {pair ? <NextStage to="decide">On to Decide</NextStage> : null}
          </>
        }
      >
        <ul className="flex flex-col gap-2">
          {tasks.map((task) => (
            <SurfaceRow
              key={task.surface}
              context={context}
              surface={task.surface}
              how={task.how}
              chosen={surface === task.surface}
              choose={() => setSurface(task.surface)}
            />
          ))}
        </ul>
        <label className="mt-3 flex flex-col gap-0.5">
          <span className="text-ink-2">light in the room, for the record</span>
          <input
            className="input w-full"
            maxLength={120}
            autoComplete="off"
            placeholder="blinds down, lamps on"
            value={lightNote}
            onChange={(event) => setLightNote(event.target.value)}
          />
        </label>
        <div className="mt-4 flex flex-col gap-3">
          {a && b
            ? warnAboutPair(a.values, b.values).map((w) => (
                <FindingCard key={w.says} tone={w.grade} says={w.says} more={w.mend} />
              ))
            : null}
          {dPrime ? (
            <FindingCard
              tone={{ sound: 'done', usable: 'risk', poor: 'fault' }[gradeSeparation(dPrime)] as 'done'}
              says={separationWords[gradeSeparation(dPrime)]}
              more={`The means differ by ${formatNumber(pair!.high.mean - pair!.low.mean)} points, ${formatNumber(dPrime)} times their scatter.`}
            />
          ) : null}
          {value === null ? (
            <FindingCard
              tone="fault"
              says={`${lesson.need.socket} gives no reading.`}
              more="Go back to Wire and check the plug."
            />
          ) : null}
        </div>
      </Panel>
    </div>
  );
}
