import { buildCourse, familyOf, type Course } from '@vigilum/core/course';
import type { Expectation } from '@vigilum/core/expect';
import { kindly, type Lesson, type LessonRobot, type TypicalFault } from '@vigilum/core/lesson';
import type { Facing, Fitting, SensorKind } from '@vigilum/core/sensing';
import type { Conditions } from '@vigilum/core/sim';
import { cobbleBuild } from '../build.ts';

/** A part of the Cobble where it usually sits: ahead of the axle, to the right, above the floor, mm. */
const part = (
  socket: string,
  sensorId: string,
  mode: SensorKind,
  facing: Facing,
  [aheadMm, rightMm, heightMm]: [number, number, number],
): Fitting => ({ socket, sensorId, mode, facing, aheadMm, rightMm, heightMm });

export const bumper = part('K1', 'bumper', 'touch', 'ahead', [110, 0, 30]);
export const button = part('K1', 'bumper', 'touch', 'up', [0, 0, 90]);
export const sounder = part('K2', 'sounder', 'distance', 'ahead', [104, 0, 60]);
export const lookout: Fitting = { ...part('K2', 'sounder', 'distance', 'ahead', [40, 0, 90]), turret: 'MX' };
export const leftSounder = part('K4', 'sounder', 'distance', 'left', [40, -70, 60]);
export const rightSounder = part('K6', 'sounder', 'distance', 'right', [40, 70, 60]);
export const floorEye = part('K3', 'floor-eye', 'light', 'down', [80, 0, 12]);
export const leftEye = part('K3', 'floor-eye', 'light', 'down', [80, -66, 12]);
export const rightEye = part('K4', 'floor-eye', 'light', 'down', [80, 66, 12]);
export const colourEye = part('K4', 'floor-eye', 'colour', 'down', [80, 30, 12]);
export const rgbEye = part('K4', 'floor-eye', 'rgb', 'down', [80, 0, 12]);
export const spinTop = part('K5', 'spin-top', 'heading', 'up', [-20, 0, 70]);

/** A Cobble with these parts on it, and the thresholds that suit it in the sensors' own units. */
export const cobbleWith = (fittings: Fitting[], thresholds: Record<string, number> = {}): LessonRobot => ({
  kit: 'cobble',
  build: { ...cobbleBuild, fittings },
  thresholds,
});

export const courseOf = (family: string, name: string, values: Record<string, number> = {}): Course => ({
  ...buildCourse(familyOf(family), values),
  name,
});

export const fault = (name: string, script: string): TypicalFault => ({ name, script });

const cautions = [
  'Robots on the floor are trip hazards: mark the run area, one team walks at a time.',
  'Stop the program before you touch the robot. Keep hair and sleeves away from the wheels.',
  'School rules and the maker’s instructions come first.',
];

interface Given extends Pick<
  Lesson,
  'slug' | 'title' | 'aim' | 'need' | 'modelScript' | 'course' | 'timeLimitS'
> {
  robot: LessonRobot;
  expectations: Expectation[];
  faults: TypicalFault[];
  also?: Lesson['also'];
  conditions?: Partial<Conditions>;
  read?: Lesson['read'];
  floor?: Partial<Lesson['floor']>;
  caution?: string;
  /** What the pass rate must surely lie above: 85 %, so that one unlucky run of fifty is no refusal. */
  bar?: number;
  seed: number;
}

/** A lesson of the harbour year: what is usual need not be said. */
export function lesson({ conditions, caution, floor, read, bar = 0.85, seed, ...given }: Given): Lesson {
  const declared = given.modelScript.split('\n').filter((line) => /^(sensor|motor) /.test(line));
  return {
    minutes: 50,
    read: read ?? { burst: 20, tasks: [] },
    startScript: `${declared.join('\n')}\n`,
    conditions: { ...kindly, ...conditions },
    proof: { runs: 50, bar, seed },
    floor: { trials: 3, landmark: '', ...floor },
    cautions: caution ? [caution, ...cautions] : cautions,
    ...given,
  };
}
