import { describe, expect, it } from '@jest/globals';
import { boards, type Course } from '../course/index.ts';
import type { Facing } from '../sensing/index.ts';
import { Noise, readEcho, simulate } from '../sim/index.ts';
import { setup, sounder } from '../sim/test/setup.ts';
import { built, fullBuild, fullKit, kit } from '../test/index.ts';
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

  it('keeps what it promises on 200 simulated stops: faces, speeds, gaps, steps and scatter as they come', () => {
    const noise = new Noise(11);
    let [most, n] = [-Infinity, 0];
    for (let i = 0; i < 200; i++) {
      const [recess, gapMm] = [Math.round(noise.between(-5, 40)), Math.round(noise.between(60, 300))];
      const [percent, step] = [Math.round(noise.between(30, 90)), i % 2 === 0 ? 0.1 : 1];
      const scatter = noise.between(0, 0.3);
      const eye = sounder({ aheadMm: 112 - recess, step, scatter });
      const sets = [5, 10, 20, 30, 50].map((truth) => ({
        truth,
        values: Array.from({ length: 10 }, () => readEcho(truth, 0, eye, { z: noise.normal(), scatter })),
      }));
      const plan = planStopGap(
        {
          kit: fullKit,
          build: fullBuild,
          sensor: { ...sensor, step },
          fitting: { ...fitting, aheadMm: eye.aheadMm },
        },
        sets,
        gapMm,
        percent,
      );
      const wallMm = 1400;
      const course: Course = {
        name: 'floor',
        widthMm: 1000,
        heightMm: 1500,
        base: boards,
        marks: [],
        starts: [],
        landmarks: [],
        walls: [{ from: { xMm: 0, yMm: wallMm }, to: { xMm: 1000, yMm: wallMm } }],
      };
      const text = `sensor front is distance on K2\ndrive ${percent} %\nwait until front < ${plan.value} cm\nstop`;
      const done = simulate(
        setup(text, {
          course,
          robot: { sensors: [eye] },
          circumstances: {
            start: { xMm: 500, yMm: 150 + Math.round(noise.between(0, 60)), bearingDeg: 0 },
            seed: i,
          },
        }),
      );
      expect(done.ended.how).toBe('at rest');
      const gap = wallMm - done.trace.signals.y!.values.at(-1)! - 112;
      expect([i, gap > plan.leastGapMm, gap < plan.mostGapMm]).toEqual([i, true, true]);
      most = Math.max(most, plan.mostGapMm - plan.leastGapMm);
      n++;
    }
    expect([n, most < 120]).toEqual([200, true]);
  });
});
