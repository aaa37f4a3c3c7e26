import { Plus } from 'lucide-react';
import { movedSensor, needsOfLesson, onSockets, robotFor, type Lesson } from '@vigilum/core/lesson';
import {
  fittingOn,
  sensorKinds,
  sensorWords,
  type Facing,
  type Kit,
  type SensorKind,
  type SensorNeed,
} from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { useKits, useRobots } from '../data/queries.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { without } from '../ui/without.ts';

/** The way a sensor of a kind usually faces. */
const usualFacing = (kind: SensorKind): Facing =>
  ['light', 'ambient', 'colour', 'rgb'].includes(kind)
    ? 'down'
    : ['heading', 'spin'].includes(kind)
      ? 'up'
      : 'ahead';

/** The sensors that a lesson takes, the one it is about first, and the robot that its answer is judged on. */
export function RobotEditor({
  lesson,
  kits,
  change,
}: {
  lesson: Lesson;
  kits: readonly Kit[];
  change: (lesson: Lesson, field: string) => void;
}) {
  const robots = useRobots();
  const usual = useKits();
  const needs = needsOfLesson(lesson);
  const kit = kits.find(({ slug }) => slug === lesson.robot?.kit) ?? kits[0];
  const put = (next: SensorNeed[], field = '') => {
    const [need, ...also] = next;
    if (!need) return;
    change(also.length > 0 ? { ...lesson, need, also } : { ...without(lesson, 'also'), need }, field);
  };
  if (!kit) return <p className="text-ink-2">There is no kit yet. Add one under Robots.</p>;
  const sockets = kit.sockets.filter(({ takes }) => takes === 'sensor').map(({ name }) => name);
  const known = (robots.data?.robots ?? []).filter((robot) => robot.kit.slug === kit.slug);
  const plain = (of: Kit) => {
    const robot = robotFor(
      of,
      needs.map(({ kind, name, socket }) => {
        // Where it sits and looks on the lesson's robot is kept: two eyes at the left and the right stay there.
        const now = lesson.robot && fittingOn(lesson.robot.build, socket);
        const kept = now?.mode === kind ? now : undefined;
        return {
          kind,
          name,
          facing: kept?.facing ?? usualFacing(kind),
          ...(kept ? { rightMm: kept.rightMm } : {}),
          ...(kept?.turret ? { turret: true } : {}),
        };
      }),
      robots.data?.robots.find((one) => one.kit.slug === of.slug)?.build ??
        usual.data?.kits.find((one) => one.kit.slug === of.slug)?.usual ??
        null,
    );
    if (!robot) return null;
    // The lesson's own socket names are kept where the kit has them.
    const names = of.sockets.map(({ name }) => name);
    const fittings = robot.build.fittings.map((fitting, i) =>
      names.includes(needs[i]!.socket) ? { ...fitting, socket: needs[i]!.socket } : fitting,
    );
    return { ...robot.build, fittings };
  };
  const take = (value: string) => {
    const thresholds = lesson.robot?.thresholds ?? {};
    const [what, id] = value.split(' ');
    const of = what === 'plain' ? kits.find(({ slug }) => slug === id) : kit;
    const build = what === 'plain' ? of && plain(of) : known.find((robot) => String(robot.id) === id)?.build;
    if (!of || !build) return;
    // A plain robot of another kit has the sensors on sockets of its own: the whole lesson follows.
    const own =
      what === 'plain' ? needs.map(({ socket }, i) => [socket, build.fittings[i]!.socket] as const) : [];
    const moved = new Map(own.filter(([from, to]) => from !== to));
    const on = moved.size > 0 ? onSockets(lesson, moved) : lesson;
    const kept = Object.fromEntries(
      Object.entries(thresholds).map(([socket, value]) => [moved.get(socket) ?? socket, value]),
    );
    change({ ...on, robot: { kit: of.slug, build, thresholds: kept } }, '');
  };
  const unfitted = needs.filter(
    ({ socket, kind }) =>
      kind !== 'wheel' &&
      !lesson.robot?.build.fittings.some((fitting) => fitting.socket === socket && fitting.mode === kind),
  );
  return (
    <div className="flex flex-col gap-2">
      {needs.map((need, i) => (
        <div key={i} className="flex flex-wrap items-end gap-2">
          <Labelled label={i === 0 ? 'the lesson is about' : 'it also takes'} className="min-w-32 flex-1">
            <select
              className="input h-11 w-full"
              value={need.kind}
              onChange={(event) =>
                put(
                  needs.map((one, j) => (j === i ? { ...one, kind: event.target.value as SensorKind } : one)),
                )
              }
            >
              {sensorKinds.map((kind) => (
                <option key={kind} value={kind}>
                  {sensorWords[kind]}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled label="socket">
            <select
              className="input h-11 w-auto"
              value={need.socket}
              onChange={(event) => change(movedSensor(lesson, need.socket, event.target.value), '')}
            >
              {sockets.includes(need.socket) ? null : <option>{need.socket}</option>}
              {sockets.map((socket) => (
                <option key={socket}>{socket}</option>
              ))}
            </select>
          </Labelled>
          <Labelled label="called">
            <input
              className="input w-32"
              maxLength={40}
              value={need.name}
              onChange={(event) =>
                put(
                  needs.map((one, j) => (j === i ? { ...one, name: event.target.value } : one)),
                  `need ${i}`,
                )
              }
            />
          </Labelled>
          <RemoveButton
            title={`Take the sensor on ${need.socket} out`}
            disabled={needs.length === 1}
            onClick={() => put(needs.filter((_, j) => j !== i))}
          />
        </div>
      ))}
      <Button
        icon={Plus}
        className="w-fit"
        onClick={() => {
          const socket = sockets.find((name) => !needs.some((need) => need.socket === name));
          if (socket) put([...needs, { kind: 'touch', socket, name: 'nose' }]);
        }}
      >
        Add a sensor
      </Button>
      <Labelled label="the model answer is judged on">
        <select className="input h-11 w-full" value="" onChange={(event) => take(event.target.value)}>
          <option value="">
            {lesson.robot
              ? `now: a ${kit.name} with ${lesson.robot.build.fittings.map(({ socket, mode }) => `${sensorWords[mode]} on ${socket}`).join(', ')}`
              : 'choose a robot'}
          </option>
          {kits.map((one) => (
            <option key={one.slug} value={`plain ${one.slug}`} disabled={plain(one) === null}>
              a {one.name} with these sensors{plain(one) === null ? ': it lacks one' : ''}
            </option>
          ))}
          {known.map((robot) => (
            <option key={robot.id} value={`robot ${robot.id}`}>
              {robot.name} as it is built
            </option>
          ))}
        </select>
      </Labelled>
      {lesson.robot && unfitted.length > 0 ? (
        <p className="border-l-4 border-l-fault pl-3 font-bold">
          That robot has no{' '}
          {unfitted.map(({ kind, socket }) => `${sensorWords[kind]} on ${socket}`).join(', no ')}. Take “a{' '}
          {kit.name} with these sensors”, or change the sockets.
        </p>
      ) : null}
    </div>
  );
}
