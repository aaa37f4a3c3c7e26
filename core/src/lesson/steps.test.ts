import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { lesson as given } from '../test/index.ts';
import {
  copyOfStep,
  lessonAt,
  LESSON_LIMIT,
  missingIn,
  moveStep,
  newStep,
  stepFacts,
  stepKinds,
  stepsOf,
  timePlan,
  usualSteps,
  type Lesson,
  type LessonStep,
  type StepKind,
} from './index.ts';

const lesson: Lesson = { ...given, modelScript: `sensor floor is light on K3\n${given.modelScript}` };
const words = {
  brief: 'About a line.',
  predict: 'How far?',
  script: 'Three actions.',
  scriptHints: ['Stop?'],
  watch: 'Watch the reading.',
  reflect: 'Why?',
  extend: 'Faster.',
  homework: 'Halfway of 20 and 80.',
};
const whole: Lesson = { ...lesson, minutes: 50, steps: usualSteps({ ...lesson, minutes: 50 }, words) };
const kinds = (steps: readonly LessonStep[]) => steps.map(({ kind }) => kind);
const stepsFrom = (list: readonly [StepKind, number][]) =>
  list.reduce<LessonStep[]>((steps, [kind, minutes]) => [...steps, { ...newStep(kind, steps), minutes }], []);
const someSteps = fc
  .array(fc.tuple(fc.constantFrom(...stepKinds), fc.integer({ min: 0, max: 60 })), {
    minLength: 1,
    maxLength: 60,
  })
  .map(stepsFrom);

describe('the steps of a lesson', () => {
  it('go the plain way through the stages where a lesson says nothing of its own', () => {
    expect(kinds(stepsOf(lesson))).toEqual([
      'brief',
      'wire',
      'read',
      'decide',
      'script',
      'try',
      'prove',
      'floor',
    ]);
    const bench = { ...lesson, read: { burst: 5, tasks: [] }, floor: { trials: 0, landmark: '' } };
    expect(kinds(stepsOf(bench))).toEqual(['brief', 'wire', 'script', 'try', 'prove']);
  });

  it('are written out in the order of the work, homework last and outside the period', () => {
    expect(kinds(whole.steps!)).toEqual([
      'brief',
      'wire',
      'read',
      'decide',
      'script',
      'predict',
      'try',
      'prove',
      'floor',
      'reflect',
      'extend',
      'homework',
    ]);
    expect(whole.steps!.find(({ kind }) => kind === 'wire')!.text).toContain('**K3**: reflected light');
    expect(
      missingIn(whole, 'proved')
        .filter(({ grade }) => grade === 'stop')
        .map(({ says }) => says),
    ).toEqual(['No robot is named to prove the model answer on.']);
  });

  it('keep their own working part, and take the rest from the lesson', () => {
    const [dark] = lesson.read.tasks;
    const step = { ...newStep('read', []), part: { tasks: [dark!], startScript: 'stop\n', trials: 7 } };
    const here = lessonAt(lesson, step);
    expect([here.read.tasks, here.startScript, here.floor.trials]).toEqual([[dark], 'stop\n', 7]);
    expect([here.read.burst, here.course, here.expectations]).toEqual([
      lesson.read.burst,
      lesson.course,
      lesson.expectations,
    ]);
    expect(lessonAt(lesson, newStep('read', []))).toEqual(lesson);
  });

  it('are never called alike, however many of one kind there are', () => {
    const steps = stepsFrom(Array.from({ length: 30 }, () => ['script', 1] as const));
    expect(new Set(steps.map(({ id }) => id)).size).toBe(30);
    const copy = copyOfStep(steps[3]!, steps);
    expect(steps.map(({ id }) => id)).not.toContain(copy.id);
    expect(copy).toEqual({ ...steps[3], id: copy.id });
    // An id goes into addresses and files: only what the format allows.
    for (const { id } of [...steps, copy]) expect(id).toMatch(/^[a-z0-9-]{1,40}$/);
  });

  it('are moved without losing or doubling one, and moving back undoes it', () => {
    fc.assert(
      fc.property(someSteps, fc.nat(70), fc.nat(70), (steps, a, b) => {
        const [from, to] = [a % steps.length, b % steps.length];
        const moved = moveStep(steps, from, to);
        expect(moved[to]).toBe(steps[from]);
        expect(moveStep(moved, to, from)).toEqual(steps);
        expect(new Set(moved.map(({ id }) => id))).toEqual(new Set(steps.map(({ id }) => id)));
      }),
    );
    const two = stepsFrom([
      ['brief', 1],
      ['wire', 1],
    ]);
    expect(kinds(moveStep(two, 0, 99))).toEqual(['wire', 'brief']);
    expect(moveStep(two, 9, 0)).toEqual(two);
  });
});

describe('the time plan', () => {
  it('always adds up: every minute is in one step, in the slack, or at home', () => {
    fc.assert(
      fc.property(someSteps, fc.integer({ min: 5, max: LESSON_LIMIT.period }), (steps, minutes) => {
        const plan = timePlan({ ...lesson, minutes, steps });
        const inPeriod = steps.filter(({ kind }) => stepFacts[kind].inPeriod);
        const sum = (list: readonly LessonStep[]) => list.reduce((all, step) => all + step.minutes, 0);
        expect(plan.used + plan.slack).toBe(minutes);
        expect(plan.used).toBe(sum(inPeriod));
        expect(plan.used + plan.homework).toBe(sum(steps));
        // Each begins where the one before it ended.
        plan.steps.forEach(({ fromMin }, i) => expect(fromMin).toBe(i === 0 ? 0 : plan.steps[i - 1]!.toMin));
      }),
    );
  });

  it('says how it fits in words', () => {
    const says = (minutes: number) => timePlan({ ...whole, minutes }).says;
    expect(says(50)).toBe('45 of 50 min are planned, 5 are left over.');
    expect(says(45)).toMatch(/^The steps fill the period of 45 min to the last minute/);
    expect(says(40)).toMatch(/^The steps take 5 min longer than the period of 40/);
  });
});

describe('what a lesson still lacks', () => {
  const without = (kind: StepKind): Lesson => ({
    ...whole,
    robot: { kit: 'test', build: { fittings: [] } as never, thresholds: {} },
    steps: whole.steps!.filter((step) => step.kind !== kind),
  });
  const ready = { ...whole, robot: without('brief').robot! };
  const says = (one: Lesson, state: Parameters<typeof missingIn>[1] = 'proved') =>
    missingIn(one, state)
      .filter(({ grade }) => grade === 'stop')
      .map(({ says: sentence }) => sentence);

  it('is nothing for a lesson that is ready', () => expect(says(ready)).toEqual([]));

  it.each<[string, Lesson, RegExp]>([
    ['no title', { ...ready, title: ' ' }, /^The lesson has no title/],
    ['no expectation', { ...ready, expectations: [] }, /^Prove it has no expectation/],
    ['no model answer', { ...ready, modelScript: '' }, /^There is no model answer/],
    ['a model answer that cannot run', { ...ready, modelScript: 'repeat\n' }, /^The model answer, line 1/],
    [
      'a decision before any reading',
      without('read'),
      /Decide on a threshold comes before anything was read/,
    ],
    ['a proof before any script', without('script'), /comes before any script was written/],
    ['a floor step without a trial', { ...ready, floor: { trials: 0, landmark: '' } }, /asks for no trial/],
    ['nothing to read', { ...ready, read: { burst: 5, tasks: [] } }, /has nothing to read/],
    ['no robot', { ...whole }, /^No robot is named/],
  ])('%s', (_, lacking, wanted) => {
    expect(says(lacking).some((one) => wanted.test(one))).toBe(true);
  });

  it('names a model answer that was never proved, and one that fails', () => {
    expect(says(ready, 'never proved')).toEqual(['The model answer was never proved.']);
    expect(says(ready, 'not proved')).toEqual(['The model answer does not pass its own expectations.']);
  });

  it('puts what stops the lesson before what would only be better', () => {
    const all = missingIn({ ...ready, title: '', aim: '', skills: [], cautions: [] }, 'never proved');
    const grades = all.map(({ grade }) => grade);
    expect(grades.lastIndexOf('stop')).toBeLessThan(grades.indexOf('note'));
    expect(all.find(({ says: one }) => one.includes('caution'))?.grade).toBe('note');
  });
});
