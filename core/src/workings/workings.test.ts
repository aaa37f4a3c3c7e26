import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readAtTemperature, speedOfSound } from '../motion/index.ts';
import { readInputs, worksheets } from './index.ts';

const sheet = (id: string) => worksheets.find((w) => w.id === id)!;
const result = (id: string, label: string, given: Record<string, string> = {}) => {
  const { values, faults } = readInputs(sheet(id), given);
  expect(faults).toEqual({});
  const found = sheet(id)
    .answer(values)
    .results.find((r) => r.label === label);
  if (!found) throw new Error(label);
  return found.value;
};

describe('the calculations of the lessons', () => {
  // Common practice: 0 at reading 50, +30 at 0, −30 at 100 gives m = −0.6, b = +30.
  it('make a steering map from two points', () => {
    const points = { x1: '0', y1: '30', x2: '100', y2: '-30', x: '50' };
    expect(result('steering', 'slope m', points)).toBeCloseTo(-0.6, 12);
    expect(result('steering', 'intercept b', points)).toBeCloseTo(30, 12);
    expect(result('steering', 'straight on at', points)).toBeCloseTo(50, 12);
    expect(result('steering', 'slope m', { ...points, x2: '0' })).toBeNull();
  });

  // Derived: wheel degrees = A·W/d; s = π·d·n.
  it('turn distances and angles into wheel degrees', () => {
    expect(
      result('turn', 'each wheel, one ahead and one back', { angle: '90', track: '120', diameter: '56' }),
    ).toBeCloseTo(192.857142857143, 9);
    expect(
      result('travel', 'wheel turns', { distance: String(Math.PI * 56 * 3), diameter: '56' }),
    ).toBeCloseTo(3, 12);
  });

  // Derived: w = 20 mm at T = 20 ms, the centre of the spot on the line, then the whole spot of 8 mm.
  it('say how fast a line is surely seen', () => {
    const line = { width: '20', sample: '20', spot: '8', top: '5000' };
    expect(result('line-speed', 'greatest speed', { ...line, overlap: '8' })).toBeCloseTo(1000, 9);
    expect(result('line-speed', 'greatest speed', { ...line, overlap: '16' })).toBeCloseTo(600, 9);
    expect(result('line-speed', 'greatest speed', { ...line, width: '6', overlap: '16' })).toBeNull();
  });

  // Common practice: a full-power turn “until above 90” was measured at 140; the sheet's overshoot is what explains it.
  it('say where a hot turn ends and which threshold cancels it', () => {
    const hot = { angle: '90', speed: '534', track: '120', sample: '20', step: '5', delay: '8', brake: '45' };
    expect(result('overshoot', 'it ends at', hot)).toBeGreaterThan(135);
    expect(result('overshoot', 'it ends at', hot)).toBeLessThan(145);
    const set = result('overshoot', 'set the threshold to', hot)!;
    expect(result('overshoot', 'it ends at', { ...hot, angle: String(set) })).toBeCloseTo(90, 9);
    expect(result('overshoot', 'set the threshold to', { ...hot, angle: '20' })).toBeNull();
  });

  // c = 331.3·√(1 + T/273.15), and echo times derived from it.
  it('follow the sound there and back, and the temperature', () => {
    [0, 10, 20, 25, 30].forEach((t, i) =>
      expect(speedOfSound(t)).toBeCloseTo(
        [331.3, 337.309922195551, 343.214622682568, 346.129201352503, 349.019441915069][i]!,
        9,
      ),
    );
    expect(result('sound', 'echo time', { distance: '254', air: '20' })).toBeCloseTo(1480.12341673985, 8);
    expect(readAtTemperature(100, 20, 30)).toBeCloseTo(98.3368206651612, 9);
    expect(readAtTemperature(100, 20, 0)).toBeCloseTo(103.59632438351, 9);
  });

  // Derived: 50 + 300·(0.1 + 0.05) + braking + 10 + 5, with τ in place of v²/2a (300·τ = 50).
  it('set a threshold for a gap that is kept at the worst look', () => {
    const gap = {
      gap: '50',
      speed: '300',
      sample: '100',
      step: '0',
      delay: '50',
      brake: String(500 / 3),
      error: '10',
      rounding: '10',
    };
    expect(result('gap', 'set the threshold to', gap)).toBeCloseTo(160, 9);
  });

  it('refuse what is no number or outside, field by field', () => {
    const { faults } = readInputs(sheet('travel'), { distance: 'ten', diameter: '0', speed: '' });
    expect(Object.keys(faults)).toEqual(['distance', 'diameter', 'speed']);
    expect(readInputs(sheet('travel'), { distance: '12,5' }).values.distance).toBe(12.5);
  });

  it('never show a NaN, whatever is typed', () => {
    for (const w of worksheets) {
      fc.assert(
        fc.property(
          fc.tuple(...w.inputs.map(({ min, max }) => fc.double({ min, max, noNaN: true }))),
          (numbers) => {
            const values = Object.fromEntries(w.inputs.map(({ key }, i) => [key, numbers[i]!]));
            const { results, lines } = w.answer(values);
            return (
              results.every(({ value }) => value === null || !Number.isNaN(value)) &&
              lines.every((line) => !/NaN|undefined/.test(line))
            );
          },
        ),
        { numRuns: 60 },
      );
    }
  });

  // The stopping distance turned round: what it gives back is the room.
  it('say how fast it may be within a room', () => {
    const kit = { sample: '50', step: '5', delay: '8', brake: '45', limit: '4000' };
    const speed = result('room-speed', 'greatest speed', { ...kit, room: '30' })!;
    expect(result('stopping', 'at worst', { ...kit, speed: String(speed) })).toBeCloseTo(30, 6);
    expect(result('room-speed', 'greatest speed', { ...kit, room: '1' })).toBeGreaterThan(0);
  });

  // Wilson 1927: 22 of 22 is the first that surely lies above 85 %, 35 of 35 above 90 %.
  it('say how many runs a bar takes', () => {
    expect(result('runs', 'runs', { bar: '85' })).toBe(22);
    expect(result('runs', 'runs', { bar: '90' })).toBe(35);
    expect(result('runs', 'runs', { bar: '85', failed: '1' })).toBeGreaterThan(22);
  });

  it('say how much gain just does not wag, and that none does where it is too late', () => {
    // As the runs of the simulator find it at 15 %: 1.76, once in 0.52 s.
    const loop = {
      speed: '80.1',
      ahead: '80',
      sample: '50',
      round: '60',
      delay: '8',
      lag: '70',
      contrast: '55',
      radius: '4',
      track: '120',
    };
    expect(result('gain', 'it just keeps swinging at gain', loop)).toBeCloseTo(1.74, 1);
    expect(result('gain', 'one swing takes', loop)).toBeCloseTo(0.51, 2);
    expect(result('gain', 'half of that: quiet', { ...loop, speed: '3000' })).toBeNull();
  });

  it('say how many trials tell two values apart', () => {
    expect(result('trials', 'trials of each value', { difference: '5', scatter: '10' })).toBe(64);
    expect(result('trials', 'trials of each value', { difference: '5', scatter: '0' })).toBe(2);
  });
});
