import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, keywords, parseScript, SCRIPT_LIMIT, shapes, walk, type Program } from './index.ts';

const lines = (...steps: string[]) => ['sensor floor is light on K3', ...steps].join('\n');
const read = (...steps: string[]): Program => parseScript(lines(...steps));
const faults = (...steps: string[]): string[] => read(...steps).findings.map((f) => `${f.line}: ${f.says}`);
const kinds = (program: Program): string[] => {
  const found: string[] = [];
  walk(program.steps, (step) => found.push(step.kind));
  return found;
};

describe('a script that can be read', () => {
  it('drives, waits for the line and stops: three steps', () => {
    const program = read('drive 40 %', 'wait until floor < 41 %', 'stop');
    expect(program.findings).toEqual([]);
    expect(program.stepCount).toBe(3);
    expect(kinds(program)).toEqual(['drive', 'waitUntil', 'stop']);
    expect(program.sensors).toMatchObject([{ name: 'floor', kind: 'light', socket: 'K3' }]);
  });

  it('does not care for case, indentation, comments or the kind of line end', () => {
    const program = parseScript(
      'SENSOR Floor IS Light ON K3\r\n  Drive 40 % # go\r\n\r\n# nothing here\r\nWAIT UNTIL FLOOR < 41\r\nstop',
    );
    expect(program.findings).toEqual([]);
    expect(program.steps.map((s) => s.at.line)).toEqual([2, 5, 6]);
  });

  it('nests blocks and keeps the arms of a decision apart', () => {
    const program = read(
      'repeat 4 times',
      'if floor < 41',
      'stop',
      'else if floor > 80',
      'drive 20 %',
      'else',
      'leave',
      'end',
      'end',
      'finish',
    );
    expect(program.findings).toEqual([]);
    expect(kinds(program)).toEqual(['repeat', 'if', 'stop', 'drive', 'leave', 'finish']);
    const [repeat] = program.steps;
    expect(repeat).toMatchObject({ kind: 'repeat', how: 'times', endLine: 10 });
  });

  it('brings lengths to mm, wheel turns to degrees and times to seconds', () => {
    const program = read(
      'drive 20 % for 10 cm',
      'drive 20 % for 2 in',
      'drive 20 % for 2 turns',
      'drive 20 % for 500 ms',
    );
    expect(
      program.steps.map((s) =>
        s.kind === 'drive' && s.until?.amount.kind === 'quantity' ? [s.until.of, s.until.amount.value] : null,
      ),
    ).toEqual([
      ['length', 100],
      ['length', 50.8],
      ['angle', 720],
      ['time', 0.5],
    ]);
  });

  it('gives a bare number the unit of the sensor on the other side', () => {
    const [step] = read('wait until 41 > floor').steps;
    expect(step).toMatchObject({
      kind: 'waitUntil',
      test: { kind: 'compare', left: { value: 41, of: 'percent' } },
    });
  });

  it('knows the decided threshold by its sensor', () => {
    const program = read(
      'let tide = threshold of floor',
      'wait until floor < threshold',
      'wait until floor > tide',
    );
    expect(program.findings).toEqual([]);
    expect(program.steps[0]).toMatchObject({
      test: { right: { kind: 'threshold', sensor: 0, of: 'percent' } },
    });
  });

  it('binds as arithmetic does: times before plus, comparison before not, and before or', () => {
    const [step] = read('wait until not floor < 2 + 3 * 4 or floor > 90 and floor > 95').steps;
    expect(step).toMatchObject({
      test: {
        kind: 'logic',
        op: 'or',
        left: { kind: 'not', operand: { kind: 'compare', right: { op: '+', right: { op: '*' } } } },
        right: { kind: 'logic', op: 'and' },
      },
    });
  });

  it('shows texts and numbers side by side', () => {
    const [step] = read('show "seen: " and floor and " of 100"').steps;
    expect(step).toMatchObject({
      kind: 'show',
      items: [{ kind: 'text' }, { kind: 'sensor' }, { kind: 'text', value: ' of 100' }],
    });
  });

  it('accepts every example it offers', () => {
    const inBlock: Record<string, string[]> = {
      set: ['let gap = 15 cm', '@', 'task measure by n', 'give back 3 cm * n', 'end'],
      add: ['list readings', '@'],
      clear: ['list readings', '@'],
      give: ['list readings', 'add floor to readings', 'let mean = 0', 'do tell', 'task tell', '@', 'end'],
      turn: ['sensor gyro is heading on K5', '@'],
      spin: ['sensor front is distance on K2', '@'],
      log: ['sensor front is distance on K2', '@'],
      whenever: ['sensor nose is touch on K1', '@', 'end'],
      repeat: ['@', 'end'],
      if: ['@', 'end'],
      else: ['if floor < 3', '@', 'end'],
      end: ['repeat', '@'],
      leave: ['repeat', '@', 'end'],
      task: ['@', 'end'],
      do: ['@', 'task go round the buoy', 'end', 'task back off by d', 'end'],
    };
    for (const [word, examples] of Object.entries(shapes)) {
      for (const example of examples) {
        const text =
          word === 'sensor' || word === 'motor'
            ? example
            : lines('let lanes = 0', ...(inBlock[word] ?? ['@']).map((l) => l.replace('@', example)));
        expect([example, parseScript(text).findings]).toEqual([example, []]);
      }
    }
  });
});

describe('faults are told in one sentence, in their place, all at once', () => {
  it.each<[string, string[], RegExp]>([
    ['a slip of the finger', ['drvie 40 %'], /“drvie” is not a step/],
    ['a step that is not complete', ['wait'], /This “wait” is not complete/],
    ['a step that goes astray', ['drive 40 % quickly'], /does not go on with/],
    ['comparing a length with light', ['wait until floor < 15 cm'], /cannot be compared/],
    ['a speed that is a length', ['drive 40 cm'], /A speed is a percentage/],
    ['a wait that is a length', ['wait 3 cm'], /A wait is a time/],
    ['a number where a question is wanted', ['wait until floor'], /not a question/],
    ['an unknown name', ['wait until flor < 41'], /“flor” has no meaning yet/],
    ['an unknown unit', ['drive 40 % for 10 miles'], /“miles” is not a unit/],
    ['a movement without a unit', ['drive 40 % for 10'], /needs a unit/],
    ['adding unlike things', ['let x = 3 cm + 2 s'], /cannot be added/],
    ['multiplying unlike things', ['let x = 3 cm * 2 s'], /no meaning here/],
    ['dividing unlike things', ['let x = 3 cm / 2 s'], /cannot be divided/],
    ['a threshold of nothing', ['wait until 3 < threshold'], /needs a sensor on the other side/],
    ['whose threshold', ['let x = threshold'], /Say whose threshold/],
    ['a name taken twice', ['let floor = 3'], /declared on line 1 already/],
    ['a key word for a name', ['let repeat = 3'], /word of the script itself/],
    ['an unknown kind of sensor', ['sensor eye is ligth on K1'], /“ligth” is not a kind of sensor/],
    ['a manner of stopping', ['stop and fly'], /“hold” or “coast”/],
    ['one speed for two wheels', ['wheels 40 %'], /Two speeds are wanted/],
    ['a missing end', ['repeat'], /has no “end”/],
    ['an end too many', ['end'], /closes nothing/],
    ['an else alone', ['else'], /has no “if”/],
    ['an arm after the last', ['if floor < 3', 'else', 'else if floor < 2', 'end'], /takes all the rest/],
    ['leaving nothing', ['leave'], /outside any repeat/],
    ['setting what is not declared', ['set x to 3'], /has no meaning yet/],
    ['setting another kind', ['let x = 3 cm', 'set x to 2 s'], /“x” is a length/],
  ])('%s', (_, steps, says) => {
    const found = read(...steps).findings;
    expect(found).toHaveLength(1);
    expect(found[0]!.says).toMatch(says);
    expect(found[0]!.mend).not.toBe('');
    expect(found[0]!.grade).toBe('fault');
  });

  it('lists every fault and still understands the good lines', () => {
    const program = read(
      'drive 40 cm',
      'drive 30 %',
      'wait until flor < 3',
      'repeat untill floor < 3',
      'stop',
      'end',
    );
    expect(program.findings.map((f) => f.line)).toEqual([2, 4, 5]);
    expect(kinds(program)).toEqual(['drive', 'repeat', 'stop']);
    expect(canRun(program)).toBe(false);
  });

  it('names line, column and length of what is wrong', () => {
    expect(read('drive 30 %', 'wait until flor < 41').findings[0]).toMatchObject({
      line: 3,
      column: 12,
      length: 4,
    });
  });

  it('guesses the word that was meant', () => {
    expect(read('stpo').findings[0]!.mend).toMatch(/Did you mean “stop”/);
    expect(read('wait until flor < 3').findings[0]!.mend).toMatch(/Did you mean “floor”/);
    expect(faults('fly')).toEqual(['2: “fly” is not a step.']);
  });
});

describe('scripts from strangers', () => {
  it('are bounded in length, lines and depth', () => {
    expect(parseScript('x'.repeat(SCRIPT_LIMIT.characters + 1)).findings[0]!.rule).toBe('size');
    expect(parseScript('stop\n'.repeat(SCRIPT_LIMIT.lines + 5)).findings.map((f) => f.rule)).toEqual([
      'size',
    ]);
    expect(
      parseScript('repeat\n'.repeat(60) + 'end\n'.repeat(60)).findings.some((f) => f.rule === 'depth'),
    ).toBe(true);
    expect(() => parseScript(`drive ${'('.repeat(5000)}1${')'.repeat(5000)}`)).not.toThrow();
  });

  it('never crash the reader, whatever they hold', () => {
    const word = fc.oneof(
      fc.constantFrom(
        ...keywords,
        'floor',
        'K3',
        'light',
        '40',
        '%',
        'cm',
        '<',
        '=',
        '+',
        '-',
        '(',
        ')',
        '"',
        '#',
        '\n',
        '\n',
        'end\n',
      ),
      fc.string({ maxLength: 6 }),
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 60 }), (words) => {
        const program = parseScript(words.join(' '));
        return program.findings.every(
          (f) => f.line >= 1 && f.column >= 1 && f.says !== '' && !f.says.includes('undefined'),
        );
      }),
      { numRuns: 1500 },
    );
  });
});
