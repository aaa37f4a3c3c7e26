import { describe, expect, it } from '@jest/globals';
import { built, kit } from '../test/index.ts';
import { keywords, parseScript, shapes } from '../script/index.ts';
import {
  completionsAt,
  explainAt,
  insertTemplate,
  meanings,
  stepPieces,
  stepTemplates,
  withField,
  wordMeanings,
  type KnownRobotFacts,
} from './index.ts';

const program = parseScript(
  [
    'sensor floor is light on K3',
    'sensor left floor is light on K4',
    'sensor nose is touch on K1',
    'sensor eye is rgb on K1',
    'let lanes = 0',
    'do back off by 10 cm',
    'task back off by d',
    'drive -30 % for d',
    'end',
  ].join('\n'),
);
const robot: KnownRobotFacts = {
  kit,
  build: built(),
  thresholds: { K3: 49 },
  surfaces: { K3: { low: { name: 'tide line', mean: 22 }, high: { name: 'boards', mean: 76 } } },
};
const offers = (before: string, known: KnownRobotFacts | null = robot) =>
  completionsAt(before, before.length, program, known)?.options.map((o) => o.label) ?? [];

describe('completion', () => {
  it('begins a line with every step there is', () => {
    expect(offers('  dr')).toEqual(Object.keys(shapes));
    expect(completionsAt('  dr', 4, program, robot)!.from).toBe(2);
  });

  it('knows kinds and sockets of this robot, the fitting ones first', () => {
    expect(offers('sensor floor is ').slice(0, 2)).toEqual(['light', 'ambient']);
    expect(offers('sensor floor is light on ')).toEqual(['K3', 'K1', 'K4']);
    expect(offers('motor scanner is ')).toEqual(['turret']);
    const [socket] = completionsAt('sensor floor is light on ', 25, program, robot)!.options;
    expect(socket).toMatchObject({ label: 'K3', detail: 'floor eye', kind: 'socket' });
  });

  it('knows names, thresholds with their values, states, fields, units and own steps', () => {
    expect(offers('wait until ')).toEqual(
      expect.arrayContaining(['floor', 'left floor', 'lanes', 'threshold', 'timer']),
    );
    const threshold = completionsAt('wait until floor < ', 19, program, robot)!.options.find(
      (o) => o.label === 'threshold',
    );
    expect(threshold!.detail).toBe('49 % for floor');
    expect(offers('wait until nose is ')).toEqual(['pressed', 'released', 'bumped']);
    expect(offers('if not nose is not ')).toEqual(['pressed', 'released', 'bumped']);
    expect(offers('show eye.')).toEqual(['red', 'green', 'blue']);
    expect(offers('drive 30 ')).toEqual(['%']);
    expect(offers('drive 30 % for 10 ')).toEqual(['mm', 'cm', 'in', 'deg', 'turns', 's', 'ms']);
    expect(offers('turn right 90 deg at 20 ')).toEqual(['%']);
    expect(offers('do ')).toEqual(['back off']);
    expect(offers('turn ')).toEqual(['left', 'right']);
    expect(offers('lamp ')).toContain('off');
    expect(offers('zero ')).toEqual(['heading', 'wheels', 'timer']);
    expect(offers('stop and ')).toEqual(['hold', 'coast']);
  });

  it('keeps out of remarks and texts, and works without a robot', () => {
    expect(offers('stop  # and ')).toEqual([]);
    expect(offers('show "Lanes')).toEqual([]);
    expect(offers('sensor floor is ', null)).toContain('distance');
  });
});

describe('explanations', () => {
  const at = (line: string, word: string, known: KnownRobotFacts | null = robot) =>
    explainAt(line, line.indexOf(word), program, known);

  it('tell what a sensor is, how fresh, what was read and decided', () => {
    expect(at('wait until floor < threshold', 'floor')).toMatchObject({
      word: 'floor',
      says: [
        'reflected light, declared on K3, in %.',
        'floor eye on K3, a fresh reading every 50 ms.',
        'You read tide line 22 %, boards 76 %.',
        'Its threshold is 49 %.',
      ],
    });
    expect(at('show left floor', 'floor')!.word).toBe('left floor');
    expect(at('show left floor', 'left')!.says).toContain('There is nothing on K4.');
  });

  it('tell what words, units, values and own steps mean', () => {
    expect(at('drive 30 %', 'drive')!.says).toEqual([meanings.drive]);
    expect(at('drive 30 %', '%')!.says[0]).toMatch(/percent/);
    expect(at('wait until left wheel > 3', 'wheel')!.says).toEqual([wordMeanings['left wheel']]);
    expect(at('set lanes to 3', 'lanes')!.says[0]).toMatch(/a plain number. It starts at 0/);
    expect(at('do back off by 3 cm', 'off')!.says[0]).toMatch(/own step/);
    expect(at('stop # drive', 'drive')).toBeNull();
    expect(at('drive 30 %', '30')).toBeNull();
  });

  it('exist for every step and every key word', () => {
    expect(Object.keys(meanings).sort()).toEqual(Object.keys(shapes).sort());
    const told = [...Object.keys(meanings), ...Object.keys(wordMeanings).flatMap((w) => w.split(' '))];
    const small = ['is', 'on', 'to', 'at', 'by', 'of', 'for', 'until', 'while', 'times'];
    expect(keywords.filter((k) => !told.includes(k) && !small.includes(k))).toEqual([]);
  });
});

describe('fields of a step', () => {
  const pieces = (code: string) => stepPieces(code, program, robot);
  const field = (code: string, n: number) => {
    const found = pieces(code).filter((p) => p.kind !== 'words');
    return found[n]!;
  };

  it('are its numbers with the units of their kind, its names and its choices', () => {
    expect(pieces('drive -30 % for 10 cm').map((p) => (p.kind === 'words' ? p.text : p.kind))).toEqual([
      'drive ',
      'number',
      ' for ',
      'number',
    ]);
    expect(field('drive -30 % for 10 cm', 0)).toMatchObject({ value: '-30', unit: '%', units: ['%'] });
    expect(field('drive -30 % for 10 cm', 1)).toMatchObject({
      value: '10',
      unit: 'cm',
      units: ['mm', 'cm', 'in'],
    });
    expect(field('wait until nose is pressed', 1)).toMatchObject({ value: 'pressed', choices: [{}, {}, {}] });
    expect(field('wait until floor < 41', 1)).toMatchObject({ label: 'comparison', value: '<' });
    expect(field('wait until floor < threshold', 2)).toMatchObject({
      value: 'threshold',
      choices: [{ label: 'threshold · 49 %' }, { value: '49 %' }],
    });
    expect(field('sensor floor is light on k3', 1)).toMatchObject({ value: 'K3' });
    expect(field('set lanes to lanes + 1', 0)).toMatchObject({ label: 'value', value: 'lanes' });
    expect(field('do back off by 10 cm', 0)).toMatchObject({ label: 'own step', value: 'back off' });
    expect(field('show "Lanes: " and lanes', 0)).toMatchObject({ kind: 'text', value: 'Lanes: ' });
  });

  it('are changed in place, whatever stands around them', () => {
    const change = (code: string, n: number, value: string) => {
      const found = field(code, n);
      return withField(code, found, value);
    };
    expect(change('drive -30 % for 10 cm', 1, '4 in')).toBe('drive -30 % for 4 in');
    expect(change('drive -30 % for 10 cm', 0, '25 %')).toBe('drive 25 % for 10 cm');
    expect(change('show "a" and lanes', 0, 'b # c')).toBe('show "b # c" and lanes');
  });

  it('give every shape there is back unchanged', () => {
    for (const code of Object.values(shapes).flat()) {
      const text = pieces(code).map((p) => (p.kind === 'words' ? p.text : code.slice(p.from, p.to)));
      expect(text.join('')).toBe(code);
    }
    expect(pieces('drvie 40')).toEqual([{ kind: 'words', text: 'drvie 40' }]);
  });
});

describe('steps to add', () => {
  it('fit the sensors that are declared, or declare those that the robot has', () => {
    const bare = parseScript('');
    for (const template of stepTemplates(bare, robot)) {
      const { text } = insertTemplate('', 0, template);
      const blocks = template.code === 'leave' ? `repeat\n${text}\nend` : text;
      expect([template.code, parseScript(blocks).findings]).toEqual([template.code, []]);
    }
    const wait = stepTemplates(bare, robot).find(({ code }) => code === 'wait until floor < threshold')!;
    expect(insertTemplate('drive 30 %', 1, wait)).toEqual({
      text: 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold',
      line: 3,
    });
    expect(stepTemplates(program, robot).find(({ code }) => code === wait.code)!.declare).toBeNull();
  });

  it('take values and own steps that are there', () => {
    const codes = stepTemplates(program, robot).map(({ code }) => code);
    expect(codes).toEqual(
      expect.arrayContaining(['set lanes to lanes + 1', 'do back off by 10 cm', 'task turn round\nend']),
    );
    const own = stepTemplates(program, robot).find(
      ({ group, code }) => group === 'Own steps' && code.startsWith('task'),
    )!;
    expect(insertTemplate('stop\n\n', 1, own)).toEqual({ text: 'stop\n\ntask turn round\nend', line: 3 });
  });
});
