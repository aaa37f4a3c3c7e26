import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { lineSplitter } from './serial.ts';

describe('lines from a cable', () => {
  it('are whole, however the pieces come', () => {
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[a-z0-9 .]{1,20}$/), { minLength: 1, maxLength: 12 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 30 }),
        fc.constantFrom('\n', '\r\n'),
        (lines, cuts, end) => {
          const text = `${lines.join(end)}${end}`;
          const split = lineSplitter();
          const heard: string[] = [];
          let at = 0;
          for (let i = 0; at < text.length; i++) {
            const size = cuts[i % cuts.length]!;
            heard.push(...split(text.slice(at, at + size)));
            at += size;
          }
          expect(heard).toEqual(lines);
          return true;
        },
      ),
    );
  });

  it('that never end are cut off, so that nothing grows without bound', () => {
    const split = lineSplitter(50);
    for (let i = 0; i < 1000; i++) expect(split('x'.repeat(40))).toEqual([]);
    expect(split('\n')[0]!.length).toBe(50);
    expect(split('r 1 K3 5\n')).toEqual(['r 1 K3 5']);
  });

  it('an unfinished line waits for its end', () => {
    const split = lineSplitter();
    expect(split('r 1 K3 4')).toEqual([]);
    expect(split('2\nr 2')).toEqual(['r 1 K3 42']);
    expect(split(' K3 43\n')).toEqual(['r 2 K3 43']);
  });
});
