import type { Signal, Trace } from '../sim/index.ts';
import { column, type Scene } from './columns.ts';

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
  const texts = events.filter(({ kind }) => kind === 'display');
  let [at, now] = [0, start];
  return column(trace, '', (i) => {
    while (at < texts.length && texts[at]!.atS <= trace.timesS[i]! + 1e-6) {
      const { text, atS } = texts[at++]!;
      now = of(text, atS);
    }
    return now;
  });
}
