import type { Window } from '../formula.ts';
import { AT_ONCE, Comparison, exactly, type End, type Part, type Reading } from './parts.ts';
import { columns, indexes, ms } from './recorded.ts';

/** A window in whole ms, and what is known of it where the record ends. */
abstract class WindowPart {
  protected readonly from: number;
  protected readonly to: number;

  constructor(
    protected readonly reading: Reading,
    protected readonly end: End,
    protected readonly of: Part,
    window: Window,
    /** *Eventually* looks for the largest margin, *always* for the least. */
    protected readonly largest: boolean,
  ) {
    this.from = ms(window[0]);
    this.to = window[1] === null ? Infinity : ms(window[1]);
  }

  /** Whether what comes after the end of the record decides this end of the margin at a moment, ms. */
  protected runsOut(t: number): boolean {
    const { lasts, goesOn, end } = this.reading.record;
    const open = this.to === Infinity ? goesOn : !lasts && t + this.to > end;
    if (!open) return false;
    this.reading.metUnknown = true;
    return this.largest === (this.end === 'at best');
  }

  /** Only the last state reaches into a window that begins after the end. */
  protected isAfterEnd(t: number): boolean {
    const { lasts, end } = this.reading.record;
    return lasts && t + this.from > end;
  }
}

/** *Always* and *eventually* where the record begins. */
export class WindowAtStart extends WindowPart {
  /** The margin there. */
  margin(floor: number, ceiling: number): number {
    const { times } = this.reading.record;
    const t = times[0]!;
    if (this.runsOut(t)) return this.reading.unknown(this.end);
    const n = times.length;
    let first = 0;
    while (first < n && times[first]! - t < this.from) first++;
    let after = this.to === Infinity ? n : first;
    while (after < n && times[after]! - t <= this.to) after++;
    if (first === n && this.isAfterEnd(t)) [first, after] = [n - 1, n];
    if (first >= after) return this.reading.unknown(this.end);
    const simple = this.of instanceof Comparison ? this.ofReadings(this.of, first, after) : NaN;
    if (simple === simple) return simple;
    return this.largest ? this.most(first, after, floor, ceiling) : this.least(first, after, floor, ceiling);
  }

  /** Straight from a signal; NaN where that has gaps or is not known as a whole. */
  private ofReadings({ whole, sign, value }: Comparison, first: number, after: number): number {
    if (!whole) return NaN;
    // The largest margin below a value is that of the least reading.
    const highest = this.largest === sign > 0;
    let best = whole[first]!;
    if (best !== best) return NaN;
    for (let i = first + 1; i < after; i++) {
      const one = whole[i]!;
      if (one !== one) return NaN;
      if (highest ? one > best : one < best) best = one;
    }
    return sign * (best - value);
  }

  private least(first: number, after: number, floor: number, ceiling: number): number {
    let least = Infinity;
    for (let a = first; a < after && least > floor; a += AT_ONCE) {
      const b = Math.min(after, a + AT_ONCE);
      const margins = this.of.over(a, b, floor, Math.min(least, ceiling));
      for (let i = a; i < b; i++) if (margins[i]! < least) least = margins[i]!;
    }
    return least;
  }

  private most(first: number, after: number, floor: number, ceiling: number): number {
    let most = -Infinity;
    for (let a = first; a < after && most < ceiling; a += AT_ONCE) {
      const b = Math.min(after, a + AT_ONCE);
      const margins = this.of.over(a, b, Math.max(most, floor), ceiling);
      for (let i = a; i < b; i++) if (margins[i]! > most) most = margins[i]!;
    }
    return most;
  }
}

/** The same from any sample on, by a monotone queue of those that may still be the best: linear in the samples that are asked for. */
export class SlidingWindow extends WindowPart implements Part {
  private readonly margins = columns.take();
  /** The queue: margins and their samples. */
  private readonly values = columns.take();
  private readonly samples = indexes.take();
  private head = 0;
  private tail = 0;
  /** The first sample of the window, the first after it, and up to where the inner margins are read. */
  private first = 0;
  private after = 0;
  private read = 0;
  private inner: Float64Array = this.margins;

  over(first: number, after: number): Float64Array {
    const { margins, samples, values, from, to, largest } = this;
    const { times } = this.reading.record;
    const n = times.length;
    for (let i = first; i < after; i++) {
      const t = times[i]!;
      if (this.runsOut(t)) {
        margins[i] = this.reading.unknown(this.end);
        continue;
      }
      let begin = Math.max(this.first, i);
      while (begin < n && times[begin]! < t + from) begin++;
      this.first = begin;
      let [next, head, tail] = [this.after, this.head, this.tail];
      if (next < begin) [next, head, tail] = [begin, 0, 0];
      for (const until = t + to; next < n && times[next]! <= until; next++) {
        const value = this.innerAt(next);
        if (largest) while (tail > head && value >= values[tail - 1]!) tail--;
        else while (tail > head && value <= values[tail - 1]!) tail--;
        values[tail] = value;
        samples[tail++] = next;
      }
      while (head < tail && samples[head]! < begin) head++;
      this.after = next;
      this.head = head;
      this.tail = tail;
      margins[i] = head < tail ? values[head]! : this.withoutSample(t);
    }
    return margins;
  }

  private withoutSample(t: number): number {
    const last = this.reading.record.times.length - 1;
    return this.isAfterEnd(t) ? exactly(this.of, last) : this.reading.unknown(this.end);
  }

  private innerAt(i: number): number {
    if (i >= this.read) {
      this.read = Math.min(this.reading.record.times.length, i + AT_ONCE);
      this.inner = this.of.over(i, this.read, -Infinity, Infinity);
    }
    return this.inner[i]!;
  }
}
