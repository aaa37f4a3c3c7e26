import { linearRegression } from 'simple-statistics';
import { formatNumber } from '../quantity/index.ts';
import type { Reading } from './sampleSet.ts';

/** How long a heading is watched at rest, s, and how far it may creep in that time, degrees (common practice: not at all). */
export const REST_S = 5;
export const REST_LIMIT_DEG = 1;

export interface RestCheck {
  state: 'waiting' | 'still' | 'drifts' | 'silent';
  /** Degrees per second; null while it cannot be told. */
  driftPerS: number | null;
  says: string;
  mend: string;
}

/** Whether a heading keeps still while the robot does: least-squares drift over the last five seconds. */
export function restCheck(values: readonly Reading[], periodMs: number): RestCheck {
  const wanted = Math.ceil((1000 * REST_S) / periodMs);
  const points = values
    .slice(-wanted)
    .flatMap((value, i) => (value === null ? [] : [[(i * periodMs) / 1000, value] as [number, number]]));
  if (values.length >= 10 && points.length === 0)
    return { state: 'silent', driftPerS: null, says: 'No reading comes in.', mend: 'Push the plug home.' };
  if (points.length < wanted * 0.9)
    return {
      state: 'waiting',
      driftPerS: null,
      says: `Hold the robot still: ${formatNumber((points.length * periodMs) / 1000, 0)} of ${REST_S} s.`,
      mend: '',
    };
  const driftPerS = linearRegression(points).m;
  const crept = `${formatNumber(Math.abs(driftPerS) * REST_S)}° in ${REST_S} s`;
  return Math.abs(driftPerS) * REST_S > REST_LIMIT_DEG
    ? {
        state: 'drifts',
        driftPerS,
        says: `The heading creeps ${crept} although the robot is still.`,
        mend: 'Unplug the sensor, hold the robot still, plug it in again and restart.',
      }
    : { state: 'still', driftPerS, says: `The heading keeps still: ${crept}.`, mend: '' };
}
