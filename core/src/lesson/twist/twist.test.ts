import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { lesson } from '../../test/index.ts';
import type { Lesson } from '../lesson.ts';
import {
  boundPlaces,
  drawForTeams,
  drawTwist,
  fillText,
  formulaFor,
  numberAt,
  numbersOf,
  readArithmetic,
  twistFaults,
  usualValues,
  valuesInWords,
  variantOf,
  type NumberParameter,
  type Twist,
} from './index.ts';

const twist: Twist = {
  parameters: [
    { is: 'number', name: 'gap', says: 'gap', unit: 'cm', from: 10, to: 24, step: 2, usual: 16 },
    { is: 'number', name: 'way', says: 'way', unit: 'cm', from: 40, to: 120, step: 0.5, usual: 80 },
    { is: 'word', name: 'colour', says: 'card', words: ['red', 'green', 'blue'], usual: 'green' },
  ],
  constraints: ['way > 4 * gap', 'way - gap < 90'],
  family: { id: 'quay', values: { distanceMm: '10 * way' } },
  bindings: [{ at: '/timeLimitS', value: 'way / 8' }],
  levels: [{ says: 'near', ranges: { gap: { from: 20, to: 24 } } }],
};
const twisted: Lesson = {
  ...lesson,
  title: 'Stop at {gap} cm',
  aim: 'Wait for {colour}, then stop {gap} cm short; {other} stays.',
  modelScript: `${lesson.modelScript}show "{gap}"\n`,
  twist,
};
const work = (text: string, values: Record<string, number> = {}) => {
  const formula = readArithmetic(text, new Set(Object.keys(values)));
  return formula.ok ? formula.value(values) : formula.says;
};

describe('formulas over parameters', () => {
  it.each<[string, number]>([
    ['2 + 3 * 4', 14],
    ['(2 + 3) * 4', 20],
    ['10 - 4 - 3', 3],
    ['12 / 4 / 3', 1],
    ['-2 * -3', 6],
    ['min(4, 2, 8) + max(1, 5)', 7],
    ['round(7 / 2) + floor(7 / 2) + abs(-1)', 8],
    ['3 < 4 and 4 <= 4', 1],
    ['3 > 4', 0],
    ['1 <> 2', 1],
    ['0.5 = 0.5', 1],
  ])('%s is %d', (text, value) => expect(work(text)).toBe(value));

  it.each<[string, RegExp]>([
    ['gap +', /ends too early/],
    ['(gap', /a “\)” is missing/],
    ['gab', /no parameter “gab” \(there is gap\)/],
    ['gap gap', /does not belong there/],
    ['gap; 1', /“; 1” is not understood/],
    ['constructor', /no parameter/],
    ['round', /no parameter/],
    [`${'('.repeat(60)}1${')'.repeat(60)}`, /nested too deeply/],
    ['('.repeat(60), /ends too early/],
    ['1 + '.repeat(80), /longer than 200/],
    ['', /ends too early/],
  ])('%s is refused in one sentence', (text, says) => expect(String(work(text, { gap: 1 }))).toMatch(says));

  it('never throw, whatever is written', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 220 }), (text) => {
        const formula = readArithmetic(text, new Set(['gap']));
        if (formula.ok) expect(typeof formula.value({ gap: 3 })).toBe('number');
        else expect(formula.says.length).toBeGreaterThan(10);
      }),
      { numRuns: 2000 },
    );
  });
});

describe('a twist', () => {
  it('draws the same values from the same seed, and keeps every range, step and constraint over 1,000 seeds', () => {
    for (let seed = 0; seed < 1000; seed++) {
      const drawn = drawTwist(twist, seed);
      expect(drawn).toEqual(drawTwist(twist, seed));
      if (!drawn.ok) throw new Error(drawn.says);
      const { gap, way, colour } = drawn.value as { gap: number; way: number; colour: string };
      expect([gap >= 10 && gap <= 24, way >= 40 && way <= 120]).toEqual([true, true]);
      expect([gap % 2, way % 0.5]).toEqual([0, 0]);
      expect([way > 4 * gap, way - gap < 90]).toEqual([true, true]);
      expect(['red', 'green', 'blue']).toContain(colour);
    }
  });

  it('reaches both ends of a range and every word', () => {
    const drawn = Array.from({ length: 400 }, (_, seed) => drawTwist({ ...twist, constraints: [] }, seed));
    const values = drawn.map((one) => (one.ok ? one.value : {}));
    expect(new Set(values.map(({ gap }) => gap))).toEqual(new Set([10, 12, 14, 16, 18, 20, 22, 24]));
    expect(new Set(values.map(({ colour }) => colour)).size).toBe(3);
  });

  it('takes the ranges of a level', () => {
    for (let seed = 0; seed < 50; seed++) {
      const drawn = drawTwist(twist, seed, 1);
      expect(drawn.ok && (drawn.value.gap as number) >= 20).toBe(true);
    }
  });

  it('says when nothing keeps the constraints, or one cannot be read', () => {
    const never = drawTwist({ ...twist, constraints: ['gap > 30'] }, 1);
    expect(never.ok ? '' : never.says).toContain('gap > 30');
    expect(drawTwist({ ...twist, constraints: ['gop > 3'] }, 1)).toMatchObject({ ok: false });
  });

  it('gives eight teams eight different draws, and neighbouring teams no like beginnings', () => {
    const drawn = drawForTeams(twist, 7, 8);
    if (!drawn.ok) throw new Error(drawn.says);
    expect(new Set(drawn.value.map((values) => JSON.stringify(values))).size).toBe(8);
    expect(new Set(drawn.value.map(({ gap }) => gap)).size).toBeGreaterThan(3);
    // With one value only, all get it: that is no fault.
    const single = {
      ...twist,
      parameters: twist.parameters.slice(0, 1).map((p) => ({ ...p, from: 16, to: 16 })),
    } as Twist;
    expect(drawForTeams({ ...single, constraints: [] }, 1, 3)).toEqual({
      ok: true,
      value: [{ gap: 16 }, { gap: 16 }, { gap: 16 }],
    });
  });

  it('is told in words with units', () => {
    expect(valuesInWords(twist, { gap: 12, way: 60.5, colour: 'red' })).toBe(
      'gap 12 cm · way 60.5 cm · card red',
    );
  });
});

describe('the lesson of one team', () => {
  it('carries its values in every text, in the script, the course and the numbers that follow', () => {
    const variant = variantOf(twisted, { gap: 12, way: 60, colour: 'red' });
    expect(variant.title).toBe('Stop at 12 cm');
    expect(variant.aim).toBe('Wait for red, then stop 12 cm short; {other} stays.');
    expect(variant.modelScript).toContain('show "12"');
    expect(variant.timeLimitS).toBe(7.5);
    expect(variant.course.name).toBe(lesson.course.name);
    expect(variant.course.landmarks[0]!.yMm).not.toBe(lesson.course.landmarks[0]!.yMm);
    expect(variant.twist).toBeUndefined();
    // The lesson itself stays as it was written.
    expect([twisted.title, twisted.timeLimitS]).toEqual(['Stop at {gap} cm', lesson.timeLimitS]);
  });

  it('is the usual one when nothing was drawn, and the lesson itself where there is no twist', () => {
    expect(variantOf(twisted)).toEqual(variantOf(twisted, usualValues(twist)));
    expect(variantOf(lesson)).toBe(lesson);
    expect(numbersOf(twist, usualValues(twist))).toEqual({ gap: 16, colour: 2, way: 80 });
  });

  it('works out formulas in braces', () => {
    expect(fillText('until {gap - 2}, then {10 * gap} mm, {way / gap}', twist, { gap: 4, way: 10 })).toBe(
      'until 2, then 40 mm, 2.5',
    );
    // Nothing to work out, or nothing that comes to a number: left for people to see.
    expect(fillText('{2 + 3} {gap +} {gap / 0} {gap; 1}', twist, { gap: 4 })).toBe(
      '{2 + 3} {gap +} {gap / 0} {gap; 1}',
    );
  });

  it('leaves braces that name no parameter', () => {
    expect(fillText('{gap} {toString} {} {gap', twist, { gap: 3 })).toBe('3 {toString} {} {gap');
  });

  it('is proposed a formula that leaves the number as it is', () => {
    const gap = twist.parameters[0] as NumberParameter;
    for (const [value, formula] of [
      [160, '10 * gap'],
      [406.4, '25.4 * gap'],
      [1.6, '0.1 * gap'],
      [16, 'gap'],
      [18.5, 'gap + 2.5'],
      [0, 'gap - 16'],
    ] as const) {
      expect(formulaFor(gap, value)).toBe(formula);
      expect(work(formula, { gap: 16 })).toBeCloseTo(value, 9);
    }
  });

  it('takes hold of numbers of a lesson only', () => {
    expect(numberAt(lesson, '/timeLimitS')).toBe(lesson.timeLimitS);
    for (const at of [
      '/slug',
      '/twist/parameters/0/from',
      '/course/__proto__/x',
      '/course/name',
      '',
      '/',
      '/course/starts/9/xMm',
    ])
      expect([at, numberAt(twisted, at)]).toEqual([at, null]);
    const places = boundPlaces(twisted, (i) => `expectation ${i}`);
    expect(places.length).toBeGreaterThan(5);
    for (const { at, value } of places) expect([at, numberAt(twisted, at)]).toEqual([at, value]);
  });

  it('has its faults named, each in one sentence', () => {
    expect(twistFaults(twisted)).toEqual([]);
    const [gap] = twist.parameters as [Extract<Twist['parameters'][0], { is: 'number' }>];
    const wrong: Twist = {
      parameters: [
        { ...gap, name: '2gap' },
        { ...gap, from: 30, to: 20 },
        { ...gap, step: 0 },
        { ...gap, usual: 99 },
        { is: 'word', name: 'card', says: 'card', words: ['red'], usual: 'green' },
      ],
      constraints: ['gop > 1'],
      family: { id: 'quay', values: { nothing: 'gap', distanceMm: 'gap +' } },
      bindings: [{ at: '/title', value: 'gap' }],
    };
    const faults = twistFaults({ ...lesson, twist: wrong }).join('\n');
    for (const says of [
      /“2gap” is no name/,
      /Two parameters are called “gap”/,
      /runs from 30 to 20/,
      /has a step of 0/,
      /usually 99, which is outside/,
      /“green”, which is none of its words/,
      /no parameter “gop”/,
      /has no “nothing”/,
      /“distanceMm”: “gap \+” cannot be worked out/,
      /no number of the lesson at “\/title”/,
    ])
      expect(faults).toMatch(says);
    expect(twistFaults({ ...lesson, twist: { ...twist, family: { id: 'moon', values: {} } } })).toEqual([
      'There is no course family “moon”.',
    ]);
  });
});
