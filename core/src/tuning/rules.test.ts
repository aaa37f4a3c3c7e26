import { describe, expect, it } from '@jest/globals';
import { criticalOfFollower, type Critical } from '../motion/index.ts';
import { criticalBySweep, ruleGains, swingOf } from './index.ts';

const STEP_S = 0.001;

/**
 * An integrator that is steered back by what it was `delayS` ago, x′ = −K·x(t − T): it swings for good at K = π/(2T) per second, once
 * in 4T (Åström and Hägglund 2006, section 2.7; Hayes 1950). A robot that turns at a rate proportional to how far off its bearing it is.
 */
function criticalOfDelay(delayS: number): Critical {
  return { gain: Math.PI / (2 * delayS), periodS: 4 * delayS };
}

/**
 * The same in looks: x goes on by −K·h·x(k looks ago) at each look. It swings for good at K·h = 2·cos(k·π/(2k + 1)), once in 2·(2k + 1)
 * looks (Levin and May 1976). `lookS` between two looks, `late` looks late, a whole number.
 */
function criticalOfLooks(lookS: number, late: number): Critical {
  // 2·cos(kπ/(2k+1)) = 2·sin(π/(2(2k+1))).
  const gain = (2 * Math.sin(Math.PI / (2 * (2 * late + 1)))) / lookS;
  return { gain, periodS: 2 * (2 * late + 1) * lookS };
}

/** x′ = −K·x(t − T) in small steps, from rest at 1. */
function delayed(gain: number, delayS: number): Float64Array {
  const late = Math.round(delayS / STEP_S);
  const x = new Float64Array(20_000);
  x[0] = 1;
  for (let i = 1; i < x.length; i++) x[i] = x[i - 1]! - STEP_S * gain * (i - 1 < late ? 1 : x[i - 1 - late]!);
  return x;
}

/** The same in looks: x goes on by −K·h·x(k looks ago) at each look. */
function looked(gain: number, lookS: number, late: number): Float64Array {
  const x = new Float64Array(2000).fill(1, 0, late + 1);
  for (let i = late + 1; i < x.length; i++) x[i] = x[i - 1]! - gain * lookS * x[i - 1 - late]!;
  return x;
}

/** A follower of a straight edge: off′ = v·θ + L·θ′ at the sensor, turning with a lag towards −K·off(t − T). */
function followed(gain: number, f: { delayS: number; lagS: number; speedMmPerS: number; aheadMm: number }) {
  const late = Math.round(f.delayS / STEP_S);
  const n = 20_000;
  const off = new Float64Array(n);
  let [y, angle, rate] = [1, 0, 0];
  for (let i = 0; i < n; i++) {
    off[i] = y + f.aheadMm * angle;
    const wanted = -gain * (i < late ? 0 : off[i - late]!);
    rate += (STEP_S / f.lagS) * (wanted - rate);
    angle += STEP_S * rate;
    y += STEP_S * f.speedMmPerS * angle;
  }
  return off;
}

const apart = (found: number, formula: number) => Math.abs(found / formula - 1);

describe('the critical gain, found by a sweep, against the closed form with the same delay', () => {
  // Closed form: K = π/(2T), once in 4T.
  it.each([0.05, 0.1, 0.24])('of an integrator that is %d s late', (delayS) => {
    const found = criticalBySweep((gain) => swingOf(delayed(gain, delayS).slice(2000), STEP_S), 1, 100)!;
    const formula = criticalOfDelay(delayS);
    expect(apart(found.gain, formula.gain)).toBeLessThan(0.03);
    expect(apart(found.periodS, formula.periodS)).toBeLessThan(0.03);
  });

  // Levin and May 1976: 2·cos(kπ/(2k + 1)); for no delay 2, for one look 1.
  it.each([
    [0.06, 0],
    [0.06, 1],
    [0.02, 3],
  ])('of a loop that looks every %d s, %d looks late', (lookS, late) => {
    const formula = criticalOfLooks(lookS, late);
    if (late < 2) expect(formula.gain * lookS).toBeCloseTo(2 - late, 9);
    const found = criticalBySweep((gain) => swingOf(looked(gain, lookS, late).slice(200), lookS), 1, 200)!;
    expect(apart(found.gain, formula.gain)).toBeLessThan(0.03);
    expect(apart(found.periodS, formula.periodS)).toBeLessThan(0.03);
  });

  it.each([
    { delayS: 0.06, lagS: 0.07, speedMmPerS: 80, aheadMm: 80 },
    { delayS: 0.03, lagS: 0.11, speedMmPerS: 200, aheadMm: 60 },
    { delayS: 0.1, lagS: 0.02, speedMmPerS: 50, aheadMm: 120 },
  ])('of a follower %j', (f) => {
    const formula = criticalOfFollower(f)!;
    const found = criticalBySweep(
      (gain) => swingOf(followed(gain, f).slice(8000), STEP_S),
      formula.gain / 3,
      1,
    )!;
    expect(apart(found.gain, formula.gain)).toBeLessThan(0.03);
    expect(apart(found.periodS, formula.periodS)).toBeLessThan(0.03);
  });

  it('there is none where the sensor looks less far ahead than the loop is late', () => {
    expect(criticalOfFollower({ delayS: 0.1, lagS: 0.1, speedMmPerS: 500, aheadMm: 60 })).toBeNull();
    expect(criticalOfFollower({ delayS: 0.1, lagS: 0.1, speedMmPerS: 0, aheadMm: 60 })).toBeNull();
    expect(criticalBySweep(() => null, 1, 50)).toBeNull();
  });
});

describe('a swing', () => {
  const wave = (growth: number, periodS: number) =>
    Float64Array.from(
      { length: 2000 },
      (_, i) => growth ** ((i * 0.01) / periodS) * Math.sin((2 * Math.PI * i * 0.01) / periodS),
    );
  it.each([
    [0.8, 0.5],
    [1, 1.3],
    [1.1, 0.7],
  ])('that grows by %d in %d s is told', (growth, periodS) => {
    const found = swingOf(wave(growth, periodS), 0.01)!;
    expect(found.growth).toBeCloseTo(growth, 2);
    expect(found.periodS).toBeCloseTo(periodS, 2);
  });

  it('is none in a line, in one bump, with a gap in it, or about another middle', () => {
    expect(swingOf(new Float64Array(100), 0.01)).toBeNull();
    expect(swingOf(wave(1, 30), 0.01)).toBeNull();
    const holed = wave(1, 0.5);
    holed[700] = NaN;
    expect(swingOf(holed, 0.01)).toBeNull();
    expect(swingOf(wave(1, 0.5), 0.01, 5)).toBeNull();
  });
});

describe('the rule tables', () => {
  // Ziegler and Nichols 1942: 0.5 Ku; 0.45 Ku and Tu/1.2; 0.6 Ku, Tu/2 and Tu/8.
  it('are those of 1942', () => {
    const critical = { gain: 10, periodS: 2.4 };
    expect(ruleGains('P', critical)).toMatchObject({ gain: 5, resetS: null, rateS: null });
    const pi = ruleGains('PI', critical);
    expect([pi.gain, pi.resetS, pi.rateS]).toEqual([4.5, 2, null]);
    expect(ruleGains('PID', critical)).toMatchObject({ gain: 6, resetS: 1.2, rateS: 0.3 });
    expect(ruleGains('PID', critical).working).toEqual([
      'gain = 0.6 × 10 = 6',
      'reset time = 2.4 s ÷ 2 = 1.2 s',
      'rate time = 2.4 s ÷ 8 = 0.3 s',
    ]);
    // That with a rate and no sum is not theirs, and says so.
    expect(ruleGains('PD', critical).source).not.toMatch(/^Ziegler/);
  });
});
