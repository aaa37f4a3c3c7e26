import { formatQuantity } from '../quantity/index.ts';
import { summarise, type Reading } from './sampleSet.ts';

export interface LiveCheck {
  state: 'waiting' | 'reacts' | 'still' | 'silent';
  says: string;
  /** Largest less smallest reading so far, in the sensor's unit. */
  swing: number;
}

/**
 * The scatter of a reading that may also wander: median step from look to look ÷ 0.954 (for normal noise
 * the median of |x₁ − x₂| is 0.6745·√2 sds). Jumps of a moved paper hardly touch it.
 */
function scatter(values: readonly Reading[]): number {
  const steps: number[] = [];
  for (let i = 1; i < values.length; i++) {
    const [a, b] = [values[i - 1], values[i]];
    if (typeof a === 'number' && typeof b === 'number') steps.push(Math.abs(a - b));
  }
  steps.sort((a, b) => a - b);
  return (steps[steps.length >> 1] ?? 0) / 0.954;
}

/**
 * Judges whether a sensor answers when a hand or a paper moves under it. It reacts when the readings
 * swing by at least `needed` and by eight times their own scatter, which noise alone does not reach; it is
 * silent when there was no reading at all. Ten looks are awaited before a verdict of "still" is given.
 */
export function liveCheck(values: readonly Reading[], unit: string, needed = 10): LiveCheck {
  const s = summarise(values);
  if (s.n === 0) {
    return values.length < 10
      ? { state: 'waiting', says: 'Waiting for the first reading.', swing: 0 }
      : { state: 'silent', says: 'No reading comes in. Push the plug home until it clicks.', swing: 0 };
  }
  const swing = s.max! - s.min!;
  const span = `${formatQuantity(s.min, '', 0)} to ${formatQuantity(s.max, unit, 0)}`;
  if (swing >= Math.max(needed, 8 * scatter(values)))
    return { state: 'reacts', says: `It reacts: from ${span}.`, swing };
  return values.length < 10
    ? { state: 'waiting', says: 'Move the paper under the sensor.', swing }
    : { state: 'still', says: `Hardly any change: ${span}. Move the paper under the sensor.`, swing };
}
