import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, parseScript } from '../script/index.ts';
import { carryOver, phraseFaults, type Phrasebook } from './index.ts';

const phrases = [
  { pattern: 'move(ahead, $speed)', says: 'drive $speed %' },
  { pattern: 'move(back, $speed)', says: 'drive -$speed %' },
  { pattern: 'hop($far)', says: 'drive 20 % for $far cm\nstop' },
  { pattern: 'halt()', says: 'stop' },
  { pattern: 'pause($t)', says: 'wait $t s' },
  { pattern: 'ground()', says: 'floor' },
  { pattern: 'robot.touching()', says: 'nose is pressed' },
  { pattern: 'tell($a)', says: 'show $a' },
];
const declares = ['sensor floor is light on K3', 'sensor nose is touch on K1'];
const python: Phrasebook = { name: 'P', syntax: 'python', declares, phrases };
const c: Phrasebook = { name: 'C', syntax: 'c', declares, phrases };
const lines = (text: string) => text.trimEnd().split('\n');

describe('a Python-like program', () => {
  it('is carried over with its blocks, values, own functions and remarks', () => {
    const { text, left, carried, total } = carryOver(
      `# count the lanes
lanes = 0
move(ahead, 25)
while not robot.touching():
    if ground() < 41 and lanes < 9:
        lanes += 1
        beep_twice(0.2)
    elif lanes == 9:
        break
    else:
        pass
halt()
tell(lanes)

def beep_twice(length):
    for i in range(2):
        pause(length * 2)
`,
      python,
    );
    expect(lines(text)).toEqual([
      'sensor floor is light on K3',
      'sensor nose is touch on K1',
      'let lanes = 0',
      '# count the lanes',
      'set lanes to 0',
      'drive 25 %',
      'repeat until nose is pressed',
      '  if floor < 41 and lanes < 9',
      '    set lanes to lanes + 1',
      '    do beep twice by 0.2',
      '  else if lanes = 9',
      '    leave',
      '  else',
      '  end',
      'end',
      'stop',
      'show lanes',
      '',
      'task beep twice by length',
      '  repeat 2 times',
      '    wait (length * 2) * 1 s',
      '  end',
      'end',
    ]);
    expect(left).toEqual([]);
    expect(carried).toBe(total);
    expect(parseScript(text).findings).toEqual([]);
  });

  it('lists what it does not know, line by line, and leaves it as a fault at its place', () => {
    const { text, left, carried, total } = carryOver(
      'import robot\nmove(ahead, 25)\nfly(3)\nx = [1, 2]\nmove(sideways, 3)\nhalt()\n',
      python,
    );
    expect(left).toEqual([
      { line: 3, words: 'fly(3)', why: 'The phrasebook does not know “fly”.' },
      { line: 4, words: 'x = [1, 2]', why: '“[1, 2]” is no step that can be carried over.' },
      { line: 5, words: 'move(sideways, 3)', why: 'The phrasebook does not know “move”.' },
    ]);
    expect(lines(text).slice(1, 3)).toEqual(['drive 25 %', '??? fly(3)']);
    expect([carried, total]).toEqual([2, 5]);
  });

  it('keeps a question that it does not know as a fault, so that nothing runs that was not understood', () => {
    const { text, left } = carryOver(
      'while sees(ball):\n    move(ahead, 20)\nif magic:\n    halt()\n',
      python,
    );
    expect(left.map(({ line }) => line)).toEqual([1, 3]);
    const program = parseScript(text);
    expect(program.findings.map(({ line }) => line)).toEqual([1, 4]);
    expect(canRun(program)).toBe(false);
    // The blocks are whole all the same.
    expect(program.stepCount).toBe(4);
  });

  it('does not take the way back from a function for the end of the program', () => {
    const { text, left } = carryOver(
      'hum()\ndef hum():\n    if ground() < 3:\n        return\n    halt()\n    return\n',
      python,
    );
    expect(text).not.toContain('finish');
    expect(text).toContain('give back');
    expect(left).toEqual([]);
  });

  it('a slip inside a block is told alone', () => {
    const { left, text } = carryOver('while True:\n    move(ahead, 20\n    halt()\nhalt()\n', python);
    expect(left.length).toBeGreaterThan(0);
    expect(text).toContain('??? move(ahead, 20');
  });
});

describe('a C-like program', () => {
  it('is carried over from its main, with its functions as own steps', () => {
    const { text, left } = carryOver(
      `// follow
int lanes = 0;
void hum(float length, int n) { pause(length); }
int main() {
  move(ahead, 25);
  for (int i = 0; i < 4; i++) { hop(10); }
  while (!robot.touching() && ground() >= 40.5f) {
    if (lanes == 3) { halt(); } else if (lanes > 3) break;
    else lanes++;
  }
  for (;;) { hum(0.5, lanes * 2); break; }
  halt();
  return 0;
}
`,
      c,
    );
    expect(left).toEqual([]);
    expect(lines(text)).toEqual([
      'sensor floor is light on K3',
      'sensor nose is touch on K1',
      'let lanes = 0',
      '# follow',
      'set lanes to 0',
      'drive 25 %',
      'repeat 4 times',
      '  drive 20 % for 10 cm',
      '  stop',
      'end',
      'repeat while not nose is pressed and floor >= 40.5',
      '  if lanes = 3',
      '    stop',
      '  else if lanes > 3',
      '    leave',
      '  else',
      '    set lanes to lanes + 1',
      '  end',
      'end',
      'repeat',
      '  do hum by 0.5, lanes * 2',
      '  leave',
      'end',
      'stop',
      'finish',
      '',
      'task hum by length, n',
      '  wait (length) * 1 s',
      'end',
    ]);
    expect(parseScript(text).findings).toEqual([]);
  });

  it('carries a loop that counts down, a do-while and a directive, and lists what it cannot say', () => {
    const { left } = carryOver(
      '#include "robot.h"\nint main() {\n  for (int i = 9; i > 0; i--) halt();\n  do { halt(); } while (1);\n  int a[3];\n}\n',
      c,
    );
    expect(left.map(({ line }) => line)).toEqual([5]);
  });
});

describe('a phrasebook', () => {
  it('says which phrases are none', () => {
    expect(phraseFaults(python)).toEqual([]);
    const bad = [
      { pattern: 'move(', says: 'stop' },
      { pattern: 'x = 3', says: 'stop' },
      { pattern: 'halt()', says: 'drive $speed %' },
      { pattern: 'halt()', says: ' ' },
      { pattern: '3', says: 'stop' },
      { pattern: 'go($a)', says: 'stop' },
      { pattern: 'go($b)', says: 'stop' },
    ];
    expect(phraseFaults({ syntax: 'python', phrases: bad }).map(({ phrase }) => phrase)).toEqual([
      1, 2, 3, 4, 5, 7,
    ]);
    expect(phraseFaults({ syntax: 'c', phrases: bad }).map(({ phrase }) => phrase)).toEqual([
      1, 2, 3, 4, 5, 7,
    ]);
  });

  it('matches numbers by value and the same hole by the same words', () => {
    const book = {
      ...python,
      phrases: [
        { pattern: 'both($a, $a)', says: 'drive $a %' },
        { pattern: 'gear(1.0)', says: 'stop' },
      ],
    };
    expect(carryOver('both(3, 3)\ngear(1)', book).text).toBe('drive 3 %\nstop\n');
    expect(carryOver('both(3, 4)', book).left).toHaveLength(1);
  });

  it('never loses a line and never crashes, whatever is pasted', () => {
    const bit = fc.oneof(
      fc.constantFrom(
        'move(ahead, 3)',
        'halt()',
        'while True:',
        'while (1) {',
        'if x:',
        '}',
        '{',
        '    ',
        '\n',
        'else:',
        'def f(a):',
        'int main() {',
        '(',
        '((((',
        '"',
        '#',
        '//',
        ';',
        'x = 3',
        'x++;',
        'return',
        'for i in range(3):',
      ),
      fc.string({ maxLength: 8 }),
    );
    fc.assert(
      fc.property(fc.array(bit, { maxLength: 40 }), fc.constantFrom(python, c), (bits, book) => {
        const { text, left, carried, total } = carryOver(bits.join(bits.length % 2 ? '\n' : ' '), book);
        parseScript(text);
        return (
          carried >= 0 &&
          carried + left.length >= total &&
          left.every(({ line, why }) => line >= 1 && why !== '')
        );
      }),
      { numRuns: 800 },
    );
    expect(carryOver('('.repeat(20_000), python).text).toBeDefined();
    expect(carryOver(`${'if x:\n '.repeat(200)}halt()`, python).text).toBeDefined();
    expect(carryOver('x'.repeat(300_000), c).left).toHaveLength(1);
  });
});
