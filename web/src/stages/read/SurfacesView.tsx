import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { EDGE } from '@vigilum/core/classroom';
import { formatNumber } from '@vigilum/core/quantity';
import { asNumber, sensorWords, warnAboutLight, warnAboutPair, type Look } from '@vigilum/core/sensing';
import { gradeSeparation, separation } from '@vigilum/core/threshold';
import { post } from '../../data/api.ts';
import { useChange } from '../../data/queries.ts';
import { LiveFigure } from '../../reading/LiveFigure.tsx';
import { StandInHand } from '../../reading/StandInHand.tsx';
import { useBurst } from '../../reading/useBurst.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useKey } from '../../ui/useKey.ts';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { SetsChart, type ShownSet } from './SetsChart.tsx';
import { SurfaceRow } from './SurfaceRow.tsx';

const separationWords = {
  sound: 'Far apart: any value well between them works.',
  usable: 'Apart, but not by much: choose the threshold with care.',
  poor: 'Too close: the robot will often take one for the other.',
};

/** A reading more than the lesson asks for: across the edge, or of any other surface. */
const extras = [
  { surface: EDGE, how: 'Half over each surface; for one school of threshold.' },
  { surface: 'nothing underneath', how: 'Hold it over the table’s edge or in the air.' },
];

/** A surface of the team's own, so that rivals can be read too. */
function AddSurface({ taken, add }: { taken: readonly string[]; add: (surface: string) => void }) {
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
      <label className="flex min-w-0 flex-1 flex-col">
        <span className="text-ink-2">another surface that it could be taken for</span>
        <input
          className="input w-full"
          maxLength={60}
          autoComplete="off"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        {twice ? <span className="text-fault">“{clean}” is in the list already.</span> : null}
      </label>
      <button type="submit" className="btn btn-plain" disabled={clean === '' || twice}>
        <Plus size={18} aria-hidden="true" /> Add
      </button>
    </form>
  );
}

function Remarks({ context, silent }: { context: StageContext; silent: boolean }) {
  const { record, sets, pair } = context;
  const { tasks } = record.lesson.read;
  const own = tasks.flatMap((task) => sets.find((s) => s.surface === task.surface) ?? []);
  const [a, b] = own;
  const dPrime = pair && separation(pair);
  const light = warnAboutLight(own);
  const grade = dPrime === null ? null : gradeSeparation(dPrime);
  return (
    <div className="mt-4 flex flex-col gap-3">
      {a && b
        ? warnAboutPair(a.values, b.values).map((w) => (
            <FindingCard key={w.says} tone={w.grade} says={w.says} more={w.mend} />
          ))
        : null}
      {grade ? (
        <FindingCard
          tone={({ sound: 'done', usable: 'risk', poor: 'fault' } as const)[grade]}
          says={separationWords[grade]}
          more={`The means differ by ${formatNumber(pair!.high.mean - pair!.low.mean)} points, ${formatNumber(dPrime)} times their scatter.`}
        />
      ) : null}
      {light ? <FindingCard tone={light.grade} says={light.says} more={light.mend} /> : null}
      {silent ? (
        <FindingCard
          tone="fault"
          says={`${record.lesson.need.socket} gives no reading.`}
          more="Go back to Wire and check the plug."
        />
      ) : null}
    </div>
  );
}

/** Surface by surface, twenty looks each. */
export function SurfacesView() {
  const context = useStage();
  const { robot, record, fitted, pair, sets } = context;
  const { lesson, build } = record;
  const { tasks, burst: count } = lesson.read;
  const { socket, kind } = lesson.need;
  const [added, setAdded] = useState<string[]>([]);
  const [extra, setExtra] = useState(false);
  const wanted = tasks.map((task) => task.surface);
  const more = [
    ...extras.filter(({ surface }) => extra || sets.some((set) => set.surface === surface)),
    ...[...new Set([...sets.map((set) => set.surface), ...added])]
      .filter((name) => !wanted.includes(name) && !extras.some(({ surface }) => surface === name))
      .map((surface) => ({ surface, how: 'Put the sensor over it and take its readings.' })),
  ];
  const rows = [...tasks.map(({ surface, how }) => ({ surface, how })), ...more];
  const [surface, setSurface] = useState(
    () => (tasks.find((task) => !sets.some((s) => s.surface === task.surface)) ?? tasks[0]!).surface,
  );
  const [lightNote, setLightNote] = useState(() => sets.at(-1)?.lightNote ?? '');
  const save = useChange((body: object) => post(`/robots/${robot.id}/sample-sets`, body));
  const { live, taking, take } = useBurst(robot.id, socket, JSON.stringify(build.fittings));

  const keep = (looks: Look[]) =>
    save.mutate(
      { socket, kind, surface, values: looks, lightNote: lightNote.trim() },
      {
        onSuccess: () => {
          const next = tasks.find(
            (task) => task.surface !== surface && !sets.some((s) => s.surface === task.surface),
          );
          if (next) setSurface(next.surface);
        },
      },
    );
  const busy = taking !== null || save.isPending;
  const start = () => {
    if (!busy) take(count, keep);
  };
  useKey(' ', start);

  const unit = fitted?.spec.unit ?? '%';
  const range = { min: fitted?.spec.min ?? 0, max: fitted?.spec.max ?? 100 };
  const names = rows.map((row) => row.surface).join('|');
  const shown = useMemo(
    () =>
      names.split('|').flatMap((name): ShownSet[] => {
        const task = tasks.find((t) => t.surface === name);
        const colour = task?.role === 'light' ? 'brass' : 'ink';
        const values =
          taking && name === surface
            ? taking.map(asNumber)
            : (sets.find((s) => s.surface === name)?.values ?? []);
        return task || values.length > 0 ? [{ surface: name, values, colour }] : [];
      }),
    [names, tasks, sets, taking, surface],
  );
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="What the robot sees" aside="every dot is one reading">
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-2">
          {fitted ? (
            <LiveFigure
              sensor={fitted.spec}
              value={live.latest}
              rgb={live.rgb}
              note={
                live.state === 'live'
                  ? `live from ${socket}`
                  : live.state === 'gone'
                    ? 'the robot does not answer; trying again'
                    : 'listening …'
              }
            />
          ) : null}
          {robot.standIn ? <StandInHand robotId={robot.id} surfaces={wanted} /> : null}
        </div>
        <SetsChart sets={shown} range={range} unit={unit} what={sensorWords[kind]} live={live.latest} />
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
              {taking ? `${taking.length} of ${count} …` : `Take ${count} readings`}{' '}
              <kbd className="kbd">Space</kbd>
            </button>
            {pair ? <NextStage to="decide">On to Decide</NextStage> : null}
          </>
        }
      >
        <ul className="flex flex-col gap-2">
          {rows.map((row) => (
            <SurfaceRow
              key={row.surface}
              surface={row.surface}
              set={sets.find((s) => s.surface === row.surface)}
              how={row.how}
              range={range}
              skew={context.skew}
              chosen={surface === row.surface}
              choose={() => setSurface(row.surface)}
            />
          ))}
        </ul>
        {extra ? (
          <AddSurface
            taken={rows.map((row) => row.surface)}
            add={(name) => {
              setAdded([...added, name]);
              setSurface(name);
            }}
          />
        ) : (
          <button type="button" className="btn btn-plain mt-2 self-start" onClick={() => setExtra(true)}>
            <Plus size={18} aria-hidden="true" /> The edge, or another surface
          </button>
        )}
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
        <Remarks context={context} silent={live.latest === null} />
      </Panel>
    </div>
  );
}
