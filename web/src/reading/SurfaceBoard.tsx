import { Plus } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { EDGE, type StoredSet } from '@vigilum/core/classroom';
import { asNumber, sensorWords, type Sample, type Rgb } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { SaveAgain } from '../ui/SaveAgain.tsx';
import { useKey } from '../ui/useKey.ts';
import { LiveFigure } from './LiveFigure.tsx';
import type { Reader } from './reader.ts';
import { SetsChart, type ShownSet } from './SetsChart.tsx';
import { StandInHand } from './StandInHand.tsx';
import { SurfaceRow } from './SurfaceRow.tsx';
import { useBurst, type Burst } from './useBurst.ts';
import { useSaveSet } from './saves.ts';

/** What a live view says beside its number. */
export const liveNote = (state: Burst['live']['state'], socket: string): string =>
  state === 'live'
    ? `live from ${socket}`
    : state === 'gone'
      ? 'the robot does not answer; trying again'
      : 'listening …';

/** A reading more than the lesson asks for: across the edge, or of nothing at all. */
const floorExtras = [
  { surface: EDGE, how: 'Half over each surface; for one school of threshold.' },
  { surface: 'nothing underneath', how: 'Hold it over the table’s edge or in the air.' },
];

/** A surface of the team's own, so that rivals can be read too. */
function AddSurface({
  label,
  taken,
  add,
}: {
  label: string;
  taken: readonly string[];
  add: (surface: string) => void;
}) {
  const [name, setName] = useState('');
  const clean = name.trim();
  const twice = taken.some((surface) => surface.toLowerCase() === clean.toLowerCase());
  return (
    <form
      className="mt-2 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (clean === '' || twice) return;
        add(clean);
        setName('');
      }}
    >
      <Labelled label={label} className="min-w-0 flex-1">
        <input
          className="input w-full"
          maxLength={60}
          autoComplete="off"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        {twice ? <span className="text-fault">“{clean}” is in the list already.</span> : null}
      </Labelled>
      <Button icon={Plus} type="submit" disabled={clean === '' || twice}>
        Add
      </Button>
    </form>
  );
}

/** What a picture of the sets is drawn from. */
export interface Shown {
  sets: ShownSet[];
  rgb: { name: string; samples: Rgb[] }[];
  live: Burst['live'];
}

/** Surface by surface, a burst of looks each: any number of surfaces, any sensor that looks at one. */
export function SurfaceBoard({
  reader,
  sets,
  tasks,
  burst: count,
  more = false,
  picture,
  offers,
  remarks,
  next,
}: {
  reader: Reader;
  sets: readonly StoredSet[];
  /** The surfaces that are asked for, in order. */
  tasks: readonly { surface: string; how: string; colour?: 'ink' | 'brass' }[];
  burst: number;
  /** Opens with the readings that a lesson does not ask for. */
  more?: boolean;
  /** Instead of the dots along the reading. */
  picture?: (shown: Shown) => ReactNode;
  /** Above the surfaces; may take looks of its own. */
  offers?: (hand: { take: ReturnType<typeof useBurst>['take']; busy: boolean }) => ReactNode;
  remarks?: (silent: boolean) => ReactNode;
  next?: ReactNode;
}) {
  const { robot, fitting, sensor, room } = reader;
  const { socket } = fitting;
  const [added, setAdded] = useState<string[]>([]);
  const [extra, setExtra] = useState(more);
  const wanted = tasks.map((task) => task.surface);
  const floor = ['light', 'ambient', 'colour', 'rgb'].includes(sensor.kind);
  const extras = sensor.kind === 'light' ? floorExtras : [];
  const rows = [
    ...tasks.map(({ surface, how }) => ({ surface, how })),
    ...extras.filter(({ surface }) => extra || sets.some((set) => set.surface === surface)),
    ...[...new Set([...sets.map((set) => set.surface), ...added])]
      .filter((name) => !wanted.includes(name) && !extras.some(({ surface }) => surface === name))
      .map((surface) => ({ surface, how: 'Put the sensor over it and take its readings.' })),
  ];
  const unread = tasks.find((task) => !sets.some((s) => s.surface === task.surface));
  const [surface, setSurface] = useState(() => (more ? EDGE : (unread?.surface ?? rows[0]?.surface)) ?? EDGE);
  const [lightNote, setLightNote] = useState(() => sets.at(-1)?.lightNote ?? '');
  const save = useSaveSet(robot.id);
  const { live, taking, take } = useBurst(robot.id, socket, reader.epoch);
  const keep = (samples: Sample[]) =>
    save.mutate(
      { socket, kind: sensor.kind, surface, values: samples, lightNote: lightNote.trim() },
      {
        onSuccess: () => {
          const open = tasks.find(
            (task) => task.surface !== surface && !sets.some((s) => s.surface === task.surface),
          );
          if (open) setSurface(open.surface);
        },
      },
    );
  const busy = taking !== null || save.isPending;
  const start = () => {
    if (!busy && rows.some((row) => row.surface === surface)) take(count, keep);
  };
  useKey(' ', start);
  const names = rows.map((row) => row.surface).join('|');
  const shown = useMemo(() => {
    const values: ShownSet[] = [];
    const rgb: Shown['rgb'] = [];
    for (const name of names.split('|')) {
      const task = tasks.find((t) => t.surface === name);
      const set = sets.find((s) => s.surface === name);
      const looks = taking && name === surface ? taking : (set?.values ?? []);
      if (task || looks.length > 0)
        values.push({ surface: name, values: looks.map(asNumber), colour: task?.colour ?? 'ink' });
      const own =
        taking && name === surface
          ? taking.filter((look): look is Rgb => look !== null && typeof look === 'object')
          : (set?.rgb ?? []).filter((look) => look !== null);
      if (own.length > 0) rgb.push({ name, samples: own });
    }
    return { sets: values, rgb };
  }, [names, tasks, sets, taking, surface]);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="What the robot sees" aside={picture ? undefined : 'every dot is one reading'}>
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-2">
          <LiveFigure
            sensor={sensor}
            value={live.latest}
            rgb={live.rgb}
            note={liveNote(live.state, socket)}
          />
          {robot.standIn ? (
            <StandInHand
              robotId={robot.id}
              surfaces={[...new Set([...wanted, ...(room?.surfaces ?? [])])]}
              room={room}
              kind={sensor.kind}
            />
          ) : null}
        </div>
        {picture ? (
          picture({ ...shown, live })
        ) : (
          <SetsChart
            sets={shown.sets}
            range={sensor}
            unit={sensor.unit}
            what={sensorWords[sensor.kind]}
            live={live.latest}
          />
        )}
      </Panel>
      <Panel
        title={floor ? 'Which surface?' : 'Which case?'}
        aside={floor ? 'Put the robot there, then take its readings.' : 'Set it up, then take its readings.'}
        footer={
          <>
            <Button
              main
              disabled={busy || live.state !== 'live' || !rows.some((row) => row.surface === surface)}
              onClick={start}
            >
              {taking ? `${taking.length} of ${count} …` : `Take ${count} readings`}{' '}
              <kbd className="kbd">Space</kbd>
            </Button>
            <SaveAgain save={save} what="The last burst" />
            {next}
          </>
        }
      >
        {offers?.({ take, busy: busy || live.state !== 'live' })}
        {rows.length === 0 ? <p className="text-ink-2">Name the first one below.</p> : null}
        <ul className="flex flex-col gap-2">
          {rows.map((row) => (
            <SurfaceRow
              robot={robot.id}
              key={row.surface}
              surface={row.surface}
              set={sets.find((s) => s.surface === row.surface)}
              how={row.how}
              range={sensor}
              skew={reader.skew}
              chosen={surface === row.surface}
              choose={() => setSurface(row.surface)}
            />
          ))}
        </ul>
        {extra || extras.length === 0 || tasks.length === 0 ? (
          <AddSurface
            label={floor ? 'another surface that it could be taken for' : 'another case'}
            taken={rows.map((row) => row.surface)}
            add={(name) => {
              setAdded([...added, name]);
              setSurface(name);
            }}
          />
        ) : (
          <Button icon={Plus} className="mt-2 self-start" onClick={() => setExtra(true)}>
            The edge, or another surface
          </Button>
        )}
        <Labelled label="light in the room, for the record" className="mt-3">
          <input
            className="input w-full"
            maxLength={120}
            autoComplete="off"
            placeholder="blinds down, lamps on"
            value={lightNote}
            onChange={(event) => setLightNote(event.target.value)}
          />
        </Labelled>
        {remarks?.(live.latest === null)}
      </Panel>
    </div>
  );
}
