import { formatQuantity } from '../quantity/index.ts';
import type { SensorKind } from './kit.ts';
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
export function scatterOf(values: readonly Reading[]): number {
  const steps: number[] = [];
  for (let i = 1; i < values.length; i++) {
    const [a, b] = [values[i - 1], values[i]];
    if (typeof a === 'number' && typeof b === 'number') steps.push(Math.abs(a - b));
  }
  steps.sort((a, b) => a - b);
  return (steps[steps.length >> 1] ?? 0) / 0.954;
}

/** What to do so that a sensor shows that it lives, and how far its reading must swing, in its own unit. */
export const reactionGuide: Record<SensorKind, { act: string; swing: number }> = {
  touch: { act: 'Press the bumper and let go.', swing: 1 },
  light: { act: 'Move the paper under the sensor.', swing: 10 },
  ambient: { act: 'Cover the sensor with a hand, then uncover it.', swing: 5 },
  colour: { act: 'Move the paper under the sensor.', swing: 1 },
  rgb: { act: 'Move the paper under the sensor.', swing: 10 },
  distance: { act: 'Move a hand to and fro before the sensor.', swing: 10 },
  proximity: { act: 'Move a hand to and fro before the sensor.', swing: 10 },
  beacon: { act: 'Carry the beacon from left to right before the robot.', swing: 5 },
  heading: { act: 'Turn the robot by hand, a quarter turn and back.', swing: 45 },
  spin: { act: 'Turn the robot by hand to and fro.', swing: 20 },
  wheel: { act: 'Turn the wheel by hand with the program stopped.', swing: 30 },
};

/** What usually mends a sensor that does not answer, the most common first (common practice). */
export const usualMends: readonly string[] = [
  'Push the plug home until it clicks.',
  'Compare the socket with the lesson.',
  'Look at the mode on the robot.',
  'Look for something between sensor and floor or wall.',
  'Swap the cable, then the sensor.',
];

/**
 * Judges whether a sensor answers when a hand or a paper moves under it. It reacts when the readings
 * swing by at least `needed` and by eight times their own scatter, which noise alone does not reach; it is
 * silent when there was no reading at all. Ten looks are awaited before a verdict of "still" is given.
 */
export function liveCheck(
  values: readonly Reading[],
  unit: string,
  { act, swing: needed } = reactionGuide.light,
): LiveCheck {
  const s = summarise(values);
  if (s.n === 0) {
    return values.length < 10
      ? { state: 'waiting', says: 'Waiting for the first reading.', swing: 0 }
      : { state: 'silent', says: 'No reading comes in. Push the plug home until it clicks.', swing: 0 };
  }
  const swing = s.max! - s.min!;
  const span = `${formatQuantity(s.min, '', 0)} to ${formatQuantity(s.max, unit, 0)}`;
  if (swing >= Math.max(needed, 8 * scatterOf(values)))
    return { state: 'reacts', says: `It reacts: from ${span}.`, swing };
  return values.length < 10
    ? { state: 'waiting', says: act, swing }
    : { state: 'still', says: `Hardly any change: ${span}. ${act}`, swing };
}
