import { describe, expect, it } from '@jest/globals';
import {
  decideWayOf,
  drawTwist,
  loneNumbers,
  materialsFor,
  missingIn,
  sensorAt,
  stepsOf,
  thingsToRead,
  timePlan,
  twistFaults,
  variantOf,
} from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { harbourLessons } from '../starter/lessons/index.ts';

const each = harbourLessons.map((lesson) => [lesson.title, lesson] as const);
const seeds = Array.from({ length: 25 }, (_, seed) => seed * 101 + 7);

describe('each of the sixteen lessons, as a teacher would write it', () => {
  it.each(each)(
    '%s: something is read before anything is programmed, and all of it is named',
    (_, lesson) => {
      const steps = stepsOf(variantOf(lesson));
      const kinds = steps.map(({ kind }) => kind);
      expect(kinds.indexOf('read')).toBeGreaterThan(kinds.indexOf('wire'));
      expect(kinds.lastIndexOf('read')).toBeLessThan(kinds.indexOf('script'));
      expect(kinds.indexOf('predict')).toBeLessThan(kinds.indexOf('try'));
      for (const step of steps.filter(({ kind }) => kind === 'read')) {
        const things = thingsToRead(lesson, step);
        expect(things.length).toBeGreaterThan(0);
        expect(new Set(things.map(({ name }) => name)).size).toBe(things.length);
      }
      for (const step of steps.filter(({ kind }) => kind === 'decide'))
        expect([step.id, decideWayOf(sensorAt(lesson, step).kind)]).not.toEqual([step.id, null]);
    },
  );

  it.each(each)('%s: nothing stops it from being taught, and it leaves time in the period', (_, lesson) => {
    expect(missingIn(lesson, 'proved').filter(({ grade }) => grade === 'stop')).toEqual([]);
    expect(timePlan(variantOf(lesson)).slack).toBeGreaterThanOrEqual(2);
    expect(loneNumbers(lesson)).toEqual([]);
    for (const { title, text, expects } of stepsOf(lesson))
      expect([title !== '', text !== '', expects.length < 120]).toEqual([true, true, true]);
    const named = materialsFor(variantOf(lesson), 8).map(({ name }) => name);
    expect(new Set(named).size).toBe(named.length);
  });

  it.each(each)('%s: whatever is drawn, no brace is left in its texts and its answer runs', (_, lesson) => {
    expect(twistFaults(lesson)).toEqual([]);
    for (const seed of seeds) {
      const drawn = drawTwist(lesson.twist!, seed);
      if (!drawn.ok) throw new Error(drawn.says);
      const variant = variantOf(lesson, drawn.value);
      const texts = [variant.aim, variant.modelScript, ...variant.faults!.map(({ script }) => script)].concat(
        stepsOf(variant).flatMap(({ title, text, expects, hints }) => [title, text, expects, ...hints]),
        variant.expectations.map((expectation) => JSON.stringify(Object.values(expectation))),
      );
      expect(texts.filter((text) => /\{[^}"]*[a-z][^}"]*\}/i.test(text))).toEqual([]);
      expect(canRun(parseScript(variant.modelScript))).toBe(true);
    }
  });
});
