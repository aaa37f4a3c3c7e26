import type { Box, BoxPlace } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import { Overlap, type Patch } from './overlap.ts';

/** A push moves a box no farther than this beyond its own depth, mm. */
const JUMP_MM = 0.5;
/** Times that a box is pushed out of what it is pushed against, at most. */
const PASSES = 4;
/** The friction of a face that bears evenly resists turning as one point at this share of its radius of gyration. */
const BEARS = 0.937;

/** The solid things round a box, as flat numbers: sides x₁ y₁ x₂ y₂, rounds x y r. */
interface Around {
  sides: Float64Array;
  rounds: Float64Array;
}

/** The shortest way out of all sides for a disc, mm: where it ends. */
export function discOut(sides: Float64Array, x: number, y: number, radius: number): [x: number, y: number] {
  for (let i = 0; i < sides.length; i += 4) {
    const [ax, ay] = [sides[i]!, sides[i + 1]!];
    const [dx, dy] = [sides[i + 2]! - ax, sides[i + 3]! - ay];
    const along = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy);
    const t = along < 0 ? 0 : along > 1 ? 1 : along;
    const [px, py] = [x - ax - t * dx, y - ay - t * dy];
    const far = Math.hypot(px, py);
    if (far >= radius || far === 0) continue;
    const by = (radius - far) / far;
    x += by * px;
    y += by * py;
  }
  return [x, y];
}

/**
 * A box that slides where it is pushed, and stays where the push ends. It turns as a body that rubs on the floor with its whole face
 * (ellipsoid of forces: Goyal, Ruina and Papadopoulos 1991; Lynch and Mason 1996), costs the robot no strength, and stops at what
 * stands fast.
 */
export class LightBox extends Overlap {
  x: number;
  y: number;
  /** Turned clockwise, rad. */
  turn: number;
  /** Where its sides and its round begin among the world's; −1 while it is not there. */
  sidesFrom = -1;
  roundFrom = -1;
  readonly widthMm: number;
  readonly depthMm: number;
  private readonly patch: Patch;
  private readonly radius: number;
  private readonly swing2: number;

  constructor({ xMm, yMm, widthMm, depthMm, turnDeg = 0 }: Box) {
    super();
    this.x = xMm;
    this.y = yMm;
    this.turn = radians(turnDeg);
    this.widthMm = widthMm;
    this.depthMm = depthMm;
    this.patch = { ahead: 0, right: 0, half: depthMm / 2, side: widthMm / 2 };
    this.radius = widthMm / 2;
    this.swing2 = (BEARS * BEARS * (widthMm * widthMm + depthMm * depthMm)) / 12;
  }

  get place(): BoxPlace {
    return { xMm: this.x, yMm: this.y, turnDeg: (this.turn * 180) / Math.PI };
  }

  /** Gives way by `depth` mm along (nx, ny) at the point where it is pushed, until something stands in its way. */
  give(around: Around, depth: number, nx: number, ny: number, atX: number, atY: number): void {
    const { x, y, turn } = this;
    this.shift(depth, nx, ny, atX - x, atY - y);
    if (this.roundFrom >= 0) this.roundStops(around);
    else this.stops(around);
    // One that stands in something already has nowhere to go: it must not jump out of it into the robot.
    if (Math.hypot(this.x - x, this.y - y) > depth + JUMP_MM) [this.x, this.y, this.turn] = [x, y, turn];
  }

  private shift(depth: number, nx: number, ny: number, rx: number, ry: number): void {
    const arm = nx * ry - ny * rx;
    const by = depth / (1 + (arm * arm) / this.swing2);
    this.x += by * nx;
    this.y += by * ny;
    if (this.roundFrom < 0) this.turn += (by * arm) / this.swing2;
  }

  private stops({ sides, rounds }: Around): void {
    for (let pass = 0; pass < PASSES; pass++) {
      let free = true;
      const out = (depth: number, s: number, c: number) => {
        if (depth === 0) return;
        free = false;
        const { outF, outG, atF, atG } = this;
        this.shift(depth, outF * s + outG * c, outF * c - outG * s, atF * s + atG * c, atF * c - atG * s);
      };
      for (let i = 0; i < sides.length; i += 4) {
        if (i >= this.sidesFrom && i < this.sidesFrom + 16) continue;
        const [s, c] = [sin(this.turn), cos(this.turn)];
        out(this.side(sides, i, this.patch, this.x, this.y, s, c), s, c);
      }
      for (let i = 0; i < rounds.length; i += 3) {
        const [s, c] = [sin(this.turn), cos(this.turn)];
        out(this.round(rounds, i, this.patch, this.x, this.y, s, c), s, c);
      }
      if (free) return;
    }
  }

  private roundStops({ sides, rounds }: Around): void {
    [this.x, this.y] = discOut(sides, this.x, this.y, this.radius);
    for (let i = 0; i < rounds.length; i += 3) {
      if (i === this.roundFrom) continue;
      const [dx, dy] = [this.x - rounds[i]!, this.y - rounds[i + 1]!];
      const far = Math.hypot(dx, dy) || 1;
      const deep = rounds[i + 2]! + this.radius - far;
      if (deep <= 0) continue;
      this.x += (deep * dx) / far;
      this.y += (deep * dy) / far;
    }
  }
}
