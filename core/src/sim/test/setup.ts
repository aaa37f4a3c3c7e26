import { stopLine } from '../../course/index.ts';
import { parseScript } from '../../script/index.ts';
import { built, kit } from '../../test/index.ts';
import { nominalLight, type RunSetup } from '../index.ts';

/** A line across the way after 300 mm. */
export const course = stopLine({
  name: 'test',
  base: { name: 'boards', reflectance: 0.76 },
  line: { name: 'line', reflectance: 0.2 },
  lineWidthMm: 18,
  approachMm: 300,
});
/** A floor eye without noise. */
export const quiet = { ...nominalLight(12), lowSd: 0, highSd: 0 };

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
      lights: [
        {
          socket: 'K3',
          aheadMm: 80,
          rightMm: 0,
          samplePeriodMs: 50,
          min: 0,
          max: 100,
          step: 1,
          model: quiet,
        },
      ],
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
