import { sin, cos } from '../quantity/index.ts';
import { Overlap, type Patch } from './overlap.ts';
import type { SimRobot } from './setup.ts';
import type { LightBox } from './lightBox.ts';
import type { World } from './world.ts';

/** How far a bumper gives way, mm. */
export const BUMPER_MM = 4;
const INSIDE_MM = 10;
/** A robot that holds its wheels gives way only this much of a push. */
const HOLDS = 0.4;
/** Overlaps are pushed out one after the other, so often at most, until none is deeper than this, mm. */
const PASSES = 8;
const SETTLED_MM = 0.02;
/** A light box is asked so often to give way; what it does not is held by what stands behind it, and stops the robot. */
const GIVES = 2;

/** Where the robot stands, mm, and looks, rad. */
export interface Stand {
  x: number;
  y: number;
  theta: number;
}

/**
 * The robot's outline against everything solid. What overlaps is pushed out the shortest way (separating axes of a
 * rectangle and a line), so that the robot stops at a wall, slides along it, and turns away from it.
 */
export class Outline extends Overlap {
  private readonly body: Patch;
  /** Friction of the outline against what stands fast: share of a push that resists sliding (Coulomb). */
  private readonly friction: number;
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
  /** Square of the radius at which a push turns the robot as readily as it moves it, mm². */
  private readonly swing2: number;

  constructor({
    lengthMm,
    widthMm,
    axleFromFrontMm,
    drive,
  }: Pick<SimRobot, 'lengthMm' | 'widthMm' | 'axleFromFrontMm'> & { drive?: SimRobot['drive'] }) {
    super();
    this.ahead = axleFromFrontMm - lengthMm / 2;
    this.body = { ahead: this.ahead, right: 0, half: lengthMm / 2, side: widthMm / 2 };
    this.friction = drive?.wallFriction ?? 0;
    this.radius = Math.hypot(lengthMm / 2 + BUMPER_MM, widthMm / 2 + BUMPER_MM);
    // A plate's radius of gyration is √((l² + w²)/12); its wheels grip, so that it turns half as readily.
    this.swing2 = (lengthMm * lengthMm + widthMm * widthMm) / 6;
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
   * 2007, position based dynamics): pushed at a corner, it turns. What it would slide along what it touches since it stood as `was`
   * is held back by friction, up to its share of the push (Macklin et al. 2014, Unified particle physics, section 6.1).
   */
  push(
    world: World,
    x: number,
    y: number,
    theta: number,
    holding: boolean,
    was: Stand = { x, y, theta },
  ): boolean {
    let [px, py, pt, touches] = [x, y, theta, false];
    let [s, c] = [sin(theta), cos(theta)];
    let deepest = 0;
    const shift = (by: number, f: number, g: number) => {
      const arm = g * this.atF - f * this.atG;
      const moved = by / (1 + (arm * arm) / this.swing2);
      px += moved * (f * s + g * c);
      py += moved * (f * c - g * s);
      if (arm === 0) return;
      pt += (moved * arm) / this.swing2;
      s = sin(pt);
      c = cos(pt);
    };
    const [s0, c0] = [sin(was.theta), cos(was.theta)];
    const give = (depth: number, share: number) => {
      if (depth > deepest) deepest = depth;
      const { outF, outG, atF, atG } = this;
      shift(share * depth, outF, outG);
      if (this.friction === 0) return;
      const slidX = px + atF * s + atG * c - (was.x + atF * s0 + atG * c0);
      const slidY = py + atF * c - atG * s - (was.y + atF * c0 - atG * s0);
      const slid = slidX * (outF * c - outG * s) - slidY * (outF * s + outG * c);
      const most = this.friction * share * depth;
      shift(-Math.max(-most, Math.min(most, slid)), -outG, outF);
    };
    /** Whether a light box takes the push; the touched place and the way out are the last overlap's. */
    const shoves = (pass: number, box: LightBox | undefined, depth: number): boolean => {
      if (!box || pass >= GIVES) return false;
      const { outF, outG, atF, atG } = this;
      if (depth > deepest) deepest = depth;
      world.shove(
        box,
        depth,
        -(outF * s + outG * c),
        -(outF * c - outG * s),
        px + atF * s + atG * c,
        py + atF * c - atG * s,
      );
      return true;
    };
    for (let pass = 0; pass < PASSES; pass++) {
      deepest = 0;
      for (const from of world.nearBoxes) {
        if (!world.holds(from, px + this.ahead * s, py + this.ahead * c)) continue;
        touches = true;
        give(this.out(world, from, px, py, s, c), 1);
      }
      for (const i of world.nearSides) {
        const depth = this.side(world.sides, i, this.body, px, py, s, c);
        if (depth === 0) continue;
        touches = true;
        if (!shoves(pass, world.lightOfSide(i), depth)) give(depth, 1);
      }
      for (const i of world.nearRounds) {
        const depth = this.round(world.rounds, i, this.body, px, py, s, c);
        if (depth === 0) continue;
        touches = true;
        if (shoves(pass, world.lightOfRound(i), depth)) continue;
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
      world.nearSides.some((i) => this.side(world.sides, i, patch, x, y, s, c) > 0) ||
      world.nearRounds.some((i) => this.round(world.rounds, i, patch, x, y, s, c) > 0)
    );
  }
}
