import { boards, stopLine, type Course } from '../../course/index.ts';
import { parseScript } from '../../script/index.ts';
import { built, kit } from '../../test/index.ts';
import { nominalLight, type LightModel, type RunSetup, type SimSensor } from '../index.ts';

/** A line across the way after 300 mm. */
export const course = stopLine({
  name: 'test',
  base: { name: 'boards', reflectance: 0.76 },
  line: { name: 'line', reflectance: 0.2 },
  lineWidthMm: 18,
  approachMm: 300,
});
/** A bare floor of 1 × 1.5 m, with whatever stands on it. */
export const bareFloor = (more: Partial<Course> = {}): Course => ({
  name: 'floor',
  widthMm: 1000,
  heightMm: 1500,
  base: boards,
  marks: [],
  starts: [],
  landmarks: [],
  ...more,
});
/** A floor eye without noise. */
export const quiet = { ...nominalLight(12), lowSd: 0, highSd: 0 };

const place = { aheadMm: 80, rightMm: 0, heightMm: 12, facingDeg: null };

/** A floor eye on K3. */
export const eye = (model: LightModel = quiet): SimSensor => ({
  kind: 'light',
  socket: 'K3',
  unit: '%',
  ...place,
  samplePeriodMs: 50,
  min: 0,
  max: 100,
  step: 1,
  model,
});

/** A gyro on K5 without drift. */
export const gyro = (kind: 'heading' | 'spin', driftPerS = 0): SimSensor => ({
  kind,
  socket: 'K5',
  unit: kind === 'heading' ? 'deg' : 'deg/s',
  ...place,
  samplePeriodMs: 20,
  min: -36_000,
  max: 36_000,
  step: 1,
  driftPerS,
});

/** A sounder in cm on K2, 104 mm ahead of the axle, looking ahead. */
export const sounder = (more: Partial<SimSensor> = {}): SimSensor => ({
  kind: 'distance',
  socket: 'K2',
  unit: 'cm',
  ...place,
  aheadMm: 104,
  heightMm: 60,
  facingDeg: 0,
  samplePeriodMs: 60,
  min: 3,
  max: 200,
  step: 0.1,
  scatter: 0,
  noReading: 255,
  ...(more as object),
});

/** A bumper on K1 over the whole front. */
export const bumper = (facingDeg: number | null = 0): SimSensor => ({
  kind: 'touch',
  socket: 'K1',
  unit: '',
  ...place,
  aheadMm: 110,
  facingDeg,
  samplePeriodMs: 10,
  min: 0,
  max: 1,
  step: 1,
});

/** The floor eye as its maker describes it, with its noise. */
export const nominal = nominalLight(12);

/** A run of a script with a floor eye on K3, calm but for what `changes` says. */
export function setup(
  text: string,
  changes: Partial<Omit<RunSetup, 'robot' | 'circumstances'>> & {
    robot?: Partial<RunSetup['robot']>;
    circumstances?: Partial<RunSetup['circumstances']>;
  } = {},
): RunSetup {
  const { robot, circumstances, ...rest } = changes;
  return {
    program: parseScript(`sensor floor is light on K3\n${text}`),
    course,
    thresholds: { K3: 48 },
    timeLimitMs: 15_000,
    ...rest,
    robot: {
      ...built(),
      ...kit,
      sensors: [eye()],
      ...robot,
    },
    circumstances: {
      start: { xMm: 200, yMm: 150, bearingDeg: 0 },
      lightShift: 0,
      mismatch: 0,
      seed: 7,
      ...circumstances,
    },
  };
}
