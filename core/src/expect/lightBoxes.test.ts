import { describe, expect, it } from '@jest/globals';
import { simulate } from '../sim/index.ts';
import { parseScript } from '../script/index.ts';
import { built, kit } from '../test/index.ts';
import { sceneOf, signalOf } from './index.ts';

const at = (xMm: number, yMm: number) => ({ xMm, yMm });

describe('light boxes', () => {
  it('are judged where they stand, not where they stood', () => {
    const zone = { id: 'berth', name: 'berth', kind: 'disc' as const, centre: at(500, 900), radiusMm: 200 };
    const course = {
      name: 'floor',
      widthMm: 1000,
      heightMm: 1500,
      base: { name: 'floor', reflectance: 0.76 },
      marks: [],
      starts: [],
      landmarks: [],
      boxes: [{ id: 'b', name: 'b', ...at(500, 700), widthMm: 200, depthMm: 100, light: true }],
      zones: [zone],
    };
    const robot = { ...built(), ...kit, sensors: [] };
    const text = 'drive 30 %\nwait 2 s\ndrive -30 %\nwait 1 s\nstop';
    const done = simulate({
      program: parseScript(text),
      course,
      robot,
      thresholds: {},
      timeLimitMs: 6000,
      circumstances: {
        start: { ...at(500, 400), bearingDeg: 0 },
        lightShift: 0,
        mismatch: 0,
        noise: 0,
        seed: 7,
      },
    });
    const scene = sceneOf(done, {
      course,
      watcher: { aheadMm: 0, rightMm: 0 },
      outline: robot,
      laterS: 0,
      bumpers: [],
    });
    const told = (name: string) => signalOf(name, done.trace, scene)!.values;
    const boxY = done.trace.signals['box b y']!.values.at(-1)!;
    const [y, gap, inside] = [done.trace.signals.y!.values, told('room to b'), told('box b in berth')];
    expect(told('gap ahead').at(-1)).toBeCloseTo(gap.at(-1)!, 1);
    expect(gap.at(-1)).toBeCloseTo(boxY - 50 - (y.at(-1)! + 112), 1);
    const pushing = y.findIndex((_, i) => y[i]! > 560);
    expect(gap[pushing]).toBeLessThan(0.1);
    expect([inside[0], inside.at(-1)! > 0]).toEqual([0, true]);
    expect(signalOf('box b in nowhere', done.trace, scene)).toBeNull();
    expect(signalOf('box c in berth', done.trace, scene)).toBeNull();
  });
});
