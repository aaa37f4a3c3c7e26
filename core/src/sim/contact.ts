import { sin, cos } from '../quantity/index.ts';
import type { SimRobot } from './setup.ts';
import type { World } from './world.ts';

/** How far a bumper gives way, mm. */
export const BUMPER_MM = 4;
const INSIDE_MM = 10;
/** A robot that holds its wheels gives way only this much of a push. */
const HOLDS = 0.4;
/** Overlaps are pushed out one after the other, so often at most, until none is deeper than this, mm. */
const PASSES = 8;
const SETTLED_MM = 0.02;
/** A side that is so nearly square to the robot meets it with its whole face, and turns it no more; sine of half a degree. */
const FLUSH = 0.009;

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
  /** How far to move, mm, and to turn, rad, to be clear of everything, set by `push`. */
  dx = 0;
  dy = 0;
  turn = 0;
  /** How deep it still stands in something that `push` could not get it out of, mm. */
  stuckMm = 0;
  /** Of the last overlap found: the way out ahead and to the right, and where the robot is touched, from its axle's middle. */
  private outF = 0;
  private outG = 0;
  private atF = 0;
  private atG = 0;
  /** Square of the radius at which a push turns the robot as readily as it moves it, mm². */
  private readonly swing2: number;

  constructor({
    lengthMm,
    widthMm,
    axleFromFrontMm,
  }: Pick<SimRobot, 'lengthMm' | 'widthMm' | 'axleFromFrontMm'>) {
    this.ahead = axleFromFrontMm - lengthMm / 2;
    this.body = { ahead: this.ahead, right: 0, half: lengthMm / 2, side: widthMm / 2 };
    this.radius = Math.hypot(lengthMm / 2 + BUMPER_MM, widthMm / 2 + BUMPER_MM);
    // A plate's radius of gyration is √((l² + w²)/12); its wheels grip, so that it turns half as readily.
    this.swing2 = (lengthMm * lengthMm + widthMm * widthMm) / 6;
  }

  /** Overlap of a patch with a side of the world, mm; 0 when they are apart. */
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
    if (least === across) {
      // A face of the thing meets a corner of the robot, or the whole of its edge.
      [this.outF, this.outG] = off > 0 ? [-nf, -ng] : [nf, ng];
      const corner = (out: number, reach: number) => (Math.abs(out) < FLUSH ? 0 : out > 0 ? -reach : reach);
      [this.atF, this.atG] = [corner(this.outF, half), corner(this.outG, side)];
    } else {
      // An end of the thing meets an edge of the robot.
      [this.outF, this.outG] =
        least === ahead ? [-1, 0] : least === behind ? [1, 0] : least === right ? [0, -1] : [0, 1];
      const first = this.outF * (f1 - f2) + this.outG * (g1 - g2) > 0;
      [this.atF, this.atG] = first ? [f1, g1] : [f2, g2];
    }
    this.atF += patch.ahead;
    this.atG += patch.right;
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
    [this.outF, this.outG] = far > 0 ? [(nearF - f) / far, (nearG - g) / far] : [f > 0 ? -1 : 1, 0];
    [this.atF, this.atG] = [patch.ahead + nearF, patch.right + nearG];
    return least;
  }

  /** The shortest way out of a box that holds the robot's middle; the box's sides run round it. */
  private out(world: World, from: number, x: number, y: number, s: number, c: number): number {
    const { ahead, half, side } = this.body;
    const [mx, my] = [x + ahead * s, y + ahead * c];
    const { sides } = world;
    let least = Infinity;
    for (let i = from; i < from + 16; i += 4) {
      const [ax, ay] = [sides[i]!, sides[i + 1]!];
      const [bx, by] = [sides[i + 2]!, sides[i + 3]!];
      const length = Math.hypot(bx - ax, by - ay) || 1;
      // Outward: to the right of a side that runs anticlockwise.
      const [nx, ny] = [(by - ay) / length, -(bx - ax) / length];
      const [nf, ng] = [nx * s + ny * c, nx * c - ny * s];
      const deep = (ax - mx) * nx + (ay - my) * ny + half * Math.abs(nf) + side * Math.abs(ng);
      if (deep < least) [least, this.outF, this.outG] = [deep, nf, ng];
    }
    [this.atF, this.atG] = [ahead, 0];
    return least;
  }

  /**
   * Says in `dx`, `dy` and `turn` how the robot gives way to what it overlaps, and in `stuckMm` what is left of that; true when it
   * touches something. Each overlap is shared out between moving and turning as the inertia of a rigid body does (Müller et al.
   * 2007, position based dynamics): pushed at a corner, it turns.
   */
  push(world: World, x: number, y: number, theta: number, holding: boolean): boolean {
    let [px, py, pt, touches] = [x, y, theta, false];
    let [s, c] = [sin(theta), cos(theta)];
    let deepest = 0;
    const give = (depth: number, share: number) => {
      if (depth > deepest) deepest = depth;
      const arm = this.outG * this.atF - this.outF * this.atG;
      const by = (share * depth) / (1 + (arm * arm) / this.swing2);
      px += by * (this.outF * s + this.outG * c);
      py += by * (this.outF * c - this.outG * s);
      if (arm === 0) return;
      pt += (by * arm) / this.swing2;
      s = sin(pt);
      c = cos(pt);
    };
    for (let pass = 0; pass < PASSES; pass++) {
      deepest = 0;
      for (const from of world.nearBoxes) {
        if (!world.holds(from, px + this.ahead * s, py + this.ahead * c)) continue;
        touches = true;
        give(this.out(world, from, px, py, s, c), 1);
      }
      for (const i of world.nearSides) {
        const depth = this.side(world, i, this.body, px, py, s, c);
        if (depth === 0) continue;
        touches = true;
        give(depth, 1);
      }
      for (const i of world.nearRounds) {
        const depth = this.round(world, i, this.body, px, py, s, c);
        if (depth === 0) continue;
        touches = true;
        let share = 1;
        if (i / 3 === world.opponentAt) {
          share = (1 - world.opponent!.gives) * (holding ? HOLDS : 1);
          const away = -(1 - share) * depth;
          world.shiftOpponent(away * (this.outF * s + this.outG * c), away * (this.outF * c - this.outG * s));
        }
        give(depth, share);
      }
      if (deepest < SETTLED_MM) break;
    }
    this.dx = px - x;
    this.dy = py - y;
    this.turn = pt - theta;
    this.stuckMm = deepest < SETTLED_MM ? 0 : deepest;
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
