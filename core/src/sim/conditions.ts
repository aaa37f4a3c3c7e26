import type { Pose } from '../motion/index.ts';
import { radians, sin, cos } from '../quantity/index.ts';
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
  /** Charge, %: matters to raw power. */
  battery?: [number, number];
  /** Scatter of all sensors against what was measured. */
  noise?: [number, number];
  /** Scrub of the wheels in turns, a share. */
  scrub?: [number, number];
  /** Boxes and presses come later, s. */
  laterS?: [number, number];
  /** Share of a distance sensor's looks that hear a neighbour. */
  echoes?: [number, number];
  /** What headings say before they are zeroed, deg. */
  headingAtStart?: [number, number];
  /** Creep of headings, deg/s. */
  driftPerS?: [number, number];
  /** Degrees that headings read per degree turned. */
  gyroScale?: [number, number];
  /** Stiction beside the kit's own, % of full speed. */
  deadPercent?: [number, number];
}

/** The conditions that may be left out. */
export const furtherConditions = [
  'battery',
  'noise',
  'scrub',
  'laterS',
  'echoes',
  'driftPerS',
  'headingAtStart',
  'gyroScale',
  'deadPercent',
] as const;

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
  // Drawn from dice of their own, so that one more condition changes nothing for the others.
  const further = Object.fromEntries(
    furtherConditions.flatMap((name, i) => {
      const range = conditions[name];
      return range ? [[name, new Noise(seed ^ (0x3d11 + 101 * i)).between(...range)]] : [];
    }),
  );
  return {
    start: {
      xMm: from.xMm + along * sin(b) + across * cos(b),
      yMm: from.yMm + along * cos(b) - across * sin(b),
      bearingDeg: from.bearingDeg + turn,
    },
    lightShift: draw(conditions.lightShift),
    mismatch: draw(conditions.mismatch),
    ...further,
    seed,
  };
}
