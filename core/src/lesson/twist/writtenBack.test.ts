import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Expectation } from '../../expect/index.ts';
import { lesson as plain } from '../../test/index.ts';
import type { Lesson } from '../lesson.ts';
import { drawTwist, twistFaults, variantOf, withCourse, writtenBack, type Twist } from './index.ts';

const twist: Twist = {
  parameters: [
    { is: 'number', name: 'gap', says: 'gap', unit: 'cm', from: 10, to: 20, step: 1, usual: 15 },
    { is: 'word', name: 'card', says: 'card', words: ['red', 'green'], usual: 'green' },
  ],
  constraints: [],
  bindings: [
    { at: '/expectations/0/gapMm', value: '10 * gap' },
    { at: '/expectations/2/seconds', value: 'gap / 2' },
    { at: '/conditions/alongMm/1', value: 'gap' },
    { at: '/timeLimitS', value: 'gap' },
  ],
};
const lesson: Lesson = {
  ...plain,
  expectations: [
    { kind: 'ends with gap', gapMm: 0, toleranceMm: 20 },
    { kind: 'shows', text: '{card}' },
    { kind: 'done within', seconds: 1 },
    { kind: 'formula', says: 'Slow for {gap} cm', formula: 'always travelled < {3 * gap} cm' },
  ],
  twist,
};
const usual = variantOf(lesson);
const at = (written: Lesson) => written.twist!.bindings.map(({ at: place }) => place);

describe('a change written back into a lesson with a twist', () => {
  it('is nothing where nothing was changed', () => {
    expect(writtenBack(lesson, { expectations: usual.expectations, conditions: usual.conditions })).toEqual({
      lesson,
      freed: 0,
    });
  });

  it('takes a number out of the twist that was changed, and leaves its neighbours in', () => {
    const [gap, ...rest] = usual.expectations;
    const looser = writtenBack(lesson, {
      expectations: [{ ...gap, toleranceMm: 35 } as Expectation, ...rest],
    });
    expect([looser.freed, at(looser.lesson).length]).toEqual([0, 4]);
    expect(variantOf(looser.lesson, { gap: 12 }).expectations[0]).toEqual({
      kind: 'ends with gap',
      gapMm: 120,
      toleranceMm: 35,
    });
    const fixed = writtenBack(lesson, { expectations: [{ ...gap, gapMm: 130 } as Expectation, ...rest] });
    expect(fixed.freed).toBe(1);
    expect(at(fixed.lesson)).not.toContain('/expectations/0/gapMm');
    expect(variantOf(fixed.lesson, { gap: 12 }).expectations[0]).toMatchObject({ gapMm: 130 });
  });

  it('follows an expectation to its new place, and forgets one that is gone', () => {
    const [gap, shows, within, formula] = usual.expectations as [
      Expectation,
      Expectation,
      Expectation,
      Expectation,
    ];
    const moved = writtenBack(lesson, { expectations: [within, formula, gap] });
    expect([moved.freed, at(moved.lesson)]).toEqual([
      0,
      ['/expectations/2/gapMm', '/expectations/0/seconds', '/conditions/alongMm/1', '/timeLimitS'],
    ]);
    expect(moved.lesson.expectations[1]).toEqual(lesson.expectations[3]);
    expect(writtenBack(lesson, { expectations: [shows] }).lesson.expectations).toEqual([
      lesson.expectations[1],
    ]);
  });

  it('keeps conditions in the twist that were left alone', () => {
    const conditions = { ...usual.conditions, lightShift: [-9, 9] as [number, number] };
    expect(at(writtenBack(lesson, { conditions }).lesson)).toContain('/conditions/alongMm/1');
    const far = { ...usual.conditions, alongMm: [-60, 90] as [number, number] };
    expect(writtenBack(lesson, { conditions: far })).toMatchObject({ freed: 1 });
  });

  it('is simply taken where there is no twist', () => {
    expect(writtenBack(plain, { expectations: [] })).toEqual({
      lesson: { ...plain, expectations: [] },
      freed: 0,
    });
  });

  it('always gives the lesson that was asked for, whatever was moved, removed, changed or added', () => {
    const change = fc.array(
      fc.oneof(
        fc.constantFrom(...usual.expectations),
        fc.record({
          kind: fc.constant('ends with gap' as const),
          gapMm: fc.integer({ min: 0, max: 300 }),
          toleranceMm: fc.constant(20),
        }),
        fc.record({ kind: fc.constant('shows' as const), text: fc.constantFrom('green', 'red', 'stop') }),
        fc.constant({ kind: 'comes to rest' as const }),
      ),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(change, fc.integer(), (expectations, seed) => {
        const { lesson: written } = writtenBack(lesson, { expectations });
        expect(variantOf(written).expectations).toEqual(expectations);
        expect(twistFaults(written)).toEqual([]);
        const drawn = drawTwist(twist, seed);
        expect(drawn.ok && variantOf(written, drawn.value).expectations.length).toBe(expectations.length);
      }),
      { numRuns: 300 },
    );
  });
});

describe('a word of a twist', () => {
  it('counts in formulas as its place among the words', () => {
    const words: Lesson = {
      ...lesson,
      twist: { ...twist, constraints: ['card <> 2'], bindings: [{ at: '/timeLimitS', value: '10 * card' }] },
    };
    expect(variantOf(words, { card: 'red' }).timeLimitS).toBe(10);
    expect(variantOf(words).timeLimitS).toBe(20);
    for (let seed = 0; seed < 50; seed++) {
      const drawn = drawTwist(words.twist!, seed);
      expect(drawn.ok && drawn.value.card).toBe('red');
    }
  });
});

describe('a course made by hand', () => {
  const course = { ...plain.course, name: 'Own', marks: [] };
  const family = { id: 'quay', values: { distanceMm: '10 * gap' } };

  it('takes the place of one that followed the twist, and of numbers that are gone with it', () => {
    const bindings = [...twist.bindings, { at: '/course/marks/0/widthMm', value: 'gap' }];
    const from: Lesson = { ...lesson, twist: { ...twist, family, bindings } };
    expect(variantOf(from).course.name).toBe(plain.course.name);
    const { lesson: own, freed } = withCourse(from, course);
    expect([freed, variantOf(own, { gap: 12 }).course, twistFaults(own)]).toEqual([true, course, []]);
    expect(own.twist!.bindings).toEqual(twist.bindings);
  });

  it('frees nothing where the twist left the course alone', () => {
    expect(withCourse(lesson, course)).toEqual({ lesson: { ...lesson, course }, freed: false });
    expect(withCourse(plain, course)).toEqual({ lesson: { ...plain, course }, freed: false });
  });
});
