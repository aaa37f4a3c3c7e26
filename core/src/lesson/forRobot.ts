import {
  canMeasure,
  fittingOn,
  sameSocket,
  type Kit,
  type RobotBuild,
  type SensorNeed,
} from '../sensing/index.ts';
import { needsOfLesson } from './fit.ts';
import type { Lesson } from './lesson.ts';

/**
 * Where a robot of another kit has the lesson’s sensors: where they are set so already, else where a part sits that
 * can measure it, else on the next free socket. Null when the kit lacks one of them.
 */
function socketsOn(lesson: Lesson, kit: Kit, build: RobotBuild): Map<string, string> | null {
  const sockets = new Map<string, string>();
  const taken = new Set<string>();
  for (const { kind, socket } of needsOfLesson(lesson)) {
    // Wheel angles need no sensor.
    if (kind === 'wheel') continue;
    const free = build.fittings.filter((fitting) => !taken.has(fitting.socket));
    const found =
      free.find(({ mode }) => mode === kind)?.socket ??
      free.find(({ sensorId }) => canMeasure(kit, sensorId, kind))?.socket ??
      (kit.sensors.some(({ id }) => canMeasure(kit, id, kind))
        ? kit.sockets.find(
            ({ name, takes }) => takes === 'sensor' && !taken.has(name) && !fittingOn(build, name),
          )?.name
        : undefined);
    if (found === undefined) return null;
    taken.add(found);
    sockets.set(socket, found);
  }
  return sockets;
}

/** Every text inside something, changed; what stands under the left-out names stays. */
function changed<T>(value: T, change: (text: string, key: string) => string, key = ''): T {
  if (typeof value === 'string') return change(value, key) as T;
  if (Array.isArray(value)) return value.map((item: unknown) => changed(item, change, key)) as T;
  if (value !== null && typeof value === 'object')
    return Object.fromEntries(
      Object.entries(value).map(([name, item]) => [name, changed(item, change, name)]),
    ) as T;
  return value;
}

/**
 * The lesson with sensors on other sockets: needs, scripts, texts, steps, expectations and bound thresholds name the new
 * ones. `sockets` leads from old to new; two that change places are given both ways. The lesson’s own robot stays.
 */
export function onSockets(lesson: Lesson, sockets: ReadonlyMap<string, string>): Lesson {
  const names = [...sockets.keys()].map((name) => name.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  const whole = `(?<![\\w-])(${names.join('|')})(?![\\w-])`;
  const named = new RegExp(whole, 'gi');
  // A formula may have a name in quotes, and needs them for names with a dash.
  const inFormula = new RegExp(`"${whole}"|${whole}`, 'gi');
  const now = (socket: string): string =>
    [...sockets].find(([from]) => sameSocket(from, socket))?.[1] ?? socket;
  const renamed = (text: string, key: string): string =>
    key === 'formula'
      ? text.replace(inFormula, (_, quoted?: string, bare?: string) => `"${now(quoted ?? bare!)}"`)
      : text.replace(named, (_, socket: string) => now(socket));
  const { need, also, steps, expectations, startScript, modelScript, faults, rightToo, twist, varies } =
    lesson;
  return {
    ...lesson,
    ...changed({ need, startScript, modelScript, expectations }, renamed),
    ...(also ? { also: changed(also, renamed) } : {}),
    ...(steps ? { steps: changed(steps, renamed) } : {}),
    ...(faults ? { faults: changed(faults, renamed) } : {}),
    ...(rightToo ? { rightToo: changed(rightToo, renamed) } : {}),
    ...(twist ? { twist: { ...twist, bindings: changed(twist.bindings, renamed) } } : {}),
    ...(varies ? { varies: { ...varies, bindings: changed(varies.bindings, renamed) } } : {}),
  };
}

/**
 * The lesson for a robot of another kit than it was written for: it names the sockets that this robot has. Unchanged for
 * the lesson’s own kit, where a plug in the wrong socket is a fault to be found, for a robot that has every sensor where the lesson
 * wants it, and for a kit that lacks one of them. What belongs to the lesson’s own robot stays.
 */
export function forRobot(lesson: Lesson, kit: Kit, build: RobotBuild): Lesson {
  if (!lesson.robot || lesson.robot.kit === kit.slug) return lesson;
  const isThere = ({ socket, kind }: SensorNeed) => {
    if (kind === 'wheel') return true;
    const fitting = fittingOn(build, socket);
    return fitting !== undefined && canMeasure(kit, fitting.sensorId, kind);
  };
  if (needsOfLesson(lesson).every(isThere)) return lesson;
  const sockets = socketsOn(lesson, kit, build);
  return sockets ? onSockets(lesson, sockets) : lesson;
}

/** The lesson and its own robot with a sensor on another socket; what sat there changes places with it. */
export function movedSensor(lesson: Lesson, from: string, to: string): Lesson {
  const places = new Map([
    [from, to],
    [to, from],
  ]);
  const at = (socket: string) => places.get(socket) ?? socket;
  const { robot } = lesson;
  return {
    ...onSockets(lesson, places),
    ...(robot
      ? {
          robot: {
            ...robot,
            build: {
              ...robot.build,
              fittings: robot.build.fittings.map((fitting) => ({ ...fitting, socket: at(fitting.socket) })),
            },
            thresholds: Object.fromEntries(
              Object.entries(robot.thresholds).map(([socket, value]) => [at(socket), value]),
            ),
          },
        }
      : {}),
  };
}
