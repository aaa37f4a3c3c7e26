import type { SimRobot } from './setup.ts';
import type { World } from './world.ts';

/** How far a bumper gives way, mm. */
export const BUMPER_MM = 4;
const INSIDE_MM = 10;
/** A robot that holds its wheels gives way only this much of a push. */
const HOLDS = 0.4;

/** A rectangle on the robot: its middle ahead of the axle and to the right, and half its sizes, mm. */
interface Patch {
  ahead: number;
  right: number;
  half: number;
  side: number;
}

/**
 * The robot's outline against everything solid. What overlaps is pushed out the shortest way (separating axes of a
 * rectangle and a line), so that the robot stops at a wall, slides along it, and turns away from it.
 */
export class Outline {
  private readonly body: Patch;
  /** Radius in mm of the circle round the body's middle that holds all of it and its bumpers. */
  readonly radius: number;
  /** The body's middle is so far ahead of the axle, mm. */
  readonly ahead: number;
  /** How far to move to be clear of everything, set by `push`. */
  dx = 0;
  dy = 0;

  constructor({
    lengthMm,
    widthMm,
    axleFromFrontMm,
  }: Pick<SimRobot, 'lengthMm' | 'widthMm' | 'axleFromFrontMm'>) {
    this.ahead = axleFromFrontMm - lengthMm / 2;
    this.body = { ahead: this.ahead, right: 0, half: lengthMm / 2, side: widthMm / 2 };
    this.radius = Math.hypot(lengthMm / 2 + BUMPER_MM, widthMm / 2 + BUMPER_MM);
  }

  /** Overlap of a patch with a side of the world; 0 when they are apart. The way out is left in `dx`, `dy`. */
  private side(world: World, i: number, patch: Patch, x: number, y: number, s: number, c: number): number {
    const { sides } = world;
    const [mx, my] = [x + patch.ahead * s + patch.right * c, y + patch.ahead * c - patch.right * s];
    const [ex, ey] = [sides[i]! - mx, sides[i + 1]! - my];
    const [gx, gy] = [sides[i + 2]! - mx, sides[i + 3]! - my];
    const [f1, g1, f2, g2] = [ex * s + ey * c, ex * c - ey * s, gx * s + gy * c, gx * c - gy * s];
    const { half, side } = patch;
    const ahead = half - Math.min(f1, f2);
    const behind = Math.max(f1, f2) + half;
    if (ahead <= 0 || behind <= 0) return 0;
    const right = side - Math.min(g1, g2);
    const left = Math.max(g1, g2) + side;
    if (right <= 0 || left <= 0) return 0;
    const length = Math.hypot(f2 - f1, g2 - g1) || 1;
    const [nf, ng] = [(g2 - g1) / length, -(f2 - f1) / length];
    const off = f1 * nf + g1 * ng;
    const across = half * Math.abs(nf) + side * Math.abs(ng) - Math.abs(off);
    if (across <= 0) return 0;
    const least = Math.min(ahead, behind, right, left, across);
    // Back from what is ahead, and so on; f and g are turned back into x and y.
    const [f, g] =
      least === across
        ? [off > 0 ? -nf : nf, off > 0 ? -ng : ng]
        : least === ahead
          ? [-1, 0]
          : least === behind
            ? [1, 0]
            : least === right
              ? [0, -1]
              : [0, 1];
    this.dx = least * (f * s + g * c);
    this.dy = least * (f * c - g * s);
    return least;
  }

  /** The same for a round thing. */
  private round(world: World, i: number, patch: Patch, x: number, y: number, s: number, c: number): number {
    const { rounds } = world;
    const [mx, my] = [x + patch.ahead * s + patch.right * c, y + patch.ahead * c - patch.right * s];
    const [ex, ey, r] = [rounds[i]! - mx, rounds[i + 1]! - my, rounds[i + 2]!];
    const [f, g] = [ex * s + ey * c, ex * c - ey * s];
    const nearF = Math.min(patch.half, Math.max(-patch.half, f));
    const nearG = Math.min(patch.side, Math.max(-patch.side, g));
    const far = Math.hypot(f - nearF, g - nearG);
    const least = r - far;
    if (least <= 0) return 0;
    const [df, dg] = far > 0 ? [(nearF - f) / far, (nearG - g) / far] : [f > 0 ? -1 : 1, 0];
    this.dx = least * (df * s + dg * c);
    this.dy = least * (df * c - dg * s);
    return least;
  }

  /** Says in `dx`, `dy` how far the robot is pushed out of what it overlaps; true when it touches something. */
  push(world: World, x: number, y: number, s: number, c: number, holding: boolean): boolean {
    let [sumX, sumY, touches] = [0, 0, false];
    for (const i of world.nearSides) {
      if (this.side(world, i, this.body, x + sumX, y + sumY, s, c) === 0) continue;
      sumX += this.dx;
      sumY += this.dy;
      touches = true;
    }
    for (const i of world.nearRounds) {
      if (this.round(world, i, this.body, x + sumX, y + sumY, s, c) === 0) continue;
      touches = true;
      let share = 1;
      if (i / 3 === world.opponentAt) {
        share = (1 - world.opponent!.gives) * (holding ? HOLDS : 1);
        world.shiftOpponent(-this.dx * (1 - share), -this.dy * (1 - share));
      }
      sumX += this.dx * share;
      sumY += this.dy * share;
    }
    this.dx = sumX;
    this.dy = sumY;
    return touches;
  }

  /** The strip that a bumper on a side of the robot gives way into; it begins inside the body, where pushes end. */
  bumper(facingDeg: number, rightMm: number): Patch {
    const { half, side, ahead } = this.body;
    const deep = (BUMPER_MM + INSIDE_MM) / 2;
    const out = (BUMPER_MM - INSIDE_MM) / 2;
    if (Math.abs(facingDeg) === 90) {
      const right = Math.sign(facingDeg) * (side + out);
      return { ahead, right, half: half * 0.9, side: deep };
    }
    const front = facingDeg === 0 ? 1 : -1;
    // A bumper well off the middle is one of a pair, each as wide as half the robot.
    const paired = Math.abs(rightMm) > side / 4;
    const wide = paired ? side / 2 : side;
    return {
      ahead: ahead + front * (half + out),
      right: paired ? Math.sign(rightMm) * wide : 0,
      half: deep,
      side: wide,
    };
  }

  /** Whether anything near stands in a patch. */
  meets(world: World, patch: Patch, x: number, y: number, s: number, c: number): boolean {
    return (
      world.nearSides.some((i) => this.side(world, i, patch, x, y, s, c) > 0) ||
      world.nearRounds.some((i) => this.round(world, i, patch, x, y, s, c) > 0)
    );
  }
}
