import { Trash2 } from 'lucide-react';
import { useMemo, type ReactNode } from 'react';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { asNumber, debounceSamples, DEBOUNCE_MS, tellTouch, touchEvents } from '@vigilum/core/sensing';
import type { StoredSweep } from '@vigilum/core/classroom';
import { Button } from '../ui/Button.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { Fact, Panel } from '../ui/Panel.tsx';
import { SaveAgain } from '../ui/SaveAgain.tsx';
import { ago, useNow } from '../ui/time.ts';
import { useKey } from '../ui/useKey.ts';
import { LiveFigure } from './LiveFigure.tsx';
import type { Reader } from './reader.ts';
import { StandInHand } from './StandInHand.tsx';
import { liveNote } from './SurfaceBoard.tsx';
import { useBurst } from './useBurst.ts';
import { RecordButton } from './RecordButton.tsx';
import { useWholeRecording } from '../data/queries.ts';
import { useRemoveReading, useSaveRecording } from './saves.ts';

const LONGEST_S = 20;

/** The bumper over time: what it said, what counts after debouncing, and each bump with how long it was held. */
function Timeline({
  raw,
  record,
  periodMs,
}: {
  raw: readonly boolean[];
  record: ReturnType<typeof touchEvents>;
  periodMs: number;
}) {
  const seconds = Math.max(1, (raw.length * periodMs) / 1000);
  const [w, h] = [1000, 270];
  const x = (i: number) => 134 + ((i * periodMs) / 1000 / seconds) * (w - 164);
  const trace = (states: readonly boolean[], top: number) => {
    let path = `M${x(0)} ${states[0] ? top : top + 50}`;
    for (let i = 1; i < states.length; i++)
      if (states[i] !== states[i - 1]) path += `H${x(i).toFixed(1)}V${states[i] ? top : top + 50}`;
    return `${path}H${x(states.length)}`;
  };
  const text = { fontSize: 21, fill: 'var(--ink-2)' };
  const every = seconds > 12 ? 4 : seconds > 5 ? 2 : 1;
  const holds = record.events.flatMap((event, i) => {
    const before = record.events.slice(0, i).findLast(({ is }) => is === 'press');
    return event.is === 'bump' && before ? [{ from: before.at, to: event.at }] : [];
  });
  return (
    <svg viewBox={`0 0 ${w} ${h}`} className="w-full" role="img" aria-label={tellTouch(record)}>
      <text x="2" y="54" {...text}>
        as it reads
      </text>
      <text x="2" y="134" {...text}>
        as it counts
      </text>
      <path d={trace(raw, 22)} fill="none" stroke="var(--brass)" strokeWidth="2.5" />
      <path d={trace(record.accepted, 102)} fill="none" stroke="var(--ink)" strokeWidth="3.5" />
      {holds.map(({ from, to }, k) => {
        const room = x(holds[k + 1]?.from ?? raw.length) - x(from);
        return (
          <g key={k} stroke="var(--sea)" strokeWidth="3">
            <path d={`M${x(from)} 166v12H${x(to)}v-12`} fill="none" />
            <text x={x(from)} y="206" fontSize="21" fontWeight="700" fill="var(--sea)" stroke="none">
              {room > 200
                ? `bump ${k + 1}, ${formatNumber(((to - from) * periodMs) / 1000, 2)} s`
                : room > 26
                  ? k + 1
                  : ''}
            </text>
          </g>
        );
      })}
      <path d={`M${x(0)} 226H${w - 20}`} stroke="var(--edge)" strokeWidth="1.5" />
      {Array.from({ length: Math.floor(seconds / every) + 1 }, (_, k) => k * every).map((s) => (
        <g key={s}>
          <path d={`M${x((s * 1000) / periodMs)} 222v8`} stroke="var(--edge)" strokeWidth="1.5" />
          <text x={x((s * 1000) / periodMs)} y="254" textAnchor="middle" {...text}>
            {s} s
          </text>
        </g>
      ))}
    </svg>
  );
}

const schools = [
  { word: 'pressed', says: 'true as long as it is held; for walls and for a stop button' },
  { word: 'released', says: 'true as long as it is free; for a cargo that is lifted off' },
  { word: 'bumped', says: 'pressed and then released, once; for a start button and for counting' },
];

/** Record what a bumper does: presses, releases, bumps, the longest hold, and contacts that chatter. */
export function TouchBoard({
  reader,
  recording: shown,
  next,
}: {
  reader: Reader;
  recording: StoredSweep | null;
  /** The way on, once enough is read. */
  next?: ReactNode;
}) {
  const { robot, fitting, sensor, room, skew } = reader;
  const recording = useWholeRecording(shown);
  const now = useNow(15_000) + skew;
  const burst = useBurst(robot.id, fitting.socket, reader.epoch);
  const save = useSaveRecording(robot.id);
  const remove = useRemoveReading('recordings', 'Recording removed.', robot.id);
  const periodMs = recording && !burst.taking ? recording.periodMs : sensor.samplePeriodMs;
  const middle = (sensor.min + sensor.max) / 2;
  const { raw, record } = useMemo(() => {
    const looks = burst.taking ? burst.taking.map(asNumber) : (recording?.values ?? []);
    const states = looks.map((v) => v !== null && v >= middle);
    return { raw: states, record: touchEvents(states, periodMs, { start: false }) };
  }, [burst.taking, recording, periodMs, middle]);
  const toggle = () => {
    if (burst.taking) return burst.finish();
    burst.take(Math.ceil((LONGEST_S * 1000) / sensor.samplePeriodMs), (looks, period) => {
      if (looks.length < 10) return;
      save.mutate({
        socket: fitting.socket,
        kind: sensor.kind,
        purpose: 'touch',
        periodMs: period,
        values: looks.map(asNumber),
      });
    });
  };
  useKey(' ', toggle);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="What the bumper did"
        aside={recording && !burst.taking ? ago(recording.at, now) : undefined}
        footer={
          <>
            <RecordButton
              burst={burst}
              busy={save.isPending}
              start={`Record, ${LONGEST_S} s at most`}
              toggle={toggle}
            />
            <SaveAgain save={save} what="The recording" />
            {recording && !burst.taking ? (
              <Button icon={Trash2} onClick={() => void remove(recording.id)}>
                Remove
              </Button>
            ) : null}
            {next}
          </>
        }
      >
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-2">
          <LiveFigure
            sensor={sensor}
            value={burst.live.latest}
            note={liveNote(burst.live.state, fitting.socket)}
          />
        </div>
        {room ? <StandInHand robotId={robot.id} surfaces={[]} room={room} kind="touch" /> : null}
        {raw.length > 1 ? (
          <Timeline raw={raw} record={record} periodMs={periodMs} />
        ) : (
          <div className="grid min-h-48 flex-1 place-items-center rounded-lg border border-dashed border-line text-center text-ink-2">
            <p>
              Nothing recorded yet.
              <br />
              Record, then press and let go a few times.
            </p>
          </div>
        )}
        {raw.length > 1 ? (
          <div className="mt-3 grid grid-cols-2 gap-4 sm:grid-cols-5">
            <Fact label="presses" value={String(record.presses)} />
            <Fact label="releases" value={String(record.releases)} />
            <Fact label="bumps" value={String(record.bumps)} />
            <Fact label="longest hold" value={formatNumber(record.longestHoldS, 2)} unit="s" />
            <Fact label="too short to count" value={String(record.chatter)} />
          </div>
        ) : null}
      </Panel>
      <Panel title="Which one to wait for">
        <dl className="flex flex-col gap-2">
          {schools.map(({ word, says }) => (
            <div key={word}>
              <dt className="font-bold">{word}</dt>
              <dd className="text-ink-2">{says}</dd>
            </div>
          ))}
        </dl>
        <p className="mt-3 text-ink-2">
          A change counts once it has lasted {DEBOUNCE_MS} ms, which is{' '}
          {countOf(debounceSamples(sensor.samplePeriodMs), 'look')} of this sensor.
        </p>
        {raw.length > 1 ? (
          <div className="mt-3">
            <FindingCard
              tone={record.chatter > 2 ? 'risk' : record.bumps > 0 ? 'done' : 'now'}
              says={tellTouch(record)}
              more={
                record.chatter > 2
                  ? 'Push the plug home and look at the contact; bumps are counted right all the same.'
                  : undefined
              }
            />
          </div>
        ) : null}
      </Panel>
    </div>
  );
}
