import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { debounce, debounceSamples, tellTouch, touchEvents, twoBitState, twoBitTable } from './index.ts';

const raw = (word: string) => [...word].map((c) => c === '1');
const events = (word: string, n: number, start = false) =>
  touchEvents(raw(word), 50, { n, start }).events.map(({ is, at }) => `${is}@${at}`);
const shown = (states: boolean[]) => states.map(Number).join('');

describe('what a bumper did', () => {
  // Derived by hand from the definitions: a change counts once it has held for n samples.
  it.each([
    ['clean press and release', '0011100', 1, '0011100', ['press@2', 'release@5', 'bump@5']],
    ['bouncing contact', '01011011100010', 2, '00001111110000', ['press@4', 'release@10', 'bump@10']],
    [
      'glitches both ways',
      '001100111110111001000',
      3,
      '000000001111111111110',
      ['press@8', 'release@20', 'bump@20'],
    ],
    ['pressed to the end', '000111', 1, '000111', ['press@3']],
    ['alternating', '0101010101', 2, '0000000000', []],
  ])('%s', (_, word, n, accepted, wanted) => {
    expect(shown(debounce(raw(word), n, false))).toBe(accepted);
    expect(events(word, n)).toEqual(wanted);
  });

  it('already pressed at the start: the first release is no bump', () => {
    expect(events('1110011000', 1, true)).toEqual(['release@3', 'press@5', 'release@7', 'bump@7']);
  });

  it('counts, times the longest hold, and names a loose contact', () => {
    const record = touchEvents(raw('0011000111110000011000'), 50, { n: 1, start: false });
    expect(record).toMatchObject({ presses: 3, releases: 3, bumps: 3, longestHoldS: 0.25, chatter: 0 });
    const loose = touchEvents(raw('010110110011110000'), 10, { n: 2, start: false });
    expect(loose.chatter).toBeGreaterThan(0);
    expect(tellTouch(loose)).toMatch(/too short to count: a loose contact/);
    expect(tellTouch(touchEvents(raw('000'), 10))).toMatch(/Nothing happened/);
  });

  // Common practice: a change must last 20 ms.
  it('waits 20 ms, at least one sample', () => {
    expect([1, 5, 10, 20, 50].map((ms) => debounceSamples(ms))).toEqual([20, 4, 2, 1, 1]);
  });

  it('never accepts more changes than there were', () => {
    fc.assert(
      fc.property(
        fc.array(fc.boolean(), { minLength: 1, maxLength: 80 }),
        fc.integer({ min: 1, max: 5 }),
        (bits, n) => {
          const record = touchEvents(bits, 10, { n });
          return (
            record.chatter >= 0 &&
            Math.abs(record.presses - record.releases) <= 1 &&
            record.bumps <= record.releases
          );
        },
      ),
    );
  });
});

describe('two floor sensors', () => {
  // Common practice: left × 2 + right.
  it('make one of four states', () => {
    expect(twoBitTable.map(({ left, right }) => twoBitState(left, right))).toEqual([0, 1, 2, 3]);
  });
});
