import { formatNumber, found } from '../quantity/index.ts';
import { levelMethod } from './method.ts';
import type { Pair } from './surfaces.ts';
import type { Working } from './working.ts';

/** Halfway between the two means: (a + b) / 2. The working is written as on the board. */
export function halfway({ low, high, unit }: Pair): { exact: number; working: Working[] } {
  const sum = low.mean + high.mean;
  const show = (value: number) => formatNumber(value, 2);
  return {
    exact: sum / 2,
    working: [
      { label: 'add the two means', line: `${show(low.mean)} + ${show(high.mean)} = ${show(sum)}` },
      { label: 'halve it', line: `${show(sum)} ÷ 2 = ${show(sum / 2)} ${unit}` },
    ],
  };
}

export const halfwayMethod = levelMethod(
  'halfway',
  'The arithmetic of the board. Apt when both surfaces scatter alike.',
  ({ pair }) => found(halfway(pair)),
);
