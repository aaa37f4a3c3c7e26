import { describe, expect, it } from '@jest/globals';
import { lesson as plain } from '../../test/index.ts';
import { newStep, type Lesson, type NumberParameter } from '../index.ts';
import { loneNumbers, textsFollow, variantOf } from './index.ts';

const number = (name: string, unit: NumberParameter['unit'], usual: number): NumberParameter => ({
  is: 'number',
  name,
  says: name,
  unit,
  from: usual - 1,
  to: usual + 1,
  step: 1,
  usual,
});
const lesson = (text: string, ...parameters: NumberParameter[]): Lesson => ({
  ...plain,
  aim: 'Nothing here.',
  steps: [{ ...newStep('brief', []), title: 'What', text }],
  twist: { parameters, constraints: [], bindings: [] },
});
const gap = number('gap', 'cm', 15);

describe('usual values that texts still name', () => {
  it.each<[string, string, NumberParameter]>([
    ['Stop at 15 cm, not 15cm.', 'Stop at {gap} cm, not {gap}cm.', gap],
    ['A turn of 90° is 90 deg.', 'A turn of {a}° is {a} deg.', number('a', 'deg', 90)],
    ['Wait for 2.5 s.', 'Wait for {t} s.', number('t', 's', 2.5)],
    ['Back off by 5 in.', 'Back off by {b} in.', number('b', 'in', 5)],
  ])('“%s” becomes “%s”', (text, told, parameter) => {
    expect(textsFollow(lesson(text, parameter)).steps![0]!.text).toBe(told);
    expect(loneNumbers(lesson(text, parameter))).toEqual([
      expect.objectContaining({ parameter: parameter.name, places: ['What'] }),
    ]);
    expect(loneNumbers(lesson(told, parameter))).toEqual([]);
    // With the usual value it reads as before.
    expect(variantOf(textsFollow(lesson(text, parameter))).steps![0]!.text).toBe(text);
  });

  it.each<[string, NumberParameter]>([
    ['115 cm, 1.15 cm, 15 cms, 15 cm², 15 km', gap],
    ['five of them, 5 in a row', number('b', 'in', 5)],
    ['15 lanes', number('n', '', 15)],
  ])('“%s” names none', (text, parameter) => {
    expect(loneNumbers(lesson(text, parameter))).toEqual([]);
    expect(textsFollow(lesson(text, parameter)).steps![0]!.text).toBe(text);
  });

  it('are none where there is no twist', () => {
    expect(loneNumbers(plain)).toEqual([]);
    expect(textsFollow(plain)).toEqual(plain);
  });
});
