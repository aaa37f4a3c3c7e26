import type { Signal, Trace } from '../sim/index.ts';
import type { Scene } from './columns.ts';

/** The last number in a text; null where it has none. */
export function numberIn(text: string): number | null {
  const found = /-?\d+(?:\.\d+)?(?!.*\d)/.exec(text);
  return found ? Number(found[0]) : null;
}

/** A signal of what stands on the display: `start` until the first text, then what `of` makes of each when it is shown. */
export function ofDisplay(
  trace: Trace,
  { events }: Scene,
  start: number,
  of: (text: string, atS: number) => number,
): Signal {
  const { timesS } = trace;
  const values = new Float32Array(timesS.length);
  let [at, now] = [0, start];
  for (const { kind, text, atS } of events) {
    if (kind !== 'display') continue;
    const before = at;
    while (at < timesS.length && timesS[at]! + 1e-6 < atS) at++;
    values.fill(now, before, at);
    now = of(text, atS);
  }
  return { unit: '', values: values.fill(now, at) };
}
