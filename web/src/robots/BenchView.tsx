import { useState } from 'react';
import {
  partName,
  sensorOf,
  sensorWords,
  summarise,
  type FittedSensor,
  type Kit,
} from '@vigilum/core/sensing';
import type { Pose } from '@vigilum/core/motion';
import { useBench, type LiveReadings } from '../data/live.ts';
import { Swatch, useShownSample } from '../reading/LiveFigure.tsx';
import { MatBoard } from '../reading/MatBoard.tsx';
import { MoreHands, StandInHand } from '../reading/StandInHand.tsx';
import { Choice } from '../ui/Choice.tsx';
import { lengthUnits, setLengthUnit, useLengthUnit } from '../ui/lengthUnit.ts';
import { Panel } from '../ui/Panel.tsx';
import { Sparkline } from '../ui/Sparkline.tsx';
import { RealDevice } from './RealDevice.tsx';
import { useRobotContext } from './RobotLayout.tsx';

/** What a wheel motor's own counter gives. */
const wheel: FittedSensor = {
  id: 'wheel',
  name: 'wheel counter',
  kind: 'wheel',
  unit: 'deg',
  min: -1e6,
  max: 1e6,
  step: 1,
  samplePeriodMs: 100,
};

const SHOWN = 120;
/** Kinds whose whole range says little about the last few looks. */
const wandering = ['heading', 'spin', 'wheel', 'rgb', 'beacon'];

function Tile({
  socket,
  label,
  name,
  sensor,
  live,
}: {
  socket: string;
  label: string | undefined;
  name: string;
  sensor: FittedSensor;
  live: LiveReadings | undefined;
}) {
  const { figure, unit } = useShownSample()(sensor, live?.latest, live?.rgb);
  const recent = (live?.recent ?? []).slice(-SHOWN);
  const s = summarise(recent);
  const range =
    wandering.includes(sensor.kind) && s.min !== null && s.max !== null
      ? { min: s.min - 5, max: s.max + 5 }
      : sensor;
  const long = figure.length > 8;
  return (
    <article
      className="panel flex min-w-0 flex-col px-4 py-2.5"
      aria-label={`${socket}, ${sensorWords[sensor.kind]}`}
    >
      <div className="flex items-baseline gap-x-2">
        <span className="font-mono text-lg font-bold">{socket}</span>
        {label ? <span className="text-ink-2">{label}</span> : null}
        <span className="truncate font-semibold">{sensorWords[sensor.kind]}</span>
        <span className="ml-auto shrink-0 text-ink-2">{name}</span>
      </div>
      <div className="flex flex-1 items-center gap-3">
        {live?.rgb ? <Swatch rgb={live.rgb} full={sensor.max} className="size-11" /> : null}
        <span
          className={`font-mono leading-none font-bold whitespace-nowrap ${live?.latest === null ? 'text-ink-2' : ''} ${long ? 'text-3xl' : 'text-figure'}`}
        >
          {figure}
        </span>
        <span className="text-xl text-ink-2">{unit}</span>
      </div>
      <Sparkline values={recent} min={range.min} max={range.max} className="h-9 w-full" />
    </article>
  );
}

/** The tiles of a robot's bench: every sensor and wheel counter, readable from two metres. */
function Tiles({
  kit,
  tiles,
  sockets,
}: {
  kit: Kit;
  tiles: { socket: string; sensor: FittedSensor; name: string }[];
  sockets: Record<string, LiveReadings>;
}) {
  return (
    <div className="grid min-h-0 flex-1 auto-rows-fr grid-cols-1 gap-3 overflow-auto sm:grid-cols-2">
      {tiles.map(({ socket, sensor, name }) => (
        <Tile
          key={socket}
          socket={socket}
          label={kit.sockets.find((s) => s.name === socket)?.label}
          name={name}
          sensor={sensor}
          live={sockets[socket]}
        />
      ))}
    </div>
  );
}

/** Everything that a robot sees, at once, as it sees it. */
export default function BenchView() {
  const { detail, epoch } = useRobotContext();
  const { kit, build, room } = detail;
  const bench = useBench(detail.id, epoch);
  const length = useLengthUnit();
  const [pose, setPose] = useState<Pose | null>(null);
  const tiles = kit.sockets.flatMap(({ name: socket, takes, drives }) => {
    const fitting = build.fittings.find((f) => f.socket === socket);
    const sensor = fitting && sensorOf(kit, fitting);
    if (fitting && sensor) return [{ socket, sensor, name: partName(kit, fitting.sensorId) }];
    return takes === 'motor' && drives?.includes('wheel') ? [{ socket, sensor: wheel, name: drives }] : [];
  });
  const empty = kit.sockets.filter(
    ({ name, takes }) => takes === 'sensor' && !tiles.some(({ socket }) => socket === name),
  );
  const down = build.fittings.find(
    (f) => kit.sensors.find(({ id }) => id === f.sensorId)?.mountMm !== undefined,
  );
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_24rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 flex-col gap-2">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <Choice label="Unit of lengths" options={lengthUnits} value={length} choose={setLengthUnit} />
          <span className="text-ink-2" role="status">
            {bench.gone
              ? 'The robot does not answer; trying again.'
              : `${empty.length > 0 ? `empty: ${empty.map(({ name }) => name).join(', ')} · ` : ''}a dash is no reading, not a number`}
          </span>
        </div>
        <Tiles kit={kit} tiles={tiles} sockets={bench.sockets} />
      </div>
      <Panel title="Where the readings come from">
        <RealDevice robotId={detail.id} name={detail.name} />
        {room ? (
          <div className="mt-3 flex flex-col gap-2 border-t border-line-soft pt-3">
            <MatBoard
              robotId={detail.id}
              build={build}
              course={room.course}
              pose={pose}
              setPose={setPose}
              {...(down ? { watch: down } : {})}
            />
            <div className="flex flex-wrap gap-x-8 gap-y-1">
              <MoreHands robotId={detail.id} />
            </div>
            <StandInHand robotId={detail.id} surfaces={room.surfaces} room={room} brief />
          </div>
        ) : null}
      </Panel>
    </div>
  );
}
