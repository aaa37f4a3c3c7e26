import { MoveRight, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { Pose } from '@vigilum/core/motion';
import { countOf, formatFixed, formatNumber } from '@vigilum/core/quantity';
import { asNumber, sensorWords } from '@vigilum/core/sensing';
import { otsuSplit, plateaus, sweepLevels } from '@vigilum/core/threshold';
import type { StoredSweep } from '@vigilum/core/classroom';
import { toast } from 'sonner';
import { Button } from '../ui/Button.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { Panel } from '../ui/Panel.tsx';
import { SaveAgain } from '../ui/SaveAgain.tsx';
import { ago, useNow } from '../ui/time.ts';
import { useKey } from '../ui/useKey.ts';
import { LiveFigure } from './LiveFigure.tsx';
import { MatBoard } from './MatBoard.tsx';
import type { Reader } from './reader.ts';
import { useHand } from './StandInHand.tsx';
import { liveNote } from './SurfaceBoard.tsx';
import { SweepChart } from './SweepChart.tsx';
import { useBurst } from './useBurst.ts';
import { RecordButton } from './RecordButton.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useWholeRecording } from '../data/queries.ts';
import { useRemoveReading, useSaveRecording } from './saves.ts';

/** The longest sweep that is recorded, looks. */
const LONGEST = 4000;
const DRAG_S = 8;

/** Drag slowly across everything: the record, the surfaces met in it, and where it splits. */
export function SweepBoard({ reader, sweep: shown }: { reader: Reader; sweep: StoredSweep | null }) {
  const sweep = useWholeRecording(shown);
  const { robot, fitting, sensor, room, skew } = reader;
  const now = useNow(15_000) + skew;
  const burst = useBurst(robot.id, fitting.socket, reader.epoch);
  const save = useSaveRecording(robot.id);
  const remove = useRemoveReading('recordings', 'Sweep removed.', robot.id);
  const values = useMemo(
    () => (burst.taking ? burst.taking.map(asNumber) : (sweep?.values ?? [])),
    [burst.taking, sweep],
  );
  const periodMs = burst.taking ? sensor.samplePeriodMs : (sweep?.periodMs ?? sensor.samplePeriodMs);
  const found = useMemo(() => {
    const stretches = plateaus(values, sensor.step);
    return {
      stretches,
      levels: sweepLevels(stretches, Math.max(4, 3 * sensor.step)),
      split: otsuSplit(values),
    };
  }, [values, sensor.step]);
  const split = found.split.ok ? found.split.value : null;
  const start = () =>
    burst.take(LONGEST, (looks, period) => {
      if (looks.length < 10) {
        toast.error('Too short: a sweep needs at least ten looks. Drag more slowly.');
        return;
      }
      save.mutate({
        socket: fitting.socket,
        kind: sensor.kind,
        purpose: 'sweep',
        periodMs: period,
        values: looks.map(asNumber),
      });
    });
  const toggle = () => (burst.taking ? burst.finish() : start());
  useKey(' ', toggle);
  const hand = useHand(robot.id);
  const [pose, setPose] = useState<Pose | null>(null);
  const dragForMe = async () => {
    if (!room) return;
    const { course } = room;
    const x = course.widthMm / 2;
    const top = course.heightMm - 60 - fitting.aheadMm;
    const from = { xMm: x, yMm: Math.max(0, top - 420), bearingDeg: 0 };
    if (!(await hand({ put: 'at', ...from }))) return;
    setPose(from);
    start();
    if (!(await hand({ put: 'drag', toXMm: x, toYMm: top, seconds: DRAG_S }))) return burst.finish();
    setTimeout(
      () => {
        burst.finish();
        setPose({ ...from, yMm: top });
      },
      DRAG_S * 1000 + 400,
    );
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="A slow drag over everything" aside="at least a second on each surface">
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-2">
          <LiveFigure
            sensor={sensor}
            value={burst.live.latest}
            note={liveNote(burst.live.state, fitting.socket)}
          />
          {sweep && !burst.taking ? (
            <Button icon={Trash2} className="ml-auto" onClick={() => void remove(sweep.id)}>
              Remove the sweep
            </Button>
          ) : null}
        </div>
        {values.length > 1 ? (
          <SweepChart
            values={values}
            periodMs={periodMs}
            plateaus={found.stretches}
            split={split?.exact ?? null}
            range={sensor}
            unit={sensor.unit}
            what={sensorWords[sensor.kind]}
          />
        ) : (
          <div className="grid min-h-64 flex-1 place-items-center rounded-lg border border-dashed border-line text-center text-ink-2">
            <p>
              Nothing recorded yet.
              <br />
              Start, then drag the sensor slowly across all surfaces.
            </p>
          </div>
        )}
      </Panel>
      <Panel
        title="What the sweep met"
        aside={
          sweep && !burst.taking
            ? `${countOf(sweep.values.length, 'look')}, ${ago(sweep.at, now)}`
            : undefined
        }
        footer={
          <>
            <RecordButton burst={burst} busy={save.isPending} start="Start the sweep" toggle={toggle} />
            <SaveAgain save={save} what="The sweep" />
            {room && !burst.taking ? (
              <Button
                icon={MoveRight}
                disabled={burst.live.state !== 'live'}
                onClick={() => void dragForMe()}
              >
                Drag it for me
              </Button>
            ) : null}
          </>
        }
      >
        {room ? (
          <MatBoard
            robotId={robot.id}
            build={reader.build}
            course={room.course}
            pose={pose}
            setPose={setPose}
            watch={fitting}
            turns={false}
          />
        ) : null}
        {burst.taking ? (
          <p className="font-bold" role="status">
            Recording: {countOf(burst.taking.length, 'look')}
          </p>
        ) : null}
        {found.levels.length > 0 ? (
          <table className="w-full">
            <TableHead columns={[`level, ${sensor.unit}`, '|looks', '|met']} />
            <tbody>
              {found.levels.map((level) => (
                <tr key={level.mean} className="h-11 border-t border-line-soft">
                  <td className="font-mono text-xl font-bold">{formatFixed(level.mean, 1)}</td>
                  <td className="text-right font-mono">{level.n}</td>
                  <td className="text-right">{countOf(level.times, 'time')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : null}
        <div className="mt-4 flex flex-col gap-3">
          {split ? (
            <FindingCard
              tone={split.doubt ? 'risk' : 'done'}
              says={`It splits at ${formatNumber(split.exact)} ${sensor.unit}.`}
              more={
                split.doubt ||
                `Below it ${countOf(split.lower.n, 'look')} around ${formatNumber(split.lower.mean)}, above it ${split.upper.n} around ${formatNumber(split.upper.mean)}; that explains ${formatNumber(100 * split.eta, 0)} % of the variance.`
              }
            />
          ) : values.length > 9 && !found.split.ok ? (
            <FindingCard tone="fault" says={found.split.says} more={found.split.mend} />
          ) : null}
          {found.levels.length > 2 ? (
            <FindingCard
              tone="now"
              says={`${found.levels.length} levels, not two.`}
              more="Read each surface by itself and choose between the wanted one and its nearest rival."
            />
          ) : null}
        </div>
      </Panel>
    </div>
  );
}
