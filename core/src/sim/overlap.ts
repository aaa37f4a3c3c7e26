/** A side that is so nearly square to a body meets it with its whole face, and turns it no more; sine of half a degree. */
const FLUSH = 0.009;

/** A rectangle on a body: its middle ahead of the body's own (a robot's is that of its axle) and to the right, and half its sizes, mm. */
export interface Patch {
  ahead: number;
  right: number;
  half: number;
  side: number;
}

/** How deep a rectangle stands in straight sides and rounds, and where it is touched (separating axes). */
export class Overlap {
  /** Of the last overlap found: the way out ahead and to the right, and where the body is touched, from its own middle. */
  outF = 0;
  outG = 0;
  atF = 0;
  atG = 0;

  /** Overlap of a patch on a body at (x, y), looking along (s, c), with a side given as x₁ y₁ x₂ y₂, mm; 0 when they are apart. */
  side(sides: Float64Array, i: number, patch: Patch, x: number, y: number, s: number, c: number): number {
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

  /** The same for a round thing, given as x y r. */
  round(rounds: Float64Array, i: number, patch: Patch, x: number, y: number, s: number, c: number): number {
    const [mx, my] = [x + patch.ahead * s + patch.right * c, y + patch.ahead * c - patch.right * s];
    const [ex, ey, r] = [rounds[i]! - mx, rounds[i + 1]! - my, rounds[i + 2]!];
    const [f, g] = [ex * s + ey * c, ex * c - ey * s];
    const nearF = Math.min(patch.half, Math.max(-patch.half, f));
    const nearG = Math.min(patch.side, Math.max(-patch.side, g));
    const far = Math.hypot(f - nearF, g - nearG);
    if (far >= r) return 0;
    if (far === 0) return this.roundWithin(patch, f, g, r);
    [this.outF, this.outG] = [(nearF - f) / far, (nearG - g) / far];
    [this.atF, this.atG] = [patch.ahead + nearF, patch.right + nearG];
    return r - far;
  }

  /** A round thing whose middle lies within the rectangle: the way out is past the nearest edge, and as far as the thing is wide. */
  private roundWithin({ ahead, right, half, side }: Patch, f: number, g: number, r: number): number {
    const [toEnd, toSide] = [half - Math.abs(f), side - Math.abs(g)];
    const [signF, signG] = [f > 0 ? 1 : -1, g > 0 ? 1 : -1];
    [this.outF, this.outG] = toEnd < toSide ? [-signF, 0] : [0, -signG];
    [this.atF, this.atG] =
      toEnd < toSide ? [ahead + signF * half, right + g] : [ahead + f, right + signG * side];
    return r + Math.min(toEnd, toSide);
  }
}
