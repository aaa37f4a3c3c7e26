import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { lesson as plain } from '../test/index.ts';
import {
  answersOf,
  fieldsOf,
  floorQuestions,
  judgeTrial,
  lessonOnFloor,
  newStep,
  seenFaults,
  type Lesson,
  type TrialFields,
} from './index.ts';

const [first, second] = [newStep('floor', []), { ...newStep('floor', []), id: 'again' }];
const lesson: Lesson = {
  ...plain,
  floor: { trials: 3, landmark: 'near-edge' },
  steps: [
    newStep('brief', []),
    first,
    { ...second, part: { expectations: [{ kind: 'bumps', atLeast: 2 }, { kind: 'never over the edge' }] } },
  ],
};
const nothing: TrialFields = fieldsOf(lesson, {});
const verdicts = (on: Lesson, fields: Partial<TrialFields>) =>
  judgeTrial(on, { ...nothing, ...fields }).map(({ verdict }) => verdict);

describe('a floor trial', () => {
  it('keeps every answer, the usual ones in fields of their own', () => {
    expect(
      fieldsOf(lesson, { 'past near-edge': -4, rested: false, took: 2, bumps: 3, 'shows a': true }),
    ).toEqual({
      ...nothing,
      pastMm: -4,
      rested: false,
      tookS: 2,
      seen: { bumps: 3, 'shows a': true },
    });
    const key = fc.constantFrom(
      'past near-edge',
      'past other',
      'gap',
      'turned',
      'count',
      'took',
      'bumps',
      'way',
    );
    fc.assert(
      fc.property(
        fc.dictionary(key, fc.double({ min: -1e4, max: 1e4, noNaN: true })),
        fc.boolean(),
        (some, rested) => {
          const answers = { ...some, rested };
          expect(answersOf(lesson, fieldsOf(lesson, answers))).toEqual(answers);
        },
      ),
    );
  });

  it('is asked what the lesson measures first, then what its sentences need, each once', () => {
    expect(floorQuestions(lesson).map(({ key }) => key)).toEqual(['past near-edge', 'rested', 'took']);
    const counting: Lesson = { ...lesson, floor: { ...lesson.floor, measures: ['count', 'past'] } };
    expect(floorQuestions(counting).map(({ key }) => key)).toEqual([
      'count',
      'past near-edge',
      'rested',
      'took',
    ]);
  });

  it('is judged by the sentences of its own step; one that names no step or a step that is gone, by the first', () => {
    const [here, there] = [lessonOnFloor(lesson, first.id), lessonOnFloor(lesson, 'again')];
    expect([here.expectations, there.expectations[0]]).toEqual([
      plain.expectations,
      { kind: 'bumps', atLeast: 2 },
    ]);
    expect(lessonOnFloor(lesson, null)).toEqual(here);
    expect(lessonOnFloor(lesson, 'removed')).toEqual(here);
    const twice = { pastMm: 400, seen: { bumps: 2 } };
    expect(verdicts(here, twice)).toEqual(['broken', 'cannot tell', 'cannot tell']);
    expect(verdicts(there, twice)).toEqual(['holds', 'cannot tell']);
    expect(verdicts(there, { pastMm: 10 })).toEqual(['cannot tell', 'cannot tell']);
  });

  it('refuses answers that were not asked for or are out of bounds', () => {
    const on = lessonOnFloor(lesson, 'again');
    expect(seenFaults(on, { bumps: 2, 'over the edge': false })).toEqual([]);
    expect(seenFaults(on, { bumps: 201, touched: true, 'over the edge': 1 }).map(({ says }) => says)).toEqual(
      [
        'A number by counting, 0 to 200.',
        '“touched” is not asked in this lesson.',
        'Whether a wheel went over the edge: yes or no.',
      ],
    );
  });
});
