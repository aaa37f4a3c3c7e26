import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { formatScript, sameProgram } from './index.ts';

const script = `sensor floor is light on K3
let lanes = 0
repeat until floor < 20 %
  drive 25 %
end
show "Lanes: # " and lanes
stop`;
const lines = script.split('\n');

describe('whether two scripts say the same program', () => {
  it.each([
    ['blanks at the ends of lines', lines.map((line) => `${line}  `).join('\n')],
    ['empty lines', lines.join('\n\n')],
    ['another depth', lines.map((line) => `      ${line.trim()}`).join('\n')],
    ['comments of their own', `# ours\n${lines.join('\n# and\n')}\n# end`],
    ['comments behind steps', lines.map((line) => `${line} # why`).join('\n')],
    ['the case of key words', script.replace('repeat until', 'REPEAT Until')],
    ['blanks between words', script.replace('drive 25 %', 'drive   25%')],
    ['nothing at all', script],
  ])('%s change nothing', (_, other) => {
    expect(sameProgram(script, other)).toBe(true);
  });

  it.each([
    ['a number', script.replace('25', '26')],
    ['a comparison', script.replace('<', '>')],
    ['a step that is left out', lines.slice(0, -1).join('\n')],
    ['a step that became a comment', script.replace('stop', '# stop')],
    ['two steps that changed places', [...lines.slice(0, 5), lines[6], lines[5]].join('\n')],
    ['what a text says, a # in it too', script.replace('Lanes: # ', 'Lanes: #')],
    ['the case of a text', script.replace('"Lanes', '"lanes')],
    ['a line that nobody understands', script.replace('drive 25 %', 'drvie 25 %')],
    ['another socket', script.replace('K3', 'K4')],
  ])('%s does', (_, other) => {
    expect(sameProgram(script, other)).toBe(false);
  });

  it('the formatter never makes another program of one (500 scripts of odd lines)', () => {
    const line = fc.oneof(
      fc.constantFrom(...lines, '', '  ', '# x', 'wait until floor rises by 5', 'if nose is pressed', 'end'),
      fc.string({ maxLength: 12 }).map((text) => text.replaceAll('\n', ' ')),
    );
    fc.assert(
      fc.property(fc.array(line, { maxLength: 12 }), (own) => {
        const text = own.join('\n');
        expect(sameProgram(text, formatScript(text))).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});
