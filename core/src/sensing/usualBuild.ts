import type { Facing, Fitting, Kit, RobotBuild, SensorSpec } from './kit.ts';
import { facingOf } from './kit.ts';

/** A robot without sensors, where no robot of the kit is known: of usual classroom size. */
export const plainBody: Omit<RobotBuild, 'fittings'> = {
  wheelDiameterMm: 60,
  trackMm: 115,
  lengthMm: 180,
  widthMm: 140,
  axleFromFrontMm: 105,
};

/** Where a sensor sits that looks a certain way, mm: ahead of the axle, to the right, above the floor. */
export function mountFor(
  body: Omit<RobotBuild, 'fittings'>,
  facing: Facing,
  rightMm = 0,
): Pick<Fitting, 'aheadMm' | 'rightMm' | 'heightMm'> {
  const front = body.axleFromFrontMm;
  const at = (aheadMm: number, right: number, heightMm: number) => ({ aheadMm, rightMm: right, heightMm });
  switch (facing) {
    case 'down':
      return at(front - 32, rightMm, 12);
    case 'up':
      return at(0, rightMm, 90);
    case 'left':
      return at(front - 70, -body.widthMm / 2 + 5, 60);
    case 'right':
      return at(front - 70, body.widthMm / 2 - 5, 60);
    case 'back':
      return at(front - body.lengthMm + 4, rightMm, 60);
    case 'ahead':
      return at(front - 6, rightMm, 50);
  }
}

/** The height of a part that must be near the floor, mm: the middle of where its kit wants it. */
export const heightFor = (part: SensorSpec, facing: Facing, heightMm: number): number =>
  facing === 'down' && part.mountMm ? (part.mountMm.from + part.mountMm.to) / 2 : heightMm;

/** How far parts that look the same way sit apart, mm. */
const BESIDE_MM = 28;

/**
 * A robot of a kit as it is first put together: each part in its first mode, the first on the first socket for sensors, and so on
 * while sockets last. Robots that are added and lessons that are written before there is one go by it, so that both name the same sockets.
 */
export function usualBuild(kit: Kit): RobotBuild {
  const sockets = kit.sockets.filter(({ takes }) => takes === 'sensor');
  const looking = new Map<Facing, number>();
  const fittings = kit.sensors.slice(0, sockets.length).map((part, i): Fitting => {
    const [{ kind }] = part.modes as [SensorSpec['modes'][number]];
    const bare: Fitting = {
      socket: sockets[i]!.name,
      sensorId: part.id,
      mode: kind,
      aheadMm: 0,
      rightMm: 0,
      heightMm: 70,
    };
    // What turns with the robot and looks at nothing lies flat over the axle.
    if (kind === 'heading' || kind === 'spin' || kind === 'wheel')
      return { ...bare, aheadMm: -20, ...(part.faces ? { facing: part.faces } : {}) };
    const facing = facingOf(kit, bare);
    const n = looking.get(facing) ?? 0;
    looking.set(facing, n + 1);
    // The second to the right of the first, the third to its left, and so on.
    const rightMm = Math.ceil(n / 2) * BESIDE_MM * (n % 2 === 1 ? 1 : -1) || 0;
    const mount = mountFor(plainBody, facing, rightMm);
    return { ...bare, ...mount, heightMm: heightFor(part, facing, mount.heightMm), facing };
  });
  return { ...plainBody, fittings };
}
