import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, parseScript } from '../script/index.ts';
import { carryOver } from './index.ts';
import { carried } from './test/carried.ts';
import { brook, pebble, programs } from './test/programs.ts';

describe('programs as they are pasted', () => {
  it.each(programs.map((one) => [one.what, one] as const))('%s', (what, { book, text }) => {
    const result = carryOver(text, book);
    expect(result.text.trimEnd().split('\n')).toEqual(carried[what]);
    const { findings } = parseScript(result.text);
    // It runs exactly where nothing was left behind.
    expect(findings.length > 0).toBe(result.left.length > 0);
    expect(findings.every(({ rule }) => rule === 'not carried' || rule === 'shape')).toBe(true);
  });

  it('nothing vanishes: whatever is not known stands as a fault in its place, with its text', () => {
    const inner = [
      'roll(20)',
      'fly(3)',
      'x = [1, 2]',
      'halt()',
      'for s in things:\n    fly(4)',
      'with a() as b:\n    fly(5)',
      'assert fly',
      'del fly',
    ];
    const heads = [
      'while room() > 5:',
      'if bumped():',
      'for i in range(3):',
      'for s in fly:',
      'try:',
      'while fly():',
      'if fly:',
    ];
    const indented = (lines: string) => lines.replace(/^/gm, '    ');
    const block = fc
      .tuple(fc.constantFrom(...heads), fc.array(fc.constantFrom(...inner), { minLength: 1, maxLength: 3 }))
      .map(
        ([head, body]) =>
          `${head}\n${indented(body.join('\n'))}${head === 'try:' ? '\nexcept E:\n    fly(6)' : ''}`,
      );
    const program = fc.array(fc.oneof(fc.constantFrom(...inner), block), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(program, (parts) => {
        const pasted = parts.join('\n');
        const { text, left } = carryOver(pasted, pebble);
        const said = text.replace(/\s+/g, ' ');
        const lost = pasted
          .split('\n')
          .map((line) => line.trim())
          .filter((line) => /fly|\[1, 2\]|things|a\(\)/.test(line))
          .filter((line) => !said.includes(line.replace(/:$/, '').replace(/\s+/g, ' ')));
        const known = (pasted.match(/roll\(20\)|halt\(\)/g) ?? []).length;
        const kept = (text.match(/drive 20 %|(?<!\? )\bstop\b|\?\?\? (?:roll|halt)/g) ?? []).length;
        return lost.length === 0 && kept >= known && canRun(parseScript(text)) === (left.length === 0);
      }),
      { numRuns: 400 },
    );
  });

  it('a body is read though its head is not known, in C too', () => {
    const { text } = carryOver(
      'int main() { for (auto s : list) { bot.rest(); } while (fly()) { bot.run(3); } }',
      brook,
    );
    expect(text).toMatch(/stop|bot\.rest/);
    expect(text).toContain('drive 3 %');
    expect(canRun(parseScript(text))).toBe(false);
  });
});
