import { describe, expect, it } from '@jest/globals';
import { built, kit } from '../test/index.ts';
import { parseScript } from '../script/index.ts';
import { review, type ReviewContext } from './index.ts';

const context: ReviewContext = {
  kit,
  build: built(),
  thresholds: { K3: 49 },
  surfaces: { K3: { low: { name: 'tide line', mean: 22 }, high: { name: 'boards', mean: 76 } } },
  lineWidthMm: 18,
};
const rules = (steps: string[], given: ReviewContext = context, declared = 'sensor floor is light on K3') =>
  review(parseScript([declared, ...steps].join('\n')), given).map((f) => `${f.grade}: ${f.rule}`);

const good = ['drive 30 %', 'wait until floor < threshold', 'stop'];

describe('the review', () => {
  it('has nothing to say against the model answer', () => {
    expect(rules(good)).toEqual([]);
  });

  // Common practice: without the third step the robot rolled on for a foot.
  it('misses the stop, and mends it with one tap after the last line', () => {
    const [found] = review(
      parseScript('sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold'),
      context,
    );
    expect(found).toMatchObject({
      grade: 'fault',
      rule: 'no stop',
      fix: { edit: { kind: 'insert', after: 3, text: 'stop' } },
    });
    expect(found!.why).toMatch(/rolls on for 0.5 s/);
  });

  it('only notes the missing stop where the kit stops by itself', () => {
    expect(
      rules(['drive 30 %', 'wait until floor < threshold'], {
        ...context,
        kit: { ...kit, atProgramEnd: { kind: 'stop' } },
      }),
    ).toEqual(['note: no stop']);
  });

  it.each<[string, string[], string[]]>([
    ['moves that end by themselves', ['drive 30 % for 10 cm', 'show floor'], []],
    ['a loop for ever', ['repeat', 'drive 30 %', 'show floor', 'end'], []],
    [
      'a move inside a loop that ends',
      ['repeat until floor < threshold', 'drive 30 %', 'end'],
      ['fault: no stop'],
    ],
    [
      'a decision taken once',
      ['drive 30 %', 'if floor < threshold', 'stop', 'end', 'wait 1 s', 'stop'],
      ['risk: decided once'],
    ],
    ['a decision in a loop', ['repeat', 'if floor < threshold', 'stop', 'end', 'end'], []],
    ['waiting for one exact number', ['drive 30 %', 'wait until floor = 49', 'stop'], ['risk: equals']],
    ['a number below both surfaces', ['drive 30 %', 'wait until floor < 15', 'stop'], ['fault: same side']],
    ['a number above both surfaces', ['drive 30 %', 'wait until floor < 90', 'stop'], ['fault: same side']],
    [
      'a number that is not the decided one',
      ['drive 30 %', 'wait until floor < 55', 'stop'],
      ['note: typed number'],
    ],
    ['the decided number typed out', ['drive 30 %', 'wait until floor < 49', 'stop'], []],
    [
      'too fast for the line (v·T beyond its width)',
      ['drive 100 %', 'wait until floor < threshold', 'stop'],
      ['risk: too fast'],
    ],
    ['fast, but the line is surely seen', ['drive 67 %', 'wait until floor < threshold', 'stop'], []],
    ['a sensor that is never used', ['drive 30 % for 3 cm'], ['note: unused sensor']],
    ['nothing at all', [], ['fault: empty', 'note: unused sensor']],
  ])('%s', (_, steps, expected) => {
    expect(rules(steps)).toEqual(expected);
  });

  it('knows what is plugged in where', () => {
    expect(rules(good, context, 'sensor floor is light on k3')).toEqual([]);
    expect(rules(good, context, 'sensor floor is light on K1')).toContain('fault: wiring');
    expect(rules(good, context, 'sensor floor is light on K9')).toContain('fault: wiring');
    expect(rules(good, context, 'sensor floor is light on ML')).toContain('fault: wiring');
    expect(rules(['wait until nose < 3'], context, 'sensor nose is distance on K3')).toContain(
      'fault: wiring',
    );
  });

  it('asks for a threshold that is not decided yet', () => {
    expect(rules(good, { ...context, thresholds: {} })).toEqual(['fault: no threshold']);
  });

  it('keeps silent about what it does not know', () => {
    expect(
      rules(['drive 100 %', 'wait until floor < 15', 'stop'], {
        ...context,
        thresholds: {},
        surfaces: {},
        lineWidthMm: null,
      }),
    ).toEqual([]);
  });
});
