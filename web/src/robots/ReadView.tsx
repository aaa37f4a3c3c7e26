import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { decideWayOf, readWayOf } from '@vigilum/core/lesson';
import { sensorOf, sensorWords, type SensorKind } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { useRobotReadings, useRobotThresholds } from '../data/queries.ts';
import { pictureOf } from '../reading/ColourViews.tsx';
import { ownSets, type Reader } from '../reading/reader.ts';
import { RulerBoard } from '../reading/RulerBoard.tsx';
import { StopGapBoard } from '../reading/StopGapBoard.tsx';
import { SurfaceBoard } from '../reading/SurfaceBoard.tsx';
import { SurfaceStudy } from '../reading/SurfaceStudy.tsx';
import { SweepBoard } from '../reading/SweepBoard.tsx';
import { TouchBoard } from '../reading/TouchBoard.tsx';
import { TurnBoard } from '../reading/TurnBoard.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { useRobotContext } from './RobotLayout.tsx';
import { useRewire } from '../reading/saves.ts';

/** What can be done with a kind of sensor before any program: as lessons read it, and what it is decided by. */
function viewsOf(kind: SensorKind): string[] {
  const way = readWayOf(kind);
  const decides = decideWayOf(kind);
  return [
    ...(way ? [way] : []),
    ...(decides === 'two surfaces' ? ['sweep'] : decides === 'gap' ? ['stop gap'] : []),
  ];
}
const viewWords: Record<string, string> = {
  surfaces: 'Set by set',
  sweep: 'One slow sweep',
  ruler: 'Against the ruler',
  'stop gap': 'Stop gap',
  presses: 'Presses',
  turns: 'Known turns',
};

/** Places that are worth reading first, for kinds that look at no floor. */
const firstTasks: Partial<Record<SensorKind, { surface: string; how: string }[]>> = {
  ambient: [
    { surface: 'lamps on', how: 'As in the lesson.' },
    { surface: 'covered', how: 'A hand over the sensor.' },
  ],
  proximity: [
    { surface: 'nothing in front', how: 'A metre of free room ahead.' },
    { surface: 'wall at the wanted gap', how: 'As near as the robot shall stop.' },
  ],
  beacon: [
    { surface: 'beacon ahead', how: 'The beacon straight before the robot.' },
    { surface: 'beacon at the right', how: 'A step to the right of it.' },
  ],
  spin: [{ surface: 'at rest', how: 'The robot stands still: what it reads now is its drift.' }],
};

function Board({ reader, view }: { reader: Reader; view: string }) {
  const { detail } = useRobotContext();
  const readings = useRobotReadings(detail.id);
  const thresholds = useRobotThresholds(detail.id);
  const data = readings.data;
  const sets = useMemo(() => (data ? ownSets(data.sets, reader) : []), [data, reader]);
  if (readings.isPending) return <Loading what="the readings" />;
  if (!data) return <Failed error={readings.error} again={() => void readings.refetch()} />;
  const { sensor, fitting } = reader;
  const recording = (purpose: 'sweep' | 'touch') =>
    data.recordings.find(
      (r) => r.socket === fitting.socket && r.kind === sensor.kind && r.purpose === purpose,
    ) ?? null;
  switch (view) {
    case 'ruler':
      return <RulerBoard reader={reader} sets={sets} />;
    case 'stop gap':
      return (
        <StopGapBoard
          reader={reader}
          kit={detail.kit}
          sets={sets}
          inUse={thresholds.data?.thresholds.find(({ socket }) => socket === fitting.socket) ?? null}
        />
      );
    case 'presses':
      return <TouchBoard reader={reader} recording={recording('touch')} />;
    case 'turns':
      return <TurnBoard reader={reader} kit={detail.kit} sets={sets} />;
    case 'sweep':
      return <SweepBoard reader={reader} sweep={recording('sweep')} />;
    default: {
      const picture = pictureOf(sensor);
      return (
        <SurfaceBoard
          reader={reader}
          sets={sets}
          tasks={firstTasks[sensor.kind] ?? []}
          burst={20}
          {...(picture ? { picture } : {})}
          remarks={() =>
            picture || sensor.kind === 'spin' ? null : <SurfaceStudy sets={sets} sensor={sensor} />
          }
        />
      );
    }
  }
}

/** Everything that can be read off one robot, sensor by sensor, without any lesson. */
export default function ReadView() {
  const { detail, epoch, skew } = useRobotContext();
  const { kit, build } = detail;
  const [params, setParams] = useSearchParams();
  const change = useRewire(detail.id);
  const fitting = build.fittings.find(({ socket }) => socket === params.get('socket')) ?? build.fittings[0];
  const sensor = fitting && sensorOf(kit, fitting);
  const reader = useMemo(
    (): Reader | null =>
      fitting && sensor ? { robot: detail, build, fitting, sensor, epoch, room: detail.room, skew } : null,
    // eslint-disable-next-line react-hooks/exhaustive-deps -- wiring and room are what the boards depend on
    [detail.id, epoch, fitting?.socket, skew],
  );
  if (!reader || !fitting)
    return (
      <Panel className="flex-1">
        <Empty title="No sensor is fitted.">
          <p>Say under Build what is plugged in where.</p>
        </Empty>
      </Panel>
    );
  const modes = kit.sensors.find(({ id }) => id === fitting.sensorId)?.modes ?? [];
  const views = viewsOf(reader.sensor.kind);
  const view = views.find((v) => v === params.get('view')) ?? views[0] ?? 'surfaces';
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-1.5">
        <Choice
          label="Which sensor"
          options={build.fittings.map(({ socket }) => socket)}
          value={fitting.socket}
          choose={(socket) => setParams({ socket }, { replace: true })}
          words={Object.fromEntries(
            build.fittings.map(({ socket, mode }) => [socket, `${socket} ${sensorWords[mode]}`]),
          )}
        />
        {modes.length > 1 ? (
          <Labelled beside label="set to">
            <select
              className="input w-44"
              value={fitting.mode}
              disabled={change.isPending}
              onChange={(event) =>
                change.mutate({ on: fitting.socket, body: { mode: event.target.value as SensorKind } })
              }
            >
              {modes.map(({ kind }) => (
                <option key={kind} value={kind}>
                  {sensorWords[kind]}
                </option>
              ))}
            </select>
          </Labelled>
        ) : null}
        {views.length > 1 ? (
          <Choice
            label="How to read"
            options={views}
            value={view}
            choose={(to) => setParams({ socket: fitting.socket, view: to }, { replace: true })}
            words={viewWords}
          />
        ) : null}
      </div>
      <Board key={`${fitting.socket} ${fitting.mode} ${view}`} reader={reader} view={view} />
    </>
  );
}
