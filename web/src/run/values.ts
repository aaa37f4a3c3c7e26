import { formatNumber } from '@vigilum/core/quantity';
import type { Trace } from '@vigilum/core/sim';

/** The program's own values at a sample, as shown beside the run. */
export function valuesAt(trace: Trace, sample: number): { name: string; value: string }[] {
  return Object.entries(trace.signals).flatMap(([id, { values }]) => {
    if (!id.startsWith('value ')) return [];
    const value = values[sample];
    const told = value === undefined || Number.isNaN(value) ? 'nothing' : formatNumber(value);
    return [{ name: id.slice('value '.length), value: told }];
  });
}
