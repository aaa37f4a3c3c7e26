import { cornersOf, isThere, solidsAt, type Course, type Opponent } from '../course/index.ts';
import { radians, sin, cos, tan, asin, acos, atan2 } from '../quantity/index.ts';
import { discOut, LightBox } from './lightBox.ts';

/** How wide a thing must look to send an echo back, from rim to rim, degrees. */
const SMALLEST_DEG = 0.9;
/** Sides longer than this are wide enough wherever they are heard, mm. */
const LONG_MM = 150;
/** Where something hides what would answer, the cone is looked through by rays so far apart, degrees. */
const RAY_DEG = 0.5;
/** An edge sends back enough to be heard up to here, mm, near the middle of the cone. */
const EDGE_HEARD_MM = 1000;
/** Half the thickness of a wall that has no length, mm. */
const THIN_MM = 1;
/** How often things that move are moved on, ms. */
const MOVE_MS = 20;

/** What was met: how far away, how far off square, how much infrared it sends back. */
export interface Met {
  mm: number;
  obliqueDeg: number;
  reflectance: number;
}

/** How far off square a side is met, degrees, from the cosine of that. */
const slantOf = (square: number): number => (acos(Math.min(1, square)) * 180) / Math.PI;

/**
 * Everything solid around a robot as flat numbers: straight sides as x₁ y₁ x₂ y₂, rounds as x y r, all in mm.
 * Boxes come and go with the time; the arrays are made anew only when something changes.
 */
export class World {
  sides = new Float64Array(0);
  rounds = new Float64Array(0);
  /** Index in `rounds` of the opponent; −1 without one. */
  opponentAt = -1;
  readonly empty: boolean;
  private sideReflects: number[] = [];
  private roundReflects: number[] = [];
  /** Sides and rounds that may be near the robot, as indexes into their arrays. */
  readonly nearSides: number[] = [];
  readonly nearRounds: number[] = [];
  /** Boxes that hold the place that was asked about: where their four sides begin. */
  readonly nearBoxes: number[] = [];
  private boxesFrom: number[] = [];
  /** Boxes that are pushed along, by their index in the course. */
  readonly light = new Map<number, LightBox>();
  private readonly course: Course;
  private readonly laterS: number;
  private readonly changes: number[];
  private readonly movesFromMs: number;
  private opponentX = 0;
  private opponentY = 0;
  private opponentBearing = 0;
  /** The nearest thing that the last look met; its numbers are good until the next look. */
  readonly met: Met = { mm: 0, obliqueDeg: 0, reflectance: 0 };

  constructor(course: Course, laterS = 0) {
    this.course = course;
    this.laterS = laterS;
    const boxes = course.boxes ?? [];
    const moments = boxes.flatMap(({ stays }) => (stays ?? []).flatMap(({ fromS, toS }) => [fromS, toS]));
    this.changes = [...new Set(moments.filter((s) => s !== null))]
      .map((s) => Math.round(1000 * (s + laterS)))
      .sort((a, b) => a - b);
    this.movesFromMs = Math.min(
      ...boxes.map(({ moves }) => (moves ? 1000 * (moves.fromS + laterS) : Infinity)),
    );
    boxes.forEach((box, i) => {
      if (box.light) this.light.set(i, new LightBox(box));
    });
    const { opponent } = course;
    if (opponent) {
      this.opponentX = opponent.xMm;
      this.opponentY = opponent.yMm;
      this.opponentBearing = radians(opponent.bearingDeg);
    }
    this.empty =
      !opponent && boxes.length === 0 && (course.walls ?? []).length === 0 && course.rim !== 'wall';
    this.build(0);
  }

  /** Puts the world as it is at a time in ms; says when it must be asked again. */
  build(nowMs: number): number {
    // Moments are rounded to whole milliseconds: half of one more is surely past them.
    const atS = (nowMs + 0.6) / 1000 - this.laterS;
    const sides: number[] = [];
    const rounds: number[] = [];
    this.sideReflects = [];
    this.roundReflects = [];
    this.boxesFrom = [];
    for (const box of this.light.values()) [box.sidesFrom, box.roundFrom] = [-1, -1];
    for (const solid of solidsAt(this.course, atS, (box) => this.light.get(box)?.place ?? null)) {
      const light = this.light.get(solid.box);
      if (light) [light.sidesFrom, light.roundFrom] = solid.round ? [-1, rounds.length] : [sides.length, -1];
      if (solid.box >= 0 && solid.sides.length === 4) this.boxesFrom.push(sides.length);
      for (const [a, b] of solid.sides) {
        // A wall without length is a thin post.
        if (a.xMm === b.xMm && a.yMm === b.yMm) {
          rounds.push(a.xMm, a.yMm, THIN_MM);
          this.roundReflects.push(solid.reflectance);
          continue;
        }
        sides.push(a.xMm, a.yMm, b.xMm, b.yMm);
        this.sideReflects.push(solid.reflectance);
      }
      if (solid.round) {
        rounds.push(solid.round.centre.xMm, solid.round.centre.yMm, solid.round.radiusMm);
        this.roundReflects.push(solid.reflectance);
      }
    }
    const { opponent } = this.course;
    if (opponent) {
      this.opponentAt = rounds.length / 3;
      rounds.push(this.opponentX, this.opponentY, opponent.radiusMm);
      this.roundReflects.push(0.6);
    }
    this.sides = Float64Array.from(sides);
    this.rounds = Float64Array.from(rounds);
    const next = this.changes.find((ms) => ms > nowMs) ?? Infinity;
    if (this.movesFromMs === Infinity) return next;
    // Things begin to move between two whole milliseconds; the clock knows whole ones.
    return Math.min(next, nowMs < this.movesFromMs ? Math.ceil(this.movesFromMs) : nowMs + MOVE_MS);
  }

  /** Moves the opponent on by `dtS` as it does, the robot being at (x, y). */
  driveOpponent(dtS: number, x: number, y: number): void {
    const { opponent } = this.course;
    if (!opponent || opponent.does === 'stands') return;
    const far = opponent.speedMmPerS * dtS;
    if (opponent.does === 'circles') this.opponentBearing += far / (2.5 * opponent.radiusMm);
    else this.opponentBearing = atan2(x - this.opponentX, y - this.opponentY);
    this.shiftOpponent(far * sin(this.opponentBearing), far * cos(this.opponentBearing));
    this.keepOpponentOut();
  }

  /** The other robot stops at walls and boxes as well: it is moved out of what it overlaps. */
  private keepOpponentOut(): void {
    const { opponentX, opponentY } = this;
    const [x, y] = discOut(this.sides, opponentX, opponentY, this.course.opponent!.radiusMm);
    this.shiftOpponent(x - opponentX, y - opponentY);
  }

  /** The light box that a side belongs to, by where the side begins. */
  lightOfSide(i: number): LightBox | undefined {
    for (const box of this.light.values())
      if (box.sidesFrom >= 0 && i >= box.sidesFrom && i < box.sidesFrom + 16) return box;
    return undefined;
  }
  lightOfRound(i: number): LightBox | undefined {
    for (const box of this.light.values()) if (box.roundFrom === i) return box;
    return undefined;
  }

  /** Pushes a light box by `depth` mm along (nx, ny) at a point, as far as nothing stands in its way. */
  shove(box: LightBox, depth: number, nx: number, ny: number, atX: number, atY: number): void {
    box.give(this, depth, nx, ny, atX, atY);
    const { sides, rounds } = this;
    if (box.roundFrom >= 0) {
      rounds[box.roundFrom] = box.x;
      rounds[box.roundFrom + 1] = box.y;
      return;
    }
    const { widthMm, depthMm } = box;
    const corners = cornersOf({ widthMm, depthMm }, box.place);
    corners.forEach(({ xMm, yMm }, i) => {
      const from = box.sidesFrom + 4 * i;
      const before = box.sidesFrom + 4 * ((i + 3) % 4);
      sides[from] = xMm;
      sides[from + 1] = yMm;
      sides[before + 2] = xMm;
      sides[before + 3] = yMm;
    });
  }

  /** Puts the other robot where it has driven itself. */
  placeOpponent(x: number, y: number): void {
    this.shiftOpponent(x - this.opponentX, y - this.opponentY);
  }

  shiftOpponent(dx: number, dy: number): void {
    this.opponentX += dx;
    this.opponentY += dy;
    this.rounds[3 * this.opponentAt] = this.opponentX;
    this.rounds[3 * this.opponentAt + 1] = this.opponentY;
  }

  get opponent(): Opponent | undefined {
    return this.course.opponent;
  }
  get opponentPlace(): [x: number, y: number] {
    return [this.opponentX, this.opponentY];
  }

  /** Whether a box holds a point; its sides begin at `from` and run anticlockwise. */
  holds(from: number, x: number, y: number): boolean {
    const { sides } = this;
    for (let i = from; i < from + 16; i += 4) {
      const [ax, ay] = [sides[i]!, sides[i + 1]!];
      if ((sides[i + 2]! - ax) * (y - ay) - (sides[i + 3]! - ay) * (x - ax) <= 0) return false;
    }
    return true;
  }

  /** Distance in mm from a point to the nearest solid thing; notes what lies within `reach` of it. */
  nearest(x: number, y: number, reach: number): number {
    const { sides, rounds, nearSides, nearRounds } = this;
    nearSides.length = 0;
    nearRounds.length = 0;
    this.nearBoxes.length = 0;
    let best = Infinity;
    for (const from of this.boxesFrom) {
      if (!this.holds(from, x, y)) continue;
      this.nearBoxes.push(from);
      best = 0;
    }
    for (let i = 0; i < sides.length; i += 4) {
      const [ax, ay] = [sides[i]!, sides[i + 1]!];
      const [dx, dy] = [sides[i + 2]! - ax, sides[i + 3]! - ay];
      const square = dx * dx + dy * dy;
      let t = square === 0 ? 0 : ((x - ax) * dx + (y - ay) * dy) / square;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      const [px, py] = [x - ax - t * dx, y - ay - t * dy];
      const far = Math.sqrt(px * px + py * py);
      if (far < best) best = far;
      if (far < reach) nearSides.push(i);
    }
    for (let i = 0; i < rounds.length; i += 3) {
      const far = Math.hypot(x - rounds[i]!, y - rounds[i + 1]!) - rounds[i + 2]!;
      if (far < best) best = far;
      if (far < reach) nearRounds.push(i);
    }
    return best;
  }

  /**
   * The nearest thing inside a cone (half angle `half`, radians) from (x, y) along the direction (s, c) that is not hidden: each
   * side is clipped to the cone exactly and its nearest point taken. A side met more than `slantDeg` off square sends its echo
   * elsewhere; its ends are heard when they lie near the cone's middle. What does not answer hides what is behind it all the same.
   * False when nothing answers.
   */
  look(x: number, y: number, s: number, c: number, half: number, slantDeg = (360 / Math.PI) * half): boolean {
    const { sides, rounds, met } = this;
    const slope = tan(half);
    const limit = cos((slantDeg * Math.PI) / 180);
    const inner = tan(half / 2);
    const least = (SMALLEST_DEG * Math.PI) / 180;
    let best = Infinity;
    let [bestU, bestV] = [0, 0];
    for (let i = 0; i < sides.length; i += 4) {
      const [ex, ey, fx, fy] = [sides[i]! - x, sides[i + 1]! - y, sides[i + 2]! - x, sides[i + 3]! - y];
      // u along the axis, v to its right.
      const [u1, v1, u2, v2] = [ex * s + ey * c, ex * c - ey * s, fx * s + fy * c, fx * c - fy * s];
      if (u1 <= 0 && u2 <= 0) continue;
      const [du, dv] = [u2 - u1, v2 - v1];
      const length = Math.sqrt(du * du + dv * dv);
      if (length < LONG_MM && length < Math.min(Math.hypot(u1, v1), Math.hypot(u2, v2)) * least) continue;
      const reflects = this.sideReflects[i >> 2]!;
      if (u1 > 0 && u1 < EDGE_HEARD_MM && Math.abs(v1) < u1 * inner) {
        const far = Math.sqrt(u1 * u1 + v1 * v1);
        if (far < best) [best, bestU, bestV, met.obliqueDeg, met.reflectance] = [far, u1, v1, 0, reflects];
      }
      if (u2 > 0 && u2 < EDGE_HEARD_MM && Math.abs(v2) < u2 * inner) {
        const far = Math.sqrt(u2 * u2 + v2 * v2);
        if (far < best) [best, bestU, bestV, met.obliqueDeg, met.reflectance] = [far, u2, v2, 0, reflects];
      }
      const square = Math.abs(dv) / length;
      if (!(square >= limit)) continue;
      // Keep the part with v ≤ u·slope and −v ≤ u·slope.
      let [from, to] = [0, 1];
      for (const sign of [1, -1]) {
        const [start, end] = [sign * v1 - u1 * slope, sign * v2 - u2 * slope];
        if (start > 0 && end > 0) {
          from = 2;
          break;
        }
        if (start > 0) from = Math.max(from, start / (start - end));
        else if (end > 0) to = Math.min(to, start / (start - end));
      }
      if (from >= to) continue;
      let t = -(u1 * du + v1 * dv) / (length * length);
      t = t < from ? from : t > to ? to : t;
      const [pu, pv] = [u1 + t * du, v1 + t * dv];
      const far = Math.sqrt(pu * pu + pv * pv);
      if (far < best)
        [best, bestU, bestV, met.obliqueDeg, met.reflectance] = [far, pu, pv, slantOf(square), reflects];
    }
    for (let i = 0; i < rounds.length; i += 3) {
      const [ex, ey, r] = [rounds[i]! - x, rounds[i + 1]! - y, rounds[i + 2]!];
      const far = Math.hypot(ex, ey);
      const [u, v] = [ex * s + ey * c, ex * c - ey * s];
      if (u <= 0 || far <= r) continue;
      const [off, wide] = [atan2(Math.abs(v), u), asin(r / far)];
      if (off - wide > half || 2 * wide < least) continue;
      const share = (far - r) / far;
      if (far - r < best)
        [best, bestU, bestV, met.obliqueDeg, met.reflectance] = [
          far - r,
          u * share,
          v * share,
          0,
          this.roundReflects[i / 3]!,
        ];
    }
    met.mm = best;
    if (best === Infinity) return false;
    // A hair short of it, so that it does not hide itself.
    const share = 1 - 1e-6 - 0.01 / Math.max(best, 0.02);
    const [px, py] = [bestU * s + bestV * c, bestU * c - bestV * s];
    if (sides.length + rounds.length <= 4 || this.clear(x, y, x + share * px, y + share * py)) return true;
    return this.lookByRays(x, y, s, c, half, limit);
  }

  /** The nearest answer among the first things that rays of a cone meet. */
  private lookByRays(x: number, y: number, s: number, c: number, half: number, limit: number): boolean {
    const { sides, rounds, met } = this;
    const steps = Math.ceil((2 * half * 180) / Math.PI / RAY_DEG);
    const axis = atan2(s, c);
    const least = (SMALLEST_DEG * Math.PI) / 180;
    met.mm = Infinity;
    for (let k = 0; k <= steps; k++) {
      const bearing = axis + half * ((2 * k) / steps - 1);
      const [rs, rc] = [sin(bearing), cos(bearing)];
      let [first, slant, reflects] = [Infinity, -1, 0];
      for (let i = 0; i < sides.length; i += 4) {
        const [wx, wy] = [sides[i + 2]! - sides[i]!, sides[i + 3]! - sides[i + 1]!];
        const [ex, ey] = [sides[i]! - x, sides[i + 1]! - y];
        const cross = rs * wy - rc * wx;
        if (cross === 0) continue;
        const [t, u] = [(ex * wy - ey * wx) / cross, (ex * rc - ey * rs) / cross];
        if (t <= 0 || u < 0 || u > 1 || t >= first) continue;
        const square = Math.abs(wx * c - wy * s) / Math.hypot(wx, wy);
        [first, slant, reflects] = [t, square >= limit ? slantOf(square) : -1, this.sideReflects[i >> 2]!];
      }
      for (let i = 0; i < rounds.length; i += 3) {
        const [ex, ey, r] = [rounds[i]! - x, rounds[i + 1]! - y, rounds[i + 2]!];
        const [along, off] = [ex * rs + ey * rc, ex * rc - ey * rs];
        if (along <= 0 || Math.abs(off) >= r) continue;
        const t = along - Math.sqrt(r * r - off * off);
        if (t <= 0 || t >= first) continue;
        const heard = 2 * asin(Math.min(1, r / Math.hypot(ex, ey))) >= least;
        [first, slant, reflects] = [t, heard ? 0 : -1, this.roundReflects[i / 3]!];
      }
      if (slant >= 0 && first < met.mm) [met.mm, met.obliqueDeg, met.reflectance] = [first, slant, reflects];
    }
    return met.mm < Infinity;
  }

  /** Whether a straight line between two points meets nothing solid. */
  clear(x: number, y: number, toX: number, toY: number): boolean {
    const { sides, rounds } = this;
    const [dx, dy] = [toX - x, toY - y];
    for (let i = 0; i < sides.length; i += 4) {
      const [ex, ey] = [sides[i]! - x, sides[i + 1]! - y];
      const [wx, wy] = [sides[i + 2]! - sides[i]!, sides[i + 3]! - sides[i + 1]!];
      const cross = dx * wy - dy * wx;
      if (cross === 0) continue;
      const [t, w] = [(ex * wy - ey * wx) / cross, (ex * dy - ey * dx) / cross];
      if (t > 0 && t < 1 && w >= 0 && w <= 1) return false;
    }
    const square = dx * dx + dy * dy || 1;
    for (let i = 0; i < rounds.length; i += 3) {
      const t = Math.min(1, Math.max(0, ((rounds[i]! - x) * dx + (rounds[i + 1]! - y) * dy) / square));
      if (Math.hypot(rounds[i]! - x - t * dx, rounds[i + 1]! - y - t * dy) < rounds[i + 2]!) return false;
    }
    return true;
  }

  /** When the last finger has left the button, ms; 0 where none comes. */
  get lastPressMs(): number {
    const ends = (this.course.presses ?? []).map(({ toS }) => (toS ?? 0) + this.laterS);
    return 1000 * Math.max(0, ...ends);
  }

  /** Whether a finger presses the button at a time, ms. */
  pressed(nowMs: number): boolean {
    const { presses } = this.course;
    return presses !== undefined && isThere(presses, nowMs / 1000 - this.laterS);
  }

  /** Whether a point lies on the mat. */
  onMat(x: number, y: number): boolean {
    return x >= 0 && y >= 0 && x <= this.course.widthMm && y <= this.course.heightMm;
  }
}
