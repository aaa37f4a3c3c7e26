import { type Part, type Reading } from './parts.ts';
import { columns } from './recorded.ts';
import type { Told } from './until.ts';

/**
 * The margin that is kept for at least a share of the time: the quantile of the margins, each weighed by the time until
 * the next sample. Positive exactly when the part holds for that share or more.
 */
function shareMargin(times: Float64Array, values: Float64Array, least: number): number {
  const last = times.length - 1;
  if (last === 0) return values[0]!;
  const total = times[last]! - times[0]!;
  // Times are whole ms, a share is not: a thousandth of one is no time.
  const most = (1 - least) * total + 1e-3;
  /** For how long the margin is at most `value`, ms. */
  const upTo = (value: number): number => {
    let sum = 0;
    for (let i = 0; i < last; i++) if (values[i]! <= value) sum += times[i + 1]! - times[i]!;
    return sum;
  };
  // The least value that is kept to for longer than may be lost; found by halving among the values in order.
  const sorted = values.slice(0, last).sort();
  let [low, high] = [0, last - 1];
  if (upTo(sorted[high]!) <= most) return Math.max(sorted[high]!, values[last]!);
  while (low < high) {
    const middle = (low + high) >> 1;
    if (upTo(sorted[middle]!) > most) high = middle;
    else low = middle + 1;
  }
  return sorted[low]!;
}

/** A share of the time of the whole record: the same at every sample. */
export class Share implements Part {
  private margins: Float64Array | null = null;
  constructor(
    private readonly reading: Reading,
    private readonly of: Told,
    private readonly least: number,
  ) {}

  over(): Float64Array {
    return (this.margins ??= columns
      .take()
      .fill(shareMargin(this.reading.record.times, this.of.over(), this.least)));
  }
}
