import { describe, expect, it } from '@jest/globals';
import { stopLine } from '@vigilum/core/course';
import type { Lesson, Rehearsal } from '@vigilum/core/lesson';
import type { RobotBuild } from '@vigilum/core/sensing';
import { opponentAt, poseAt, pushedAt, reachesAt, seenAt, trailOf } from './trail.ts';

const line = { name: 'line', reflectance: 0.2 };
const lesson = {
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  course: stopLine({
    name: 'Line',
    base: { name: 'floor', reflectance: 0.8 },
    line,
    lineWidthMm: 20,
    approachMm: 400,
  }),
  floor: { trials: 3, landmark: 'near-edge' },
} as unknown as Lesson;
const fitting = { sensorId: 'x', aheadMm: 80, rightMm: 10, heightMm: 12 };
const build = {
  fittings: [
    { ...fitting, socket: 'K3', mode: 'light', facing: 'down' },
    { ...fitting, socket: 'K2', mode: 'distance', facing: 'ahead' },
    { ...fitting, socket: 'K4', mode: 'distance', facing: 'down' },
  ],
} as RobotBuild;

const rehearsal = (signals: Record<string, [unit: string, ...values: number[]]>): Rehearsal =>
  ({
    evidence: {
      timesS: Float32Array.from(Object.values(signals)[0]!.slice(1), (_, i) => i / 10),
      signals: Object.fromEntries(
        Object.entries(signals).map(([name, [unit, ...values]]) => [
          name,
          { unit, values: Float32Array.from(values) },
        ]),
      ),
    },
  }) as unknown as Rehearsal;

const run = rehearsal({
  x: ['mm', 100, 100, 100],
  y: ['mm', 200, 300, 400],
  bearing: ['deg', 0, 90, 180],
  'past near-edge': ['mm', -40, -1, 12],
  line: ['', 2, 3, 0],
  K2: ['cm', 15, NaN, 3],
  K3: ['%', 76, 48.25, 22],
});

describe('the way of a run on the mat', () => {
  it('is that of the sensor that the lesson watches, ahead and to the right of the axle as the robot turns', () => {
    const { x, y } = trailOf(run, lesson, build);
    expect([...x].map(Math.round)).toEqual([110, 180, 90]);
    expect([...y].map(Math.round)).toEqual([280, 290, 320]);
    expect(poseAt(run, 1)).toEqual({ xMm: 100, yMm: 300, bearingDeg: 90 });
  });

  it('changes colour where the landmark is first passed, or not at all', () => {
    expect(trailOf(run, lesson, build).turnsAt).toBe(2);
    const short = rehearsal({
      x: ['mm', 0, 0],
      y: ['mm', 0, 1],
      bearing: ['deg', 0, 0],
      'past near-edge': ['mm', -9, -8],
    });
    expect(trailOf(short, lesson, build).turnsAt).toBe(2);
    const without = rehearsal({ x: ['mm', 0], y: ['mm', 0], bearing: ['deg', 0] });
    expect(trailOf(without, lesson, build).turnsAt).toBe(1);
  });

  it('shows how far each sensor that looks along the floor reaches, in mm', () => {
    expect(reachesAt(run, build, 0)).toEqual({ K2: 150 });
    expect(reachesAt(run, build, 1).K2).toBeNaN();
  });

  it('has the other robot where there is one', () => {
    expect(opponentAt(run, 0)).toBeNull();
    const two = rehearsal({ 'opponent x': ['mm', 5], 'opponent y': ['mm', 7] });
    expect(opponentAt(two, 0)).toEqual({ x: 5, y: 7 });
  });
});

describe('light boxes', () => {
  const at = (id: string, light: boolean) => ({
    id,
    name: id,
    xMm: 1,
    yMm: 2,
    widthMm: 9,
    depthMm: 9,
    light,
  });
  const course = { ...lesson.course, boxes: [at('a', true), at('b', false), at('c', true)] };

  it('stand where they were pushed to; others, and those of an older record, where the course has them', () => {
    const pushed = rehearsal({ 'box a x': ['mm', 5], 'box a y': ['mm', 7], 'box a turned': ['deg', -3] });
    expect(pushedAt(pushed, course, 0)).toEqual({ a: { xMm: 5, yMm: 7, turnDeg: -3 } });
  });
});

describe('what was seen at a moment', () => {
  const signals = [
    { id: 'K3', name: 'floor (K3)', unit: '%', min: 0, max: 100 },
    { id: 'K2', name: 'front (K2)', unit: 'cm', min: 0, max: 255 },
    { id: 'speed', name: 'speed', unit: 'mm/s', min: 0, max: 300 },
  ] as Parameters<typeof seenAt>[2];
  const script = ['sensor floor is light on K3', 'drive 30 %', '  wait until floor < 48'];

  it('is told with time, readings and the step that was running', () => {
    expect(seenAt(run, 0, signals, script)).toBe('0 s · floor 76 % · front 15 cm · line 2: drive 30 %');
    expect(seenAt(run, 1, signals, script)).toBe(
      '0.1 s · floor 48.3 % · front nothing · line 3: wait until floor < 48',
    );
  });

  it('says when the program was over', () => {
    expect(seenAt(run, 2, signals, script)).toBe('0.2 s · floor 22 % · front 3 cm · program over');
  });
});
