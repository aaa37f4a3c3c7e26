import { describe, expect, it } from '@jest/globals';
import { planStopGap } from '../motion/index.ts';
import { fullBuild, fullKit } from '../test/index.ts';
import { Noise, readEcho, simulate } from './index.ts';
import { bareFloor, setup, sounder } from './test/setup.ts';

const sensor = {
  id: 's',
  name: 'ear',
  kind: 'distance',
  unit: 'cm',
  min: 3,
  max: 200,
  samplePeriodMs: 60,
} as const;
const fitting = { socket: 'K2', sensorId: 'sounder', mode: 'distance', rightMm: 0, heightMm: 60 } as const;

describe('a stop gap', () => {
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
      const course = bareFloor({
        walls: [{ from: { xMm: 0, yMm: wallMm }, to: { xMm: 1000, yMm: wallMm } }],
      });
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
