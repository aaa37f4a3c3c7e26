import { describe, expect, it } from '@jest/globals';
import { Noise } from '../test/index.ts';
import {
  asNumber,
  asReading,
  liveCheck,
  reactionGuide,
  restCheck,
  staleCheck,
  warnAboutLight,
} from './index.ts';

const around = (mean: number, n = 20, sd = 1) =>
  Array.from({ length: n }, (_, i) => mean + sd * Math.sqrt(2) * (i % 2 === 0 ? 1 : -1));
const check = (more: object) =>
  staleCheck({
    surface: 'tide line',
    stored: { values: around(22) },
    fresh: around(22, 5),
    threshold: 48,
    otherMean: 76,
    step: 1,
    unit: '%',
    ...more,
  });

describe('whether stored readings still hold', () => {
  it('keeps them while little has moved', () => {
    expect(check({ fresh: [22, 23, 21, 22, 23] })).toMatchObject({ verdict: 'keep' });
    // Surely moved, but by less than a quarter of the margin: no needless reading again.
    const little = check({ fresh: [27, 27, 28, 27, 27] });
    expect(little.verdict).toBe('keep');
    expect(little.standardErrors).toBeGreaterThan(3);
  });

  it('calls them stale when the looks scatter far more than they did, though the mean is the same', () => {
    const wild = check({ stored: { values: [20, 20, 20, 20, 20] }, fresh: [60, 0, 20, 40, 10] });
    expect(wild.verdict).toBe('read again');
    expect(wild.says).toMatch(/scatters by 24.1 % now; it was 0 %/);
    expect(check({ stored: { values: [20, 20, 20, 20, 20] }, fresh: [20, 21, 19, 20, 22] }).verdict).toBe(
      'keep',
    );
  });

  // Upper 0.1 % points of F: 7.27 for 4 and 19 degrees of freedom, 7.10 for 4 and 20 (Abramowitz & Stegun 1964, table 26.9).
  it.each([
    [20, 7.27],
    [21, 7.1],
  ])('of %d stored readings takes five looks for wilder beyond a variance ratio of %d', (n, ratio) => {
    const stored = { values: around(50, n, 4) };
    const mean = stored.values.reduce((a, b) => a + b) / n;
    const sd = Math.sqrt(stored.values.reduce((a, v) => a + (v - mean) ** 2, 0) / (n - 1));
    // 0, ±1, ±1 has the variance 1.
    const looks = (f: number) => [0, 1, -1, 1, -1].map((z) => mean + z * sd * Math.sqrt(f * ratio));
    const at = (f: number) => check({ stored, fresh: looks(f), step: 0.001, threshold: 70 }).verdict;
    expect([at(0.995), at(1.005)]).toEqual(['keep', 'read again']);
  });

  it('raises one false alarm about scatter in a thousand, not one in fifty', () => {
    const noise = new Noise(5);
    const draw = (n: number) => Array.from({ length: n }, () => 22 + 5 * noise.normal());
    let alarms = 0;
    for (let i = 0; i < 4000; i++) {
      const found = check({ stored: { values: draw(20) }, fresh: draw(5), step: 0.01 });
      if (/scatters/.test(found.says)) alarms++;
    }
    expect(alarms).toBeGreaterThan(0);
    expect(alarms).toBeLessThan(12);
  });

  it('calls them stale when the mean moved for sure and eats more than a quarter of the margin', () => {
    const stale = check({ fresh: [30, 31, 30, 29, 30] });
    expect(stale).toMatchObject({ verdict: 'read again', shift: 8 });
    expect(stale.eaten).toBeCloseTo(8 / 26, 6);
    expect(stale.says).toMatch(/reads 30 % now; it was 22 %\. 31 % of the margin is gone/);
  });

  it('holds a move away from the threshold against the other surface', () => {
    // Dimmer light lowers both: the boards come nearer to the threshold by as much.
    expect(check({ fresh: [10, 11, 10, 9, 10] }).eaten).toBeCloseTo(12 / 28, 6);
  });

  it('does not take a wide scatter for a move', () => {
    expect(check({ stored: { values: around(22, 20, 12) }, fresh: [30, 31, 30, 29, 30] }).verdict).toBe(
      'keep',
    );
  });

  it('says so when it cannot tell', () => {
    expect(check({ fresh: [22, null, null, null, 23] })).toMatchObject({
      verdict: 'cannot tell',
      shift: null,
    });
    expect(check({ stored: { values: [] } })).toMatchObject({ verdict: 'cannot tell' });
    expect(check({ threshold: null, otherMean: null, fresh: [40, 40, 41, 40, 40] })).toMatchObject({
      verdict: 'read again',
      eaten: null,
    });
  });
});

describe('a heading at rest', () => {
  const looks = (perS: number) => Array.from({ length: 300 }, (_, i) => perS * i * 0.02);
  // Common practice: a reading that creeps while still means unplug, plug in again and restart.
  it('that creeps is told apart from one that keeps still', () => {
    expect(restCheck(looks(0.1), 20)).toMatchObject({ state: 'still' });
    const creeping = restCheck(looks(0.6), 20);
    expect(creeping.state).toBe('drifts');
    expect(creeping.driftPerS).toBeCloseTo(0.6, 9);
    expect(creeping.mend).toMatch(/Unplug/);
  });

  it('is watched for five seconds before anything is said', () => {
    expect(restCheck(looks(0.6).slice(0, 100), 20).state).toBe('waiting');
    expect(restCheck(Array<null>(40).fill(null), 20).state).toBe('silent');
  });
});

describe('a look', () => {
  // Common practice: 255 means no reading, neither near nor far.
  it('with the no-reading code is no number', () => {
    expect([255, 254, null, NaN].map((v) => asReading(v, { noReading: 255 }))).toEqual([
      null,
      254,
      null,
      null,
    ]);
    expect(asReading(255, {})).toBe(255);
    expect(asNumber([10, 20, 60])).toBe(30);
  });

  it('answers to what each kind of sensor is for', () => {
    expect(liveCheck([0, 0, 0, 0, 1, 1, 0, 0, 0, 0], '', reactionGuide.touch).state).toBe('reacts');
    expect(liveCheck(Array<number>(20).fill(0), '', reactionGuide.touch)).toMatchObject({
      state: 'still',
      says: 'Hardly any change: 0 to 0. Press the bumper and let go.',
    });
    const turned = [...Array<number>(30).fill(0), ...Array.from({ length: 50 }, (_, i) => 1.8 * i)];
    expect(liveCheck(turned, 'deg', reactionGuide.heading).state).toBe('reacts');
  });
});

describe('light notes', () => {
  it('that differ are told, those that are alike or missing are not', () => {
    const set = (surface: string, lightNote: string) => ({ surface, lightNote });
    expect(warnAboutLight([set('line', 'blinds down'), set('boards', 'blinds up')])?.says).toMatch(
      /line was read with “blinds down”, the boards with “blinds up”/,
    );
    expect(warnAboutLight([set('line', 'Blinds down '), set('boards', 'blinds down')])).toBeNull();
    expect(warnAboutLight([set('line', ''), set('boards', 'blinds up')])).toBeNull();
  });
});
