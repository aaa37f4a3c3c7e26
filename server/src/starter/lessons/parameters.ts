import type { NumberParameter, WordParameter } from '@vigilum/core/lesson';

/** A number that a twist draws. */
export const number = (
  name: string,
  says: string,
  unit: NumberParameter['unit'],
  from: number,
  to: number,
  step: number,
  usual: number,
): NumberParameter => ({ is: 'number', name, says, unit, from, to, step, usual });

const colours = ['red', 'green', 'blue'];
/** A coloured card that a twist draws. */
export const card = (name: string, usual: string): WordParameter => ({
  is: 'word',
  name,
  says: `${name} card`,
  words: colours,
  usual,
});
