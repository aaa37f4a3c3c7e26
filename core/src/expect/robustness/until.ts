import type { Window } from '../formula.ts';
import { AT_ONCE, exactly, type End, type Part, type Reading } from './parts.ts';
import { columns, ms } from './recorded.ts';

/**
 * *Until* within a window from one sample on. Half-open: the first part must hold up to, not at, the moment of the second.
 */
export class Until {
  private readonly from: number;
  private readonly to: number;

  constructor(
    private readonly reading: Reading,
    private readonly end: End,
    private readonly first: Part,
    private readonly then: Part,
    window: Window,
  ) {
    this.from = ms(window[0]);
    this.to = window[1] === null ? Infinity : ms(window[1]);
  }

  /** The margin at a sample. */
  margin(i: number): number {
    const { times, end, goesOn } = this.reading.record;
    const n = times.length;
    const t = times[i]!;
    let [best, held, met] = [-Infinity, Infinity, false];
    let [j, read] = [i, i];
    let first: Float64Array = NOTHING;
    let then: Float64Array = NOTHING;
    for (; j < n && times[j]! - t <= this.to; j++) {
      if (j === read) {
        read = Math.min(n, read + AT_ONCE);
        // Whatever comes is worth no more than what has held so far.
        first = this.first.over(j, read, best, held);
        then = this.then.over(j, read, best, held);
      }
      if (times[j]! - t >= this.from) {
        met = true;
        best = Math.max(best, Math.min(held, then[j]!));
      }
      held = Math.min(held, first[j]!);
      if (held <= best) return best;
    }
    if (!met && t + this.from <= end) best = Math.min(held, this.reading.unknown(this.end));
    // The window goes on where the record does not.
    if (j === n && (t + this.from > end || (this.to === Infinity ? goesOn : t + this.to > end)))
      best = Math.max(best, Math.min(held, this.beyond()));
    return best;
  }

  /** What the second part may be after the record's end. */
  private beyond(): number {
    const { lasts, times } = this.reading.record;
    return lasts ? exactly(this.then, times.length - 1) : this.reading.unknown(this.end);
  }
}
const NOTHING = new Float64Array(0);

/** *Until* at any sample, each for itself. */
export class AnyUntil implements Part {
  private readonly margins = columns.take();
  constructor(private readonly until: Until) {}
  over(first: number, after: number): Float64Array {
    for (let i = first; i < after; i++) this.margins[i] = this.until.margin(i);
    return this.margins;
  }
}

/** A part at every sample, so that it can be read in any order. */
export class Told implements Part {
  private margins: Float64Array | null = null;
  constructor(
    private readonly of: Part,
    private readonly samples: number,
  ) {}
  over(): Float64Array {
    return (this.margins ??= this.of.over(0, this.samples, -Infinity, Infinity));
  }
}

/** *Until* with an open window on a whole record, read backwards: the second part now, or the first now and all of it from the next sample on. */
export class OpenUntil implements Part {
  private readonly margins = columns.take();
  private isTold = false;
  constructor(
    private readonly first: Told,
    private readonly then: Told,
    private readonly samples: number,
  ) {}

  over(): Float64Array {
    const { margins } = this;
    if (this.isTold) return margins;
    const [first, then] = [this.first.over(), this.then.over()];
    let later = -Infinity;
    for (let k = this.samples - 1; k >= 0; k--)
      margins[k] = later = Math.max(then[k]!, Math.min(first[k]!, later));
    this.isTold = true;
    return margins;
  }
}
