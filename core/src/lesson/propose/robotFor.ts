import {
  heightFor,
  mountFor,
  plainBody,
  type Facing,
  type Fitting,
  type Kit,
  type RobotBuild,
  type SensorNeed,
  type SensorSpec,
} from '../../sensing/index.ts';

/** A sensor that a proposal takes, and where it sits. */
export interface Wanted extends Omit<SensorNeed, 'socket'> {
  facing: Facing;
  /** To the right of the middle line, mm. */
  rightMm?: number;
  turret?: boolean;
}

/**
 * A robot of a kit with these sensors on it, each on its usual socket (that of the known robot) or the next free
 * one, those first on which nothing usually is. Null when the kit lacks a sensor, a socket, or the motor of a turret.
 */
export function robotFor(
  kit: Kit,
  wanted: readonly Wanted[],
  known: RobotBuild | null,
): { build: RobotBuild; sockets: string[] } | null {
  const { fittings: usual = [], ...body } = known ?? { ...plainBody, fittings: [] };
  const free = kit.sockets.filter(({ takes }) => takes === 'sensor').map(({ name }) => name);
  const spare = kit.sockets.find(({ takes, drives }) => takes === 'motor' && !/wheel/.test(drives ?? ''));
  const parts: SensorSpec[] = [];
  for (const need of wanted) {
    const part = kit.sensors.find(({ modes }) => modes.some(({ kind }) => kind === need.kind));
    if (!part || (need.turret && !spare)) return null;
    parts.push(part);
  }
  const take = (name: string): string => {
    free.splice(free.indexOf(name), 1);
    return name;
  };
  // Each goes home first; who has no home, such as a second one, takes what nobody usually has, then what this lesson leaves free.
  const homes = parts.map(({ id }) => {
    const home = usual.find(({ sensorId, socket }) => sensorId === id && free.includes(socket));
    return home && take(home.socket);
  });
  const fittings: Fitting[] = [];
  for (const [i, need] of wanted.entries()) {
    const part = parts[i]!;
    const next = free.find((name) => !usual.some(({ socket }) => socket === name)) ?? free[0];
    const socket = homes[i] ?? (next && take(next));
    if (!socket) return null;
    const { aheadMm, rightMm, heightMm } = mountFor(body, need.facing, need.rightMm);
    fittings.push({
      socket,
      sensorId: part.id,
      mode: need.kind,
      facing: need.facing,
      aheadMm: need.turret ? 40 : aheadMm,
      rightMm,
      heightMm: heightFor(part, need.facing, heightMm),
      ...(need.turret ? { turret: spare!.name } : {}),
    });
  }
  return { build: { ...body, fittings }, sockets: fittings.map(({ socket }) => socket) };
}
