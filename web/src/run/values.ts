import { formatNumber } from '@vigilum/core/quantity';
import type { Trace } from '@vigilum/core/sim';

/** A value of the program in words, with its unit: ways in cm, as sensors mostly tell them. */
function told(value: number | undefined, unit: string): string {
  if (value === undefined || Number.isNaN(value)) return 'nothing';
  if (unit === 'yes or no') return value > 0 ? 'yes' : 'no';
  const [number, sign] = unit === 'mm' ? [value / 10, 'cm'] : [value, unit];
  return `${formatNumber(number)} ${sign}`.trim();
}

/** The program's own values at a sample, as shown beside the run. */
export function valuesAt(trace: Trace, sample: number): { name: string; value: string }[] {
  return Object.entries(trace.signals).flatMap(([id, { values, unit }]) =>
    id.startsWith('value ') ? [{ name: id.slice('value '.length), value: told(values[sample], unit) }] : [],
  );
}
