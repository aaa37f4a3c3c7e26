import { formatNumber } from '@vigilum/core/quantity';
import type { Circumstances, Conditions } from '@vigilum/core/sim';

/** One thing that varies from run to run, as people say it. `perUnit` turns shown numbers into the model's. */
export interface ConditionField {
  id: keyof Conditions;
  name: string;
  unit: string;
  perUnit: number;
  /** What holds when it is left out. */
  usual: number;
  limit: [number, number];
}

export const conditionFields: readonly ConditionField[] = [
  { id: 'alongMm', name: 'start, moved along', unit: 'mm', perUnit: 1, usual: 0, limit: [-1000, 1000] },
  { id: 'acrossMm', name: 'start, moved aside', unit: 'mm', perUnit: 1, usual: 0, limit: [-1000, 1000] },
  { id: 'bearingDeg', name: 'start, turned', unit: '°', perUnit: 1, usual: 0, limit: [-180, 180] },
  { id: 'lightShift', name: 'room light', unit: 'points', perUnit: 1, usual: 0, limit: [-100, 100] },
  { id: 'mismatch', name: 'wheels differ by', unit: '%', perUnit: 0.01, usual: 0, limit: [-50, 50] },
  { id: 'scrub', name: 'wheels scrub in turns', unit: '%', perUnit: 0.01, usual: 0, limit: [-30, 30] },
  { id: 'noise', name: 'noise of the sensors', unit: '× as read', perUnit: 1, usual: 1, limit: [0, 10] },
  { id: 'battery', name: 'battery', unit: '%', perUnit: 1, usual: 100, limit: [0, 100] },
  { id: 'laterS', name: 'boxes and presses come later', unit: 's', perUnit: 1, usual: 0, limit: [-60, 60] },
  { id: 'echoes', name: 'neighbours’ echoes', unit: '% of looks', perUnit: 0.01, usual: 0, limit: [0, 50] },
  { id: 'driftPerS', name: 'heading creeps', unit: '°/s', perUnit: 1, usual: 0, limit: [-10, 10] },
  {
    id: 'headingAtStart',
    name: 'heading before zeroing',
    unit: '°',
    perUnit: 1,
    usual: 0,
    limit: [-360, 360],
  },
  {
    id: 'gyroScale',
    name: 'heading reads',
    unit: '% of the turn',
    perUnit: 0.01,
    usual: 1,
    limit: [80, 120],
  },
  { id: 'deadPercent', name: 'wheels stick below', unit: '% more', perUnit: 1, usual: 0, limit: [0, 30] },
];

/** A range as shown: “−3 to 3 °”; empty when the thing does not vary. */
export function rangeWords(field: ConditionField, conditions: Conditions): string {
  const range = conditions[field.id];
  if (!range || (range[0] === range[1] && range[0] === field.usual)) return '';
  const [low, high] = range.map((value) => formatNumber(value / field.perUnit));
  return low === high ? `${low} ${field.unit}` : `${low} to ${high} ${field.unit}`;
}

/** What one run was like, in words: what was drawn for it. */
export function circumstanceWords(c: Circumstances): string {
  const parts = [
    `room light ${formatNumber(Math.abs(c.lightShift))} points ${c.lightShift < 0 ? 'darker' : 'brighter'}`,
    `left wheel ${formatNumber(Math.abs(100 * c.mismatch))} % ${c.mismatch < 0 ? 'slower' : 'faster'}`,
  ];
  const more: [number | undefined, (value: number) => string][] = [
    [c.noise, (v) => `noise × ${formatNumber(v)}`],
    [c.battery, (v) => `battery ${formatNumber(v, 0)} %`],
    [c.laterS, (v) => `boxes ${formatNumber(v)} s later`],
    [c.echoes, (v) => `${formatNumber(100 * v)} % foreign echoes`],
    [c.driftPerS, (v) => `heading creeps ${formatNumber(v)}°/s`],
    [c.gyroScale, (v) => `heading reads ${formatNumber(100 * v, 1)} % of a turn`],
    [c.deadPercent, (v) => `wheels stick below ${formatNumber(v, 1)} % more`],
  ];
  for (const [value, say] of more) if (value !== undefined) parts.push(say(value));
  return parts.join(', ');
}
