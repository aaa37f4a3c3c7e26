import { formatQuantity } from '../quantity/index.ts';
import { summarise, type Reading } from './sampleSet.ts';

export interface LiveCheck {
  state: 'waiting' | 'reacts' | 'still' | 'silent';
  says: string;
  /** Largest less smallest reading so far, in the sensor's unit. */
  swing: number;
}

/**
 * Judges whether a sensor answers when a hand or a paper moves under it. It reacts when the readings
 * swing by at least `needed`; it is silent when there was no reading at all. Ten looks are awaited
 * before a verdict of "still" is given.
 */
export function liveCheck(values: readonly Reading[], unit: string, needed = 10): LiveCheck {
  const s = summarise(values);
  if (s.n === 0) {
    return values.length < 10
      ? { state: 'waiting', says: 'Waiting for the first reading.', swing: 0 }
      : { state: 'silent', says: 'No reading comes in. Push the plug home until it clicks.', swing: 0 };
  }
  const swing = s.max! - s.min!;
  const span = `from ${formatQuantity(s.min, unit, 0)} to ${formatQuantity(s.max, unit, 0)}`;
  if (swing >= needed) return { state: 'reacts', says: `It reacts: ${span}.`, swing };
  return values.length < 10
    ? { state: 'waiting', says: 'Move the paper under the sensor.', swing }
    : { state: 'still', says: `The number has hardly changed: ${span}. Move the paper under the sensor.`, swing };
}
