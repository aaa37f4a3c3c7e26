import type { Pose } from '../motion/index.ts';
import { radians } from '../quantity/index.ts';
import { Noise } from './random.ts';
import type { Circumstances } from './setup.ts';

/** Ranges from which each run draws its circumstances, evenly; [0, 0] holds a thing still. */
export interface Conditions {
  /** Start moved along its bearing, mm. */
  alongMm: [number, number];
  /** Start moved to the right, mm. */
  acrossMm: [number, number];
  bearingDeg: [number, number];
  /** Room light, reading points. */
  lightShift: [number, number];
  mismatch: [number, number];
}

export const calm: Conditions = {
  alongMm: [0, 0],
  acrossMm: [0, 0],
  bearingDeg: [0, 0],
  lightShift: [0, 0],
  mismatch: [0, 0],
};

/** The circumstances of one run: the same conditions, starts and seed always give the same draw. */
export function drawCircumstances(
  conditions: Conditions,
  starts: readonly Pose[],
  seed: number,
): Circumstances {
  const dice = new Noise(seed ^ 0x5ea5);
  const draw = ([low, high]: [number, number]) => dice.between(low, high);
  const from = starts[Math.floor(dice.uniform() * starts.length)]!;
  const [along, across, turn] = [
    draw(conditions.alongMm),
    draw(conditions.acrossMm),
    draw(conditions.bearingDeg),
  ];
  const b = radians(from.bearingDeg);
  return {
    start: {
      xMm: from.xMm + along * Math.sin(b) + across * Math.cos(b),
      yMm: from.yMm + along * Math.cos(b) - across * Math.sin(b),
      bearingDeg: from.bearingDeg + turn,
    },
    lightShift: draw(conditions.lightShift),
    mismatch: draw(conditions.mismatch),
    seed,
  };
}
