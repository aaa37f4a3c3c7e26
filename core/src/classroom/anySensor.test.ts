import { describe, expect, it } from '@jest/globals';
import {
  lessonAt,
  missingIn,
  newStep,
  type Lesson,
  type LessonStep,
  type StepKind,
  type WorkingPart,
} from '../lesson/index.ts';
import { fullBuild, fullKit, lesson as plain } from '../test/index.ts';
import {
  knownRobotOf,
  lastActivity,
  readAtTruths,
  recordAt,
  reviewContext,
  stageAt,
  stagesOf,
  thresholdsOf,
  type SensorRecord,
  type TeamRecord,
} from './index.ts';

const nothing: SensorRecord = { wireCheck: null, sets: [], quickLooks: [], threshold: null, touch: null };
const level = (value: number, at = 400) => ({ value, compare: 'level' as const, leave: null, at });
const step = (kind: StepKind, id: string, part?: WorkingPart): LessonStep => ({
  ...newStep(kind, []),
  id,
  ...(part ? { part } : {}),
});

const tasks = plain.read.tasks;
const steps = [
  step('read', 'read'),
  step('decide', 'decide'),
  step('read', 'ruler', { socket: 'K2', at: [100, 200] }),
  step('decide', 'gap', { socket: 'K2' }),
  step('read', 'turns', { socket: 'K5' }),
  step('read', 'presses', { socket: 'K1' }),
  step('script', 'script'),
];
const lesson: Lesson = {
  ...plain,
  also: [
    { kind: 'distance', name: 'front', socket: 'K2' },
    { kind: 'heading', name: 'gyro', socket: 'K5' },
    { kind: 'touch', name: 'nose', socket: 'K1' },
  ],
  expectations: [...plain.expectations, { kind: 'ends with gap', gapMm: 150, toleranceMm: 20 }],
  steps,
};
const record: TeamRecord = {
  ...nothing,
  kit: fullKit,
  build: fullBuild,
  lesson,
  others: { K1: nothing, K2: nothing, K5: nothing },
  script: null,
  lastTry: null,
  lastProof: null,
  trials: [],
};
const dark = { surface: 'line', values: [21, 22, 23, 22, 22], at: 200 };
const light = { surface: 'floor', values: [75, 76, 77, 76, 76], at: 300 };
const at = (truth: number, reading: number) => ({
  surface: 'by hand',
  truth,
  values: [reading, reading],
  at: 350,
});
const stepOf = (id: string) => steps.find((one) => one.id === id)!;
const state = (of: TeamRecord, id: string) => {
  const { state: is, figure } = stageAt(of, stepOf(id))!;
  return `${is} ${figure}`.trim();
};
const withOther = (socket: string, more: Partial<SensorRecord>): TeamRecord => ({
  ...record,
  others: { ...record.others, [socket]: { ...nothing, ...more } },
});

describe('a record as a step sees it', () => {
  it('has the step’s sensor first, and loses nothing', () => {
    const known: TeamRecord = {
      ...withOther('K2', { threshold: level(18) }),
      sets: [dark, light],
      threshold: level(49),
    };
    const seen = recordAt(known, stepOf('gap'));
    expect([seen.lesson.need.socket, seen.threshold?.value]).toEqual(['K2', 18]);
    expect(thresholdsOf(seen)).toEqual(thresholdsOf(known));
    expect(thresholdsOf(known)).toEqual({ K3: 49, K2: 18 });
    expect(recordAt(seen, stepOf('gap')).threshold?.value).toBe(18);
    expect(knownRobotOf(known).sets.map(({ socket }) => socket)).toEqual(['K3', 'K3']);
    expect(Object.keys(reviewContext(known).surfaces)).toEqual(['K3']);
  });

  it('is as it was where a step names no sensor, or one that the lesson does not take', () => {
    expect(recordAt(record, stepOf('read')).lesson.need).toEqual(plain.need);
    expect(lessonAt(lesson, step('read', 'x', { socket: 'K9' })).need).toEqual(plain.need);
  });

  it('tells of whatever was done last on any sensor', () => {
    expect(lastActivity(withOther('K1', { touch: { periodMs: 10, values: [], at: 900 } }))).toBe(900);
  });
});

describe('reading', () => {
  it('goes surface by surface where the sensor sees two levels', () => {
    expect(state(record, 'read')).toBe('none');
    expect(state({ ...record, sets: [dark] }, 'read')).toBe('now 22 · –');
    expect(state({ ...record, sets: [dark, light] }, 'read')).toBe('done 22 · 76');
  });

  it('goes by true distances, read near enough', () => {
    const read = (...sets: SensorRecord['sets']) => withOther('K2', { sets });
    expect(state(read(), 'ruler')).toBe('none');
    expect(state(read(at(10, 10.3)), 'ruler')).toBe('now 1 of 2');
    expect(state(read(at(10, 10.3), at(20.5, 20.1)), 'ruler')).toBe('done 2 of 2');
    expect(readAtTruths(recordAt(read(at(13, 13)), stepOf('ruler')), [100, 200])).toEqual([false, false]);
  });

  it('goes by known turns, and says where the scale is off', () => {
    const read = (right: number, left: number) => withOther('K5', { sets: [at(90, right), at(-90, left)] });
    expect(state(read(90, -90.4), 'turns')).toBe('done 2 of 2');
    expect(state(withOther('K5', { sets: [at(90, 90)] }), 'turns')).toBe('now 1 of 2');
    expect(stageAt(read(81, -81), stepOf('turns'))).toMatchObject({
      state: 'risk',
      says: 'It reads 10 % too little.',
    });
  });

  it('goes by bumps', () => {
    const bumps = (n: number) =>
      Array.from({ length: n }, () => [...Array<number>(8).fill(1), ...Array<number>(8).fill(0)]).flat();
    const touch = (n: number) =>
      withOther('K1', { touch: { periodMs: 10, values: [0, 0, 0, ...bumps(n)], at: 5 } });
    expect(state(record, 'presses')).toBe('none');
    expect(state(touch(1), 'presses')).toBe('now 1 bump');
    expect(state(touch(3), 'presses')).toBe('done 3 bumps');
  });

  it('goes one after the other for colours, and says which are called the same', () => {
    const cards = ['red card', 'green card'].map((surface) => ({ surface, how: '' }));
    const kit = {
      ...fullKit,
      sensors: [
        ...fullKit.sensors,
        {
          id: 'colour',
          name: 'colour eye',
          modes: [
            {
              kind: 'colour' as const,
              unit: '' as const,
              min: 0,
              max: 7,
              step: 1,
              samplePeriodMs: 50,
              colours: ['none', 'red', 'green'],
            },
          ],
        },
      ],
    };
    const own: Lesson = {
      ...lesson,
      also: [{ kind: 'colour', name: 'seen', socket: 'K4' }],
      steps: [step('read', 'cards', { socket: 'K4', tasks: cards })],
    };
    const seeing = (...codes: number[]): TeamRecord => ({
      ...record,
      kit,
      build: {
        ...fullBuild,
        fittings: [
          ...fullBuild.fittings,
          { socket: 'K4', sensorId: 'colour', mode: 'colour', aheadMm: 80, rightMm: 20, heightMm: 12 },
        ],
      },
      lesson: own,
      others: {
        K4: {
          ...nothing,
          sets: codes.map((code, i) => ({ surface: cards[i]!.surface, values: [code, code, code], at: 1 })),
        },
      },
    });
    const told = (of: TeamRecord) => stageAt(of, own.steps![0]!)!;
    expect([told(seeing()).state, told(seeing(1)).figure, told(seeing(1, 2)).state]).toEqual([
      'none',
      '1 of 2',
      'done',
    ]);
    expect(told(seeing(1, 1))).toMatchObject({
      state: 'risk',
      says: 'The red card and the green card are both called red.',
    });
  });
});

describe('deciding', () => {
  it('asks for more than the gap, in the sensor’s own unit', () => {
    expect(state(record, 'gap')).toBe('none');
    expect(state(withOther('K2', { threshold: level(18) }), 'gap')).toBe('done 18 cm');
    expect(stageAt(withOther('K2', { threshold: level(15) }), stepOf('gap'))).toMatchObject({
      state: 'risk',
      says: 'At 15 cm it only begins to stop: the gap of 15 cm is gone before it stands.',
    });
  });

  it('takes the surfaces that were read last with the same sensor', () => {
    const own = [{ ...tasks[0]!, surface: 'tape' }, tasks[1]!];
    const twice: Lesson = {
      ...plain,
      steps: [step('read', 'a'), step('read', 'b', { tasks: own }), step('decide', 'c')],
    };
    expect(lessonAt(twice, twice.steps![2]!).read.tasks).toEqual(own);
    expect(lessonAt({ ...twice, steps: [step('decide', 'c')] }, step('decide', 'c')).read.tasks).toEqual(
      tasks,
    );
  });

  it('is nothing to do where a script compares with something that is known', () => {
    expect(stageAt(record, step('decide', 'd', { socket: 'K1' }))).toMatchObject({
      state: 'done',
      figure: 'no threshold',
    });
  });
});

describe('several steps of a kind', () => {
  const [, read, decide] = stagesOf(record);
  it('are one stage for the class: not begun, under way, done', () => {
    expect([read!.state, decide!.state]).toEqual(['none', 'none']);
    const begun = stagesOf({ ...record, sets: [dark, light] });
    expect(begun[1]).toMatchObject({ stage: 'read', state: 'now' });
    const all: TeamRecord = {
      ...record,
      wireCheck: { reacts: true, at: 1 },
      sets: [dark, light],
      threshold: level(49),
      others: {
        K2: { ...nothing, sets: [at(10, 10), at(20, 20)], threshold: level(18) },
        K5: { ...nothing, sets: [at(90, 90), at(-90, -90)] },
        K1: {
          ...nothing,
          touch: { periodMs: 10, values: [0, 1, 1, 1, 0, 0, 0, 1, 1, 1, 0, 0, 0, 1, 1, 1, 0, 0, 0], at: 5 },
        },
      },
    };
    expect(stagesOf(all).slice(1, 3)).toMatchObject([
      { state: 'done' },
      { state: 'done', figure: '49 % | 18 cm' },
    ]);
  });

  it('are told what they lack by the sensor that they read', () => {
    const says = (...own: LessonStep[]) =>
      missingIn({ ...lesson, steps: own }, 'proved').flatMap(({ says: one, step: id }) => (id ? [one] : []));
    const named = (one: LessonStep, title: string) => ({ ...one, title });
    expect(says(named(stepOf('gap'), 'Gap'))).toEqual(['Gap comes before anything was read.']);
    expect(says(named(stepOf('ruler'), 'Ruler'), named(stepOf('gap'), 'Gap'))).toEqual([]);
    expect(says(named(step('read', 'x', { socket: 'K6' }), 'Look'))).toEqual([
      'Look works with K6, which the lesson does not list among its sensors.',
    ]);
    expect(says(named(step('decide', 'x', { socket: 'K1' }), 'Bump'))).toEqual([
      'Bump decides nothing: a touch sensor needs no threshold.',
    ]);
  });
});

describe('a wrong plug among several', () => {
  it('is told by the board before any sensor was looked at, as the page tells it', () => {
    const build = { ...fullBuild, fittings: fullBuild.fittings.filter(({ socket }) => socket !== 'K2') };
    const [wire] = stagesOf({ ...record, build });
    expect([wire!.stage, wire!.state]).toEqual(['wire', 'fault']);
    expect(wire!.says).toMatch(/K2/);
  });
});
