import { describe, expect, it } from '@jest/globals';
import { canRun, parseScript } from '../script/index.ts';
import { built, fullBuild, fullKit, kit, lesson } from '../test/index.ts';
import {
  baseThresholds,
  narrowestLine,
  prove,
  rehearse,
  simRobot,
  tryCircumstances,
  watcher,
  type KnownRobot,
} from './index.ts';

const build = built();
const known: KnownRobot = {
  kit,
  build,
  thresholds: { K3: 48 },
  sets: [
    { socket: 'K3', surface: 'line', values: [21, 22, 22, 23, 22] },
    { socket: 'K3', surface: 'floor', values: [74, 76, 78, 75, 77] },
  ],
};
const program = (steps: string) => parseScript(`sensor floor is light on K3\n${steps}`);
const verdict = (steps: string, robot = known) => {
  const parsed = program(steps);
  expect(canRun(parsed)).toBe(true);
  return prove(lesson, robot, parsed, lesson.proof.seed, lesson.proof.runs).proof;
};

describe('a lesson rehearsed', () => {
  it('compares thresholds in base units, whatever the sensor tells', () => {
    const robot = { kit: fullKit, build: fullBuild, sets: [], thresholds: { k2: 15, K3: 48, K9: 7 } };
    expect(baseThresholds(robot)).toEqual({ k2: 150, K3: 48, K9: 7 });
  });

  it('proves its model answer', () => {
    const proof = verdict(lesson.modelScript);
    expect([proof.verdict, proof.passes]).toEqual(['proved', 20]);
  });

  // Common practice: what usually goes wrong, each told apart by computation.
  it.each([
    ['a forgotten stop', 'drive 30 %\nwait until floor < threshold', 'fails'],
    [
      'too fast: the line passes between two looks',
      'drive 100 %\nwait until floor < threshold\nstop',
      'fails',
    ],
    ['the wrong side of the threshold', 'drive 30 %\nwait until floor > threshold\nstop', 'fails'],
    ['a decision taken once', 'drive 30 %\nif floor < threshold\nstop\nend', 'fails'],
    ['a stop after a fixed time', 'drive 30 % for 2.4 s', 'fails'],
    ['stopping at once', 'stop', 'fails'],
  ])('finds %s', (_, steps, expected) => {
    expect(verdict(steps).verdict).toBe(expected);
  });

  it('tells luck from proof: a threshold next to the floor’s readings breaks in dimmer light', () => {
    const proof = verdict(lesson.modelScript, { ...known, thresholds: { K3: 72 } });
    expect(proof.verdict).not.toBe('proved');
    expect(proof.passes).toBeGreaterThan(0);
    expect(proof.each[0]!.worstMargin).toBeLessThan(0);
  });

  it('gives the same proof for the same seed', () => {
    const twice = [1, 2].map(() => prove(lesson, known, program(lesson.modelScript), 5, 8));
    expect(twice[0]).toEqual(twice[1]);
  });

  it('simulates the robot as its own readings say', () => {
    const weak: KnownRobot = {
      ...known,
      sets: [
        { ...known.sets[0]!, values: [30, 31, 32] },
        { ...known.sets[1]!, values: [40, 42, 44] },
      ],
    };
    const [light] = simRobot(weak, lesson).sensors;
    const model = light?.kind === 'light' ? light.model : null;
    expect(100 * model!.gain * 0.76 + model!.leak).toBeCloseTo(42, 9);
    // With the old threshold of another robot it would see line everywhere and stop at once.
    const { judgements } = rehearse(
      lesson,
      weak,
      program(lesson.modelScript),
      tryCircumstances(lesson, 'A', 1),
    );
    expect(judgements[0]).toMatchObject({ verdict: 'broken' });
  });

  it('watches from the sensor the lesson reads, from the named start', () => {
    expect(watcher(build, lesson)).toEqual({ aheadMm: 80, rightMm: 0 });
    expect(watcher({ ...build, fittings: [] }, lesson)).toEqual({ aheadMm: 0, rightMm: 0 });
    expect(tryCircumstances(lesson, 'B', 1).start.xMm).toBeCloseTo(lesson.course.starts[1]!.xMm, 9);
    expect(tryCircumstances(lesson, 'nowhere', 1).start.xMm).toBeCloseTo(lesson.course.starts[0]!.xMm, 9);
    expect(narrowestLine(lesson)).toBe(18);
  });
});
