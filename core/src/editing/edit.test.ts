import { describe, expect, it } from '@jest/globals';
import { formatScript } from '../script/index.ts';
import {
  folds,
  indentStep,
  insertSteps,
  moveStep,
  nudgeStep,
  outdentStep,
  outline,
  removeStep,
  replaceStep,
  unwrapBlock,
  wrapStep,
} from './index.ts';

const text = [
  'sensor floor is light on K3', // 1
  '', // 2
  'drive 30 %', // 3
  '# the lanes', // 4
  'repeat 4 times  # all of them', // 5
  '  wait until floor < 41', // 6
  '  if floor < 20', // 7
  '    stop', // 8
  '  else', // 9
  '    beep', // 10
  '  end', // 11
  'end', // 12
  'stop', // 13
].join('\n');
const shape = (script: string) => script.split('\n').slice(2);

describe('the formatter', () => {
  it('lays spaces, depth and case, and keeps comments, texts and names', () => {
    const typed =
      'SENSOR Left Floor IS light ON S-a\r\nRepeat\n\n\n   DRIVE   -30%for 10cm#back\n# why "so"\nif not(Left Floor<41)\nshow "A  B#"and min( 1,-2 )\nELSE\nend\nend\n\n\n';
    expect(formatScript(typed)).toBe(
      [
        'sensor Left Floor is light on S-a',
        'repeat',
        '',
        '  drive -30 % for 10 cm  #back',
        '  # why "so"',
        '  if not (Left Floor < 41)',
        '    show "A  B#" and min(1, -2)',
        '  else',
        '  end',
        'end',
        '',
      ].join('\n'),
    );
  });

  it('leaves the words of a line that it does not understand', () => {
    expect(formatScript('repeat\ndrvie   40%  # ?\nend')).toBe('repeat\n  drvie   40%  # ?\nend\n');
    expect(formatScript('\n\n')).toBe('');
  });
});

describe('the outline', () => {
  it('knows depth, role and extent of every line', () => {
    const rows = outline(text);
    expect(rows.map((row) => row.role)).toEqual([
      'declaration',
      'blank',
      'step',
      'comment',
      'block',
      'step',
      'block',
      'step',
      'arm',
      'step',
      'end',
      'end',
      'step',
    ]);
    expect(rows.map((row) => row.depth)).toEqual([0, 0, 0, 0, 0, 1, 1, 2, 1, 2, 1, 0, 0]);
    expect([rows[4]!.to, rows[6]!.to, rows[8]!.to]).toEqual([12, 11, 10]);
    expect(folds(text)).toEqual([
      { from: 5, to: 12 },
      { from: 7, to: 11 },
    ]);
  });

  it('goes on through a block that is never closed', () => {
    expect(outline('repeat\nstop\nif').map((row) => [row.depth, row.to])).toEqual([
      [0, 3],
      [1, 2],
      [1, 3],
    ]);
  });
});

describe('editing by steps', () => {
  it('writes a step at the depth of its place', () => {
    expect(insertSteps(text, 5, 'beep').text.split('\n')[5]).toBe('  beep');
    expect(insertSteps(text, 12, 'repeat\nbeep\nend').text.split('\n').slice(12, 15)).toEqual([
      'repeat',
      '  beep',
      'end',
    ]);
    expect(insertSteps('', 0, 'stop')).toEqual({ text: 'stop', line: 1 });
  });

  it('takes a block out with all it holds and its comment', () => {
    expect(shape(removeStep(text, 5).text)).toEqual(['drive 30 %', 'stop']);
    expect(shape(removeStep(text, 12).text)).toEqual(['drive 30 %', 'stop']);
    expect(removeStep(text, 9).text.split('\n').slice(6, 10)).toEqual([
      '  if floor < 20',
      '    stop',
      '  end',
      'end',
    ]);
  });

  it('wraps and unwraps', () => {
    const wrapped = wrapStep(text, 13, 'repeat 2 times');
    expect(wrapped.text.split('\n').slice(12)).toEqual(['repeat 2 times', '  stop', 'end']);
    expect(unwrapBlock(wrapped.text, 13)!.text).toBe(text);
    expect(unwrapBlock(text, 7)).toBeNull();
    expect(unwrapBlock(text, 6)).toBeNull();
  });

  it('replaces a step and keeps its comment', () => {
    expect(replaceStep(text, 5, 'repeat').text.split('\n')[4]).toBe('repeat  # all of them');
  });

  it('moves a step into, out of and past blocks, with all it holds', () => {
    expect(moveStep(text, 13, 8)!.text.split('\n').slice(7, 9)).toEqual(['    stop', '    stop']);
    expect(moveStep(text, 7, 3)!.text.split('\n').slice(3, 8)).toEqual([
      'if floor < 20',
      '  stop',
      'else',
      '  beep',
      'end',
    ]);
    expect(moveStep(text, 5, 8)).toBeNull();
    expect(moveStep(text, 9, 3)).toBeNull();
    // The comment above a block goes along.
    expect(shape(moveStep(text, 5, 13)!.text).slice(0, 3)).toEqual(['drive 30 %', 'stop', '# the lanes']);
  });

  it('goes step by step with the keys: down into a block, through its arms and out again', () => {
    let now = { text: 'if floor < 3\nelse\nend\nstop'.replace('if', 'beep\nif'), line: 1 };
    const seen = [now.text];
    for (
      let next = nudgeStep(now.text, now.line, 'down');
      next;
      next = nudgeStep(now.text, now.line, 'down')
    ) {
      now = next;
      seen.push(now.text);
    }
    expect(seen.map((t) => t.split('\n').findIndex((l) => l.trim() === 'beep'))).toEqual([0, 1, 2, 3, 4]);
    expect(now.text).toBe('if floor < 3\nelse\nend\nstop\nbeep');
    for (let next = nudgeStep(now.text, now.line, 'up'); next; next = nudgeStep(now.text, now.line, 'up'))
      now = next;
    expect(now.text).toBe(seen[0]);
  });

  it('indents into the block above and outdents behind it', () => {
    const inside = indentStep(text, 13)!;
    expect(inside.text.split('\n').slice(11)).toEqual(['  stop', 'end']);
    expect(outdentStep(inside.text, inside.line)!.text).toBe(text);
    expect(outdentStep(text, 3)).toBeNull();
    expect(indentStep(text, 6)).toBeNull();
  });

  it('moves an own step past whole blocks only', () => {
    const own = 'task hop\n  stop\nend\nrepeat\n  do hop\nend';
    expect(nudgeStep(own, 1, 'down')!.text).toBe('repeat\n  do hop\nend\ntask hop\n  stop\nend');
  });
});
