import { describe, expect, it } from '@jest/globals';
import type { Facing } from '../sensing/index.ts';
import { built, kit } from '../test/index.ts';
import { planStopGap } from './index.ts';

const sensor = {
  id: 's',
  name: 'ear',
  kind: 'distance',
  unit: 'cm',
  min: 3,
  max: 200,
  step: 1,
  samplePeriodMs: 60,
} as const;
const fitting = {
  socket: 'K2',
  sensorId: 'sounder',
  mode: 'distance' as const,
  aheadMm: 112,
  rightMm: 0,
  heightMm: 60,
};
const robot = { kit, build: built(), sensor, fitting };
const read = (truth: number, reading: number) => ({ truth, values: [reading, reading, reading] });
const line = (scale: (d: number) => number) => [10, 20, 40, 80].map((d) => read(d, scale(d)));

describe('a stop gap worked out for one robot', () => {
  it('without ruler readings counts no error and believes the sensor', () => {
    const plan = planStopGap(robot, [], 150, 30);
    expect(plan).toMatchObject({ line: null, errorMm: null, distances: 0, fault: null, stepMm: 10 });
    // Top speed 900°/s on 68 mm wheels, 30 % of it; (60 + 2·5 + 8 + 45) ms at worst; half a step of 10 mm.
    const speed = 0.3 * 2.5 * Math.PI * 68;
    expect(plan.speedMmPerS).toBeCloseTo(speed, 9);
    expect(plan.thresholdMm).toBeCloseTo(150 + 0.123 * speed + 5, 6);
    expect(plan.value).toBe(Math.ceil(plan.thresholdMm / 10));
  });

  it('types in what a sensor that reads too long will show', () => {
    const long = planStopGap(
      robot,
      line((d) => d * 1.1),
      150,
      30,
    );
    const right = planStopGap(
      robot,
      line((d) => d),
      150,
      30,
    );
    expect(long.line!.slope).toBeCloseTo(1.1, 9);
    expect(long.value).toBe(Math.ceil((1.1 * right.thresholdMm) / 10 - 1e-6));
  });

  // The ruler begins at the sensor's face, the gap at the robot's front.
  it.each([
    ['ahead', 112, 0],
    ['ahead', 82, 30],
    ['ahead', 120, -8],
    // The back of a robot 190 mm long is 78 mm behind its axle.
    ['back', -60, 18],
  ] as const)(
    'counts where the face sits: looking %s, %d mm from the axle, %d mm behind the edge',
    (facing, aheadMm, recess) => {
      const plan = planStopGap({ ...robot, fitting: { ...fitting, facing, aheadMm } }, [], 150, 30);
      expect(plan.recessMm).toBe(recess);
      expect(plan.thresholdMm).toBeCloseTo(planStopGap(robot, [], 150, 30).thresholdMm + recess, 9);
      expect(plan.leastGapMm).toBe(150);
    },
  );

  it('gives no number for a sensor that is stuck, backwards, or looks elsewhere, and says what is wrong', () => {
    for (const scale of [() => 25, (d: number) => 100 - d, (d: number) => 25 + d / 20]) {
      const plan = planStopGap(robot, line(scale), 150, 30);
      expect(plan.value).toBeNull();
      expect(plan.fault!.says).toBe('What it reads does not grow with the distance by ruler.');
    }
    for (const facing of ['left', 'right', 'up', 'down'] satisfies Facing[])
      expect(planStopGap({ ...robot, fitting: { ...fitting, facing } }, [], 150, 30)).toMatchObject({
        value: null,
        fault: { mend: 'Choose one that looks ahead or back, or turn this one.' },
      });
  });

  it('says when the sensor cannot read that far, and when no ruler was laid there', () => {
    expect(planStopGap(robot, [], 4900, 100).fault!.says).toBe('The sensor reads from 3 to 200 cm only.');
    const known = line((d) => d);
    expect([50, 150, 900].map((gap) => planStopGap(robot, known, gap, 30).beyond)).toEqual([
      true,
      false,
      true,
    ]);
  });
});
