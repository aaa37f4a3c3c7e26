import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { mergedData, mergedText } from './merge.ts';

describe('two texts made from one', () => {
  const base = 'It stopped.\n\nThe floor was dark.\n\nNext time slower.';
  it('are put together where they changed different paragraphs', () => {
    const mine = base.replace('It stopped.', 'It stopped late.');
    const theirs = base.replace('Next time slower.', 'Next time at 20 %.');
    expect(mergedText(base, mine, theirs)).toBe(
      'It stopped late.\n\nThe floor was dark.\n\nNext time at 20 %.',
    );
  });
  it('are not where they changed the same one', () => {
    expect(mergedText(base, base.replace('dark', 'light'), base.replace('dark', 'grey'))).toBeNull();
    expect(mergedText('', 'mine', 'theirs')).toBeNull();
  });
  it('give either where only one changed anything, and both sides agree on who merged (300 pairs)', () => {
    const text = fc
      .array(fc.constantFrom('a', 'b', 'c', ''), { maxLength: 8 })
      .map((lines) => lines.join('\n'));
    fc.assert(
      fc.property(text, text, text, (one, mine, theirs) => {
        expect(mergedText(one, mine, one)).toBe(mine);
        expect(mergedText(one, one, theirs)).toBe(theirs);
        expect(mergedText(one, mine, theirs)).toBe(mergedText(one, theirs, mine));
      }),
      { numRuns: 300 },
    );
  });
});

describe('two states made from one', () => {
  const base = { title: 'A', minutes: 50, steps: [{ text: 'one' }, { text: 'two' }] };
  it('are put together field by field', () => {
    expect(mergedData(base, { ...base, title: 'B' }, { ...base, minutes: 45 })).toEqual({
      ...base,
      title: 'B',
      minutes: 45,
    });
    const [first, second] = base.steps;
    expect(
      mergedData(
        base,
        { ...base, steps: [{ text: 'ONE' }, second!] },
        { ...base, steps: [first!, { text: 'TWO' }] },
      ),
    ).toEqual({ ...base, steps: [{ text: 'ONE' }, { text: 'TWO' }] });
  });
  it('are not where both changed one field, or one changed how long a list is', () => {
    expect(mergedData(base, { ...base, title: 'B' }, { ...base, title: 'C' })).toBeNull();
    expect(
      mergedData(base, { ...base, steps: [] }, { ...base, steps: [{ text: 'x' }, base.steps[1]!] }),
    ).toBeNull();
  });
  it('keep a field that one took away and the other left alone', () => {
    const with1: { title: string; aim?: string } = { title: 'A', aim: 'x' };
    expect(mergedData(with1, { title: 'A' }, { ...with1, title: 'B' })).toEqual({ title: 'B' });
  });
});
