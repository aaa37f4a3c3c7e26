import { describe, expect, it } from '@jest/globals';
import { fitBraking, interceptOf, type Reaction } from './index.ts';

const reaction: Reaction = { samplePeriodS: 0.05, stepTimeS: 0.005, commandDelayS: 0.008, tauBrakeS: 0.045 };
const stops = (delayS: number, speeds: number[]) =>
  speeds.map((v) => ({ speedMmPerS: v, stopMm: v * delayS }));

describe('what trials say about braking', () => {
  // Coasting stop: distance = v·(delay) + v·τ (derived: integral of v·exp(−t/τ)).
  it('finds the time constant that the trials were made with', () => {
    const tau = 0.09;
    const delay = 0.025 + 1.5 * 0.005 + 0.008 + tau;
    const fit = fitBraking(stops(delay, [100, 200, 300]), reaction);
    expect(fit.ok && fit.value.tauBrakeS).toBeCloseTo(tau, 9);
    expect(fit.ok && fit.value).toMatchObject({ trials: 3, speeds: 3 });
  });

  // NIST/ITL StRD NoInt1 (Eberhardt): a line through the origin, slope 2.07438016528926 (recalled, reproduced).
  it('is the least-squares line through the origin', () => {
    const points = [60, 61, 62, 63, 64, 65, 66, 67, 68, 69, 70].map((x, i) => ({
      speedMmPerS: x,
      stopMm: 130 + i,
    }));
    const fit = fitBraking(points, { ...reaction, commandDelayS: 1, samplePeriodS: 0, stepTimeS: 0 });
    expect(fit.ok && fit.value.slopeS).toBeCloseTo(2.07438016528926, 12);
  });

  it('refuses one trial, and what no motor does', () => {
    expect(fitBraking(stops(0.1, [100]), reaction)).toMatchObject({ ok: false });
    expect(fitBraking(stops(0.01, [100, 200]), reaction)).toMatchObject({ ok: false });
    expect(fitBraking(stops(9, [100, 200]), reaction)).toMatchObject({ ok: false });
    expect(interceptOf(stops(0.1, [100, 100]))).toBeNull();
    expect(interceptOf(stops(0.1, [100, 200]))).toBeCloseTo(0, 9);
  });
});
