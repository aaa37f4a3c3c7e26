import { describe, expect, it } from '@jest/globals';
import { parseScript } from '../script/index.ts';
import { applyFix } from '../editing/index.ts';
import { review, type ReviewContext } from './index.ts';
import { base, pairs, script } from './test/pairs.ts';

const found = (text: string, context: ReviewContext = base) => review(parseScript(text), context);
const rules = (text: string, context?: ReviewContext) =>
  found(text, context).map((f) => `${f.grade}: ${f.rule}`);

describe('each rule has a script that it catches and a near miss that it leaves alone', () => {
  it.each(
    pairs.map(([name, rule, caught, near, given]) => [name, rule, caught, near, given ?? base] as const),
  )('%s', (_, rule, caught, near, context) => {
    expect(rules(script(caught), context)).toContain(rule);
    expect(rules(script(near), context)).toEqual([]);
  });
});

describe('a mend of one tap', () => {
  const mended = pairs.flatMap(([name, rule, caught, , context = base]) => {
    const text = script(caught);
    return found(text, context)
      .filter((f) => f.fix && `${f.grade}: ${f.rule}` === rule)
      .slice(0, 1)
      .map((f) => [name, rule, applyFix(text, f.fix!).text, context] as const);
  });

  it('is offered where a rule can say what to write', () => {
    expect(mended.length).toBeGreaterThanOrEqual(28);
  });

  it.each(mended)('%s: makes the finding go away and breaks nothing', (_, rule, text, context) => {
    const after = rules(text, context);
    expect(after).not.toContain(rule);
    expect(parseScript(text).findings).toEqual([]);
  });
});

describe('what the review says', () => {
  const first = (text: string, context?: ReviewContext) => found(script(text), context)[0]!;

  it('puts the numbers of this robot and its readings into words', () => {
    expect(first('zero heading\nspin right at 100 %\nwait until gyro > 90\nstop').says).toMatch(
      /^At 100 % it ends near 1\d\d°, not 90°/,
    );
    expect(first('let tide = 26 %\ndrive 30 %\nwait until floor < tide\nstop').says).toMatch(
      /about 38 will be taken for the boards/,
    );
    expect(first('drive 100 %\nwait until front < 5 cm\nstop').says).toMatch(/needs up to \d+(\.\d)? cm/);
  });

  it('offers the re-arm in the words of the test, at the right depth', () => {
    const text = script('let lanes = 0\nrepeat\nif floor < threshold\nset lanes to lanes + 1\nend\nend');
    const [rearm] = found(text);
    expect(rearm!.fix!.label).toBe('Add “wait until floor >= threshold”');
    expect(applyFix(text, rearm!.fix!).text.split('\n')[5]).toBe('    wait until floor >= threshold');
  });

  it('is silent about what it does not know', () => {
    const bare = { ...base, thresholds: {}, surfaces: {} };
    expect(rules(script('drive 100 %\nwait until floor < 15\nstop'), bare)).toEqual([]);
  });

  it('is quick with blocks that lie deep in each other', () => {
    const deep = [
      ...Array<string>(28).fill('repeat 2 times'),
      'drive 30 %',
      ...Array<string>(28).fill('end'),
      'stop',
    ];
    expect(rules(deep.join('\n'))).toEqual([]);
  });
});
