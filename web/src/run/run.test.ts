import { describe, expect, it } from '@jest/globals';
import { calm, type Trace } from '@vigilum/core/sim';
import { circumstanceWords, conditionFields, rangeWords } from './conditionWords.ts';
import { layOut, surfaceFill } from './mat/place.ts';
import { stepTimes } from './usePlayback.ts';
import { valuesAt } from './values.ts';

const trace = (signals: Record<string, number[]>): Trace => ({
  timesS: Float32Array.from(Object.values(signals)[0]!, (_, i) => i / 10),
  signals: Object.fromEntries(
    Object.entries(signals).map(([name, values]) => [name, { unit: '', values: Float32Array.from(values) }]),
  ),
});
const field = (id: string) => conditionFields.find((one) => one.id === id)!;

describe('conditions in words', () => {
  it('say only what varies, in units people use', () => {
    expect(rangeWords(field('mismatch'), { ...calm, mismatch: [-0.01, 0.02] })).toBe('−1 to 2 %');
    expect(rangeWords(field('noise'), { ...calm, noise: [1, 1] })).toBe('');
    expect(rangeWords(field('battery'), { ...calm, battery: [60, 60] })).toBe('60 %');
    expect(rangeWords(field('echoes'), calm)).toBe('');
  });

  it('tell what one run was like', () => {
    const start = { xMm: 0, yMm: 0, bearingDeg: 0 };
    const told = circumstanceWords({
      start,
      lightShift: -3,
      mismatch: 0.01,
      echoes: 0.05,
      battery: 80,
      seed: 1,
    });
    expect(told).toBe('room light 3 points darker, left wheel 1 % faster, battery 80 %, 5 % foreign echoes');
  });

  it('every field reaches its limits by its own unit', () => {
    for (const { limit, usual, perUnit } of conditionFields) {
      expect(limit[0]).toBeLessThan(limit[1]);
      expect(usual / perUnit).toBeLessThanOrEqual(limit[1]);
    }
  });
});

describe('a course on the drawing', () => {
  it('lies on its side when it is long, and up is up when it is not', () => {
    const long = layOut({ widthMm: 400, heightMm: 900 });
    expect([long.w, long.h, long.place(100, 300), long.angle(0)]).toEqual([900, 400, [300, 100], 0]);
    const wide = layOut({ widthMm: 900, heightMm: 400 });
    expect([wide.w, wide.h, wide.place(100, 300), wide.angle(0)]).toEqual([900, 400, [100, 100], -90]);
  });

  it('surfaces have their colour, or are as dark as they read', () => {
    expect(surfaceFill({ name: 'card', reflectance: 0.4, colour: [1, 0, 0.5] })).toBe('rgb(255 0 128)');
    expect(surfaceFill({ name: 'tape', reflectance: 0.2 })).toContain('100%');
    expect(surfaceFill({ name: 'paper', reflectance: 0.95 })).toContain('0%');
  });
});

describe('a run over time', () => {
  it('has a step where its line changes, and its values by name', () => {
    const run = trace({ line: [2, 2, 3, 3, 4], 'value lanes': [0, 0, 1, 1, NaN] });
    expect(stepTimes(run).map((t) => Math.round(t * 10) / 10)).toEqual([0, 0.2, 0.4, 0.4]);
    expect(valuesAt(run, 2)).toEqual([{ name: 'lanes', value: '1' }]);
    expect(valuesAt(run, 4)).toEqual([{ name: 'lanes', value: 'nothing' }]);
  });
});
