import { describe, expect, it } from '@jest/globals';
import {
  changesBetween,
  compareLastTwo,
  compareTrials,
  knobsMoved,
  mannersOf,
  resultsTold,
  scoreOf,
  stepSays,
  walkOf,
  type Goal,
  type Trial,
} from './index.ts';

const lost: Goal = { key: 'lost', low: -Infinity, high: 10 };
const gap: Goal = { key: 'gap', low: 13, high: 17 };
let nth = 0;
const trial = (gain: number, speed: number, rest: Partial<Trial> = {}): Trial => ({
  id: String(nth),
  at: 60_000 * nth++,
  source: 'try',
  version: 1,
  knobs: [
    { name: 'gain', value: gain, unit: '' },
    { name: 'speed', value: speed, unit: '%' },
  ],
  shape: 0,
  results: {},
  kept: null,
  runs: 1,
  said: '',
  ...rest,
});

describe('the walk', () => {
  it('says what was changed, two things at once, other steps, and what the team said', () => {
    const walk = walkOf(
      [
        trial(0.4, 20),
        trial(0.8, 20),
        trial(1.2, 15),
        trial(1.2, 15, { shape: 1 }),
        trial(1.2, 15, { shape: 1, said: 'new battery' }),
      ],
      [lost],
    );
    expect(walk.map(stepSays)).toEqual([
      '',
      'gain 0.4 → 0.8',
      '2 at once: gain 0.8 → 1.2, speed 20 → 15 %',
      'other steps',
      'new battery',
    ]);
    expect(knobsMoved(walk).map(({ name, moves }) => [name, moves])).toEqual([
      ['gain', 2],
      ['speed', 1],
    ]);
  });

  it('the best so far is told for the floor and for simulated trials apart', () => {
    const walk = walkOf(
      [
        trial(0.4, 20, { results: { lost: 60 }, kept: false }),
        trial(0.8, 20, { results: { lost: 20 }, kept: false }),
        trial(0.6, 20, { results: { lost: 30 }, kept: false }),
        trial(0.8, 20, { results: { lost: 40 }, kept: false, source: 'floor' }),
        trial(1, 20, { results: { lost: 2, rms: 6 }, kept: true }),
        trial(1.2, 20, { results: { lost: 3, rms: 4 }, kept: true }),
        trial(1.4, 20, { results: { lost: 0, rms: 5 }, kept: true }),
      ],
      [lost],
      'rms',
    );
    // Within the goal the smoother one is better, not the one that is farther inside.
    expect(walk.map(({ best }) => best)).toEqual([true, true, false, true, true, true, false]);
    expect(resultsTold(walk)).toEqual(['lost', 'rms']);
  });

  it('a missing result is no zero: a trial of which nothing was measured is not the best', () => {
    expect(scoreOf(trial(1, 15), [gap])).toBeNull();
    expect(scoreOf(trial(1, 15, { kept: false }), [gap])).toBe(1);
    expect(scoreOf(trial(1, 15, { results: { gap: 15 }, kept: true }), [gap])).toBe(0);
    // Right by its number, wrong by another sentence.
    expect(scoreOf(trial(1, 15, { results: { gap: 15 }, kept: false }), [gap])).toBe(1);
    expect(scoreOf(trial(1, 15, { results: { gap: 21 }, kept: false }), [gap])).toBeCloseTo(2, 9);
    expect(
      walkOf([trial(1, 15), trial(1, 20, { results: { gap: 50 } })], [gap]).map(({ best }) => best),
    ).toEqual([false, true]);
  });

  it('numbers in other units, and numbers that one script has alone, are no change', () => {
    const cm = trial(1, 15, { knobs: [{ name: 'way', value: 15, unit: 'cm' }] });
    const mm = trial(1, 15, { knobs: [{ name: 'way', value: 150, unit: 'mm' }] });
    expect(changesBetween(cm, mm)).toEqual([]);
    expect(changesBetween(cm, trial(1, 15))).toEqual([]);
    expect(walkOf([], [lost])).toEqual([]);
  });
});

describe('two values', () => {
  it('18 and 22 mm once each are no difference: drive each three times', () => {
    const { verdict, says } = compareTrials('past', [18], [22]);
    expect(verdict).toBe('too few');
    expect(says).toContain('at least 3 times');
  });

  it('within the scatter are called so, with the trials that it would take', () => {
    const { verdict, says, needed } = compareTrials('past', [14, 18, 23], [17, 22, 27]);
    expect(verdict).toBe('scatter');
    expect(says).toMatch(/^18 mm and 22 mm: that is the scatter, not your change/);
    expect(needed).toBeGreaterThan(10);
  });

  it('apart are told apart, with the interval, in both directions', () => {
    expect(compareTrials('past', [10, 11, 12], [20, 21, 22]).verdict).toBe('more');
    expect(compareTrials('gap', [20, 21, 20.4], [15, 15.2, 14.9]).says).toMatch(
      /^20.5 cm and 15 cm: that is your change, −\d.\d cm to −\d.\d cm\.$/,
    );
    // Equal to the millimetre three times over is the ruler, not certainty.
    expect(compareTrials('past', [18, 18, 18], [18, 18, 18]).verdict).toBe('scatter');
  });

  it('of the floor are the last two settings of one number, whatever lay between', () => {
    const run = (threshold: number, cm: number) =>
      trial(1, 15, {
        source: 'floor',
        knobs: [{ name: 'threshold', value: threshold, unit: 'cm' }],
        results: { gap: cm },
      });
    const compared = compareLastTwo(
      [run(30, 27), run(30, 28), run(20, 18), run(20, 17.5), run(20, 18.2)],
      [gap],
    )!;
    expect(compared.of).toBe('threshold 30 → 20 cm');
    expect(compared.verdict).toBe('less');
    expect(compareLastTwo([run(30, 27)], [gap])).toBeNull();
    expect(compareLastTwo([], [gap])).toBeNull();
  });
});

describe('how a team goes about it', () => {
  const miss = { results: { lost: 50 }, kept: false } as const;
  const kinds = (trials: Trial[], now: number | null) =>
    mannersOf(walkOf(trials, [lost]), [lost], now).map(({ kind }) => kind);
  const soon = (trials: Trial[]) => trials.at(-1)!.at + 1000;

  it('who comes back to what was tried circles; who drives the same again does not', () => {
    const circle = [1, 1.2, 1, 1.2, 1, 1.2].map((gain) => trial(gain, 15, miss));
    expect(kinds(circle, soon(circle))).toEqual(['circles']);
    const again = [1, 1, 1, 1.2, 1.2, 1.2].map((gain) => trial(gain, 15, miss));
    expect(kinds(again, soon(again))).toEqual(['goes well']);
  });

  it('who jumps, who turns two at once, who stopped too early', () => {
    const jump = [1, 4, 0.5, 3].map((gain) => trial(gain, 15, miss));
    expect(kinds(jump, soon(jump))).toEqual(['jumps']);
    const both = [trial(1, 15, miss), trial(1.2, 20, miss)];
    expect(kinds(both, soon(both))).toEqual(['two at once']);
    const few = [trial(1, 15, miss), trial(1.1, 15, miss)];
    expect(kinds(few, soon(few))).toEqual(['goes well']);
    expect(kinds(few, few[1]!.at + 10 * 60_000)).toEqual(['stopped early']);
    expect(kinds(few, null)).toEqual(['stopped early']);
    expect(kinds([], 0)).toEqual(['has not begun']);
  });

  it('who arrived is there, however it went', () => {
    const there = [
      ...[1, 4, 0.5, 3].map((gain) => trial(gain, 15, miss)),
      trial(1.2, 15, { results: { lost: 1 }, kept: true }),
    ];
    expect(kinds(there, null)).toEqual(['goes well']);
  });
});
