import { describe, expect, it } from '@jest/globals';
import { refusals, type Expectation, type JudgedRun, type Judgement } from './index.ts';

const expectations: Expectation[] = [
  { kind: 'comes to rest' },
  { kind: 'done within', seconds: 10 },
  { kind: 'ends with gap', gapMm: 150, toleranceMm: 20 },
];
const kept: Judgement = { verdict: 'holds', margin: 1, unit: '', says: '' };
const broken = (margin: number): Judgement => ({ verdict: 'broken', margin, unit: '', says: '' });
const unknown: Judgement = { verdict: 'cannot tell', margin: null, unit: '', says: '' };
const run = (seed: number, ...judgements: Judgement[]): JudgedRun => ({ seed, judgements });

describe('the sentences that refuse a script', () => {
  it('come by how many runs broke them, each with its worst run', () => {
    const runs = [
      run(1, kept, broken(-1), kept),
      run(2, unknown, kept, broken(-3)),
      run(3, kept, kept, broken(-9)),
      run(4, unknown, kept, kept),
    ];
    expect(refusals(runs, expectations)).toEqual([
      { index: 2, broken: 2, unknown: 0, worstSeed: 3 },
      { index: 1, broken: 1, unknown: 0, worstSeed: 1 },
      { index: 0, broken: 0, unknown: 2, worstSeed: 2 },
    ]);
  });

  it('are none where all was kept, or nothing was run', () => {
    expect(refusals([run(1, kept, kept, kept)], expectations)).toEqual([]);
    expect(refusals([], expectations)).toEqual([]);
  });
});
