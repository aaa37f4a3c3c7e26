import { describe, expect, it } from '@jest/globals';
import { stopLine } from '../course/index.ts';
import { canRun, parseScript } from '../script/index.ts';
import type { Kit, RobotBuild } from '../sensing/index.ts';
import {
  narrowestLine,
  prove,
  rehearse,
  simRobot,
  tryCircumstances,
  watcher,
  type KnownRobot,
  type Lesson,
} from './index.ts';

const kit: Kit = {
  slug: 'test',
  name: 'Test',
  sockets: [{ name: 'K3', takes: 'sensor' }],
  sensors: [
    {
      id: 'eye',
      name: 'floor eye',
      kinds: ['light'],
      unit: '%',
      min: 0,
      max: 100,
      step: 1,
      samplePeriodMs: 50,
    },
  ],
  drive: { topDegPerS: 900, tauDriveS: 0.07, tauBrakeS: 0.045, tauCoastS: 0.3, commandDelayMs: 8 },
  stepTimeMs: 5,
  atProgramEnd: { kind: 'roll', forMs: 500 },
};
const build: RobotBuild = {
  wheelDiameterMm: 68,
  trackMm: 120,
  lengthMm: 190,
  widthMm: 150,
  axleFromFrontMm: 112,
  fittings: [{ socket: 'K3', sensorId: 'eye', mode: 'light', aheadMm: 80, rightMm: 0, heightMm: 12 }],
};
const lesson: Lesson = {
  slug: 'stop',
  title: 'Stop',
  aim: '',
  minutes: 50,
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  read: {
    burst: 5,
    tasks: [
      { surface: 'line', role: 'dark', reflectance: 0.2, how: '' },
      { surface: 'floor', role: 'light', reflectance: 0.76, how: '' },
    ],
  },
  startScript: '',
  modelScript: 'drive 30 %\nwait until floor < threshold\nstop',
  course: stopLine({
    name: 't',
    base: { name: 'floor', reflectance: 0.76 },
    line: { name: 'line', reflectance: 0.2 },
    lineWidthMm: 18,
    approachMm: 420,
  }),
  expectations: [
    { kind: 'stops past', landmark: 'near-edge', withinMm: 30 },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 10 },
  ],
  conditions: {
    alongMm: [-60, 60],
    acrossMm: [-25, 25],
    bearingDeg: [-3, 3],
    lightShift: [-4, 4],
    mismatch: [-0.01, 0.01],
  },
  proof: { runs: 20, bar: 0.8, seed: 11 },
  timeLimitS: 15,
  floor: { trials: 3, landmark: 'near-edge' },
  cautions: [],
};
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
    const [light] = simRobot(weak, lesson).lights;
    expect(100 * light!.model.gain * 0.76 + light!.model.leak).toBeCloseTo(42, 9);
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
