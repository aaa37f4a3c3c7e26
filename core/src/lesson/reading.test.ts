import { describe, expect, it } from '@jest/globals';
import { sensorKinds } from '../sensing/index.ts';
import { lesson as plain } from '../test/index.ts';
import {
  decideWayOf,
  lessonAt,
  lightTasks,
  newStep,
  readWayOf,
  sensorAt,
  tasksAt,
  thingsToRead,
  truthsAt,
  wantedGapMm,
  type Lesson,
  type LessonStep,
  type WorkingPart,
} from './index.ts';

const step = (part?: WorkingPart, kind: LessonStep['kind'] = 'read'): LessonStep => ({
  ...newStep(kind, []),
  ...(part ? { part } : {}),
});
const lesson: Lesson = {
  ...plain,
  also: [
    { kind: 'distance', name: 'front', socket: 'K2' },
    { kind: 'heading', name: 'gyro', socket: 'K5' },
    { kind: 'touch', name: 'nose', socket: 'K1' },
    { kind: 'light', name: 'second floor', socket: 'K4' },
    { kind: 'colour', name: 'seen', socket: 'K6' },
  ],
};
const names = (part: WorkingPart) => thingsToRead(lesson, step(part)).map(({ name }) => name);

describe('how a sensor is read', () => {
  it('follows from its kind, and only what is read may be decided on', () => {
    for (const kind of sensorKinds)
      if (decideWayOf(kind)) expect([kind, readWayOf(kind)]).not.toEqual([kind, null]);
    expect(sensorKinds.filter((kind) => readWayOf(kind) === null)).toEqual(['wheel']);
    expect(sensorKinds.filter((kind) => decideWayOf(kind) === 'two surfaces')).toEqual([
      'light',
      'ambient',
      'proximity',
    ]);
  });

  it('is told line by line, on a page and on paper', () => {
    expect(names({})).toEqual(['line', 'floor']);
    expect(names({ socket: 'K2', at: [100, 125] })).toEqual(['10 cm by ruler', '12.5 cm by ruler']);
    expect(names({ socket: 'K5', at: [90, -45] })).toEqual([
      'turned 90° to the right',
      'turned 45° to the left',
    ]);
    expect(names({ socket: 'K1' })).toEqual(['3 presses']);
    expect(names({ socket: 'K6', tasks: [{ surface: 'red card', how: '' }] })).toEqual(['red card']);
  });

  it('takes usual true values where the author names none', () => {
    expect(truthsAt(lesson, step({ socket: 'K2' }))).toEqual([100, 150, 200, 300, 500]);
    expect(truthsAt(lesson, step({ socket: 'K5' }))).toEqual([90, -90]);
    expect(truthsAt(lesson, step())).toEqual([]);
  });

  it('falls back on the lesson’s surfaces for reflected light alone', () => {
    expect(tasksAt(lesson, step({ socket: 'K4' }))).toEqual(plain.read.tasks);
    expect(tasksAt(lesson, step({ socket: 'K6' }))).toEqual([]);
    expect(tasksAt(lesson, step({ socket: 'K2' }))).toEqual([]);
  });
});

describe('a lesson as a step sees it', () => {
  it('has the step’s sensor first and keeps every other', () => {
    const seen = lessonAt(lesson, step({ socket: 'k5' }));
    expect(seen.need.name).toBe('gyro');
    expect([seen.need, ...seen.also!].map(({ socket }) => socket).sort()).toEqual([
      'K1',
      'K2',
      'K3',
      'K4',
      'K5',
      'K6',
    ]);
  });

  it('heeds a sensor in steps that read and decide only', () => {
    expect(lessonAt(lesson, step({ socket: 'K2' }, 'try')).need).toBe(lesson.need);
    expect(sensorAt(lesson, step({ socket: 'K9' }))).toBe(lesson.need);
  });

  it('leaves out a decision’s surfaces that another sensor read', () => {
    const steps = [
      { ...step({ socket: 'K6', tasks: [{ surface: 'card', how: '' }] }), id: 'a' },
      { ...step(undefined, 'decide'), id: 'b' },
    ];
    expect(tasksAt({ ...lesson, steps }, steps[1]!)).toEqual(plain.read.tasks);
  });
});

describe('what the simulator and the stop gap take from it', () => {
  it('are the surfaces of every light sensor, in whatever step', () => {
    const own = [{ surface: 'planks', role: 'light' as const, reflectance: 0.6, how: '' }];
    const steps = [
      step({ socket: 'K4', tasks: own }),
      step({ socket: 'K6', tasks: [{ surface: 'card', how: '' }] }),
    ];
    expect(lightTasks({ ...lesson, steps }).map(({ surface }) => surface)).toEqual([
      'line',
      'floor',
      'planks',
    ]);
  });

  it('is the gap that is expected, and none where none is', () => {
    expect(wantedGapMm(lesson)).toBeNull();
    const gap = { kind: 'ends with gap' as const, gapMm: 150, toleranceMm: 20 };
    expect(wantedGapMm({ ...lesson, expectations: [...lesson.expectations, gap] })).toBe(150);
  });
});
