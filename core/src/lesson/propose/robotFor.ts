import type { Facing, Fitting, Kit, RobotBuild, SensorNeed } from '../../sensing/index.ts';

/** A sensor that a proposal takes, and where it sits. */
export interface Wanted extends Omit<SensorNeed, 'socket'> {
  facing: Facing;
  /** To the right of the middle line, mm. */
  rightMm?: number;
  turret?: boolean;
}

/** A robot without sensors, where no robot of the kit is known: of usual classroom size. */
export const plainBody: Omit<RobotBuild, 'fittings'> = {
  wheelDiameterMm: 60,
  trackMm: 115,
  lengthMm: 180,
  widthMm: 140,
  axleFromFrontMm: 105,
};

/** Where a sensor sits that looks a certain way, mm: ahead of the axle, to the right, above the floor. */
function placeOf(
  body: Omit<RobotBuild, 'fittings'>,
  { facing, rightMm = 0 }: Wanted,
): [number, number, number] {
  const front = body.axleFromFrontMm;
  switch (facing) {
    case 'down':
      return [front - 32, rightMm, 12];
    case 'up':
      return [0, rightMm, 90];
    case 'left':
      return [front - 70, -body.widthMm / 2 + 5, 60];
    case 'right':
      return [front - 70, body.widthMm / 2 - 5, 60];
    case 'back':
      return [front - body.lengthMm + 4, rightMm, 60];
    case 'ahead':
      return [front - 6, rightMm, 50];
  }
}

/**
 * A robot of a kit with these sensors on it, each on its usual socket (that of the known robot) or the next free
 * one. Null when the kit lacks a sensor, a socket, or the motor of a turret.
 */
export function robotFor(
  kit: Kit,
  wanted: readonly Wanted[],
  known: RobotBuild | null,
): { build: RobotBuild; sockets: string[] } | null {
  const { fittings: usual = [], ...body } = known ?? { ...plainBody, fittings: [] };
  const free = kit.sockets.filter(({ takes }) => takes === 'sensor').map(({ name }) => name);
  const spare = kit.sockets.find(({ takes, drives }) => takes === 'motor' && !/wheel/.test(drives ?? ''));
  const fittings: Fitting[] = [];
  for (const need of wanted) {
    const sensor = kit.sensors.find(({ modes }) => modes.some(({ kind }) => kind === need.kind));
    if (!sensor || (need.turret && !spare)) return null;
    const homes = usual.filter(({ sensorId }) => sensorId === sensor.id).map(({ socket }) => socket);
    const socket = homes.find((home) => free.includes(home)) ?? free[0];
    if (!socket) return null;
    free.splice(free.indexOf(socket), 1);
    const [aheadMm, rightMm, heightMm] = placeOf(body, need);
    const mount = sensor.mountMm;
    fittings.push({
      socket,
      sensorId: sensor.id,
      mode: need.kind,
      facing: need.facing,
      aheadMm: need.turret ? 40 : aheadMm,
      rightMm,
      heightMm: need.facing === 'down' && mount ? (mount.from + mount.to) / 2 : heightMm,
      ...(need.turret ? { turret: spare!.name } : {}),
    });
  }
  return { build: { ...body, fittings }, sockets: fittings.map(({ socket }) => socket) };
}
