import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  along,
  axisOf,
  emptySweep,
  handWalk,
  HOPELESS_RUNS,
  knobsAt,
  knobsOf,
  placeOn,
  safeAt,
  safeBorder,
  sensibleRange,
  SWEEP_STAGES,
  sweepTasks,
  tightnessOf,
  valueAt,
  withRuns,
  type Axis,
  type Sweep,
} from './index.ts';

const gain = axisOf({ name: 'gain', unit: '' }, 0.5, 2.5, 21);
const speed = axisOf({ name: 'speed', unit: '%' }, 5, 45, 21);

/** Runs a whole sweep with a law in place of a robot; `heard` sees every task. */
function swept(
  passes: (knobs: Record<string, number>, run: number) => boolean,
  {
    x = gain,
    y = speed,
    runs = 10,
    heard = () => undefined,
  }: { x?: Axis; y?: Axis | null; runs?: number; heard?: (stage: number, index: number) => void } = {},
): Sweep {
  let sweep = emptySweep(x, y, 0.85);
  for (let stage = 0; stage < SWEEP_STAGES; stage++)
    for (const { index, knobs, from, count } of sweepTasks(sweep, stage, runs)) {
      heard(stage, index);
      let made = Array.from({ length: count }, (_, i) => ({
        passed: passes(knobs as Record<string, number>, from + i),
        results: { rms: Math.abs(knobs.gain! - 1.5) },
      }));
      // A worker gives up what is hopeless.
      if (made.length > HOPELESS_RUNS && !made.slice(0, HOPELESS_RUNS).some(({ passed }) => passed))
        made = made.slice(0, HOPELESS_RUNS);
      const points = [...sweep.points];
      points[index] = withRuns(points[index]!, made);
      sweep = { ...sweep, points };
    }
  return sweep;
}
const inside = ({ gain: g, speed: v }: Record<string, number>) => g! > 0.9 && g! * v! < 40;

describe('a sweep', () => {
  it('runs every point, none twice, coarse first and the rim before what is far from it', () => {
    const stages = new Map<number, number>();
    const order: number[] = [];
    const sweep = swept(inside, {
      heard: (stage, index) => {
        order.push(index);
        stages.set(stage, (stages.get(stage) ?? 0) + 1);
      },
    });
    expect(sweep.points.every((point) => point !== null)).toBe(true);
    for (const point of sweep.points) expect([4, 5, 10]).toContain(point!.runs);
    expect([stages.get(0), stages.get(1)]).toEqual([36, 36]);
    // A quarter of the points is enough to have the rim.
    expect(stages.get(2)! + stages.get(3)!).toBeLessThan(441 / 2);
    expect(order.length).toBeLessThan(441 + 36 + 1);
    // Done again it has nothing to do.
    for (let stage = 0; stage < SWEEP_STAGES; stage++) expect(sweepTasks(sweep, stage, 10)).toEqual([]);
  });

  it('has the same points safe as running all of them would, for any rim', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 2.8, noNaN: true }),
        fc.double({ min: 3, max: 60, noNaN: true }),
        fc.constantFrom(5, 6, 9, 21),
        fc.constantFrom(2, 3, 8, 21),
        (g, v, nx, ny) => {
          const law = (knobs: Record<string, number>) => knobs.gain! > g && knobs.speed! < v;
          const x = axisOf({ name: 'gain', unit: '' }, 0.5, 2.5, nx);
          const y = axisOf({ name: 'speed', unit: '%' }, 5, 45, ny);
          const sweep = swept(law, { x, y, runs: 5 });
          sweep.points.forEach((point, i) => expect(safeAt(point, 0.85)!.safe).toBe(law(knobsAt(sweep, i))));
        },
      ),
      { numRuns: 40 },
    );
  });

  it('of one number is one row, and of too many values or none is refused', () => {
    const sweep = swept(({ gain: g }) => g! > 1, { y: null });
    expect(sweep.points.length).toBe(21);
    expect(safeBorder(sweep).length).toBe(2 + 2 * sweep.points.filter((p) => safeAt(p, 0.85)!.safe).length);
    expect(() => axisOf({ name: 'gain', unit: '' }, 1, 1, 21)).toThrow(RangeError);
    expect(() => axisOf({ name: 'gain', unit: '' }, 1, 2, 1)).toThrow(RangeError);
    expect(() => axisOf({ name: 'gain', unit: '' }, 1, 2, 42)).toThrow(RangeError);
  });

  it('says what it is sure of: ten of ten are safe and not yet sure of 85 %', () => {
    const of = (passes: number, runs: number) => safeAt({ runs, passes, sums: {} }, 0.85);
    expect(of(10, 10)).toEqual({ safe: true, sure: false });
    expect(of(25, 25)).toEqual({ safe: true, sure: true });
    expect(of(0, HOPELESS_RUNS)).toEqual({ safe: false, sure: true });
    expect(of(8, 10)).toEqual({ safe: false, sure: false });
    expect(safeAt(null, 0.85)).toBeNull();
    expect(valueAt(null, 'rms')).toBeNull();
    expect(valueAt({ runs: 3, passes: 2, sums: { rms: { sum: 8, n: 2 } } }, 'rms')).toBe(4);
  });

  it('outlines a closed region, and nothing between points that have not run', () => {
    const sweep = swept(inside);
    const ends = safeBorder(sweep).flatMap(([a, b, c, d]) => [`${a} ${b}`, `${c} ${d}`]);
    const counts = new Map<string, number>();
    for (const end of ends) counts.set(end, (counts.get(end) ?? 0) + 1);
    // Every corner of a closed border is met an even number of times.
    expect([...counts.values()].every((count) => count % 2 === 0)).toBe(true);
    const coarse = { ...sweep, points: sweep.points.map((p, i) => (i === 200 ? p : null)) };
    expect(safeBorder(coarse)).toEqual([]);
  });
});

describe('how tight', () => {
  it('the share that passes is that of the area, jointly and along one number', () => {
    const sweep = swept(({ gain: g, speed: v }) => g! >= 1.5 && v! <= 25);
    expect(tightnessOf(sweep)!.share).toBeCloseTo((11 * 11) / 441, 9);
    const { low, high } = tightnessOf(sweep)!;
    expect(low).toBeLessThan(121 / 441);
    expect(high).toBeGreaterThan(121 / 441);
    expect(tightnessOf(sweep, along(sweep, 'speed', 15))!.share).toBeCloseTo(11 / 21, 9);
    expect(tightnessOf(sweep, along(sweep, 'gain', 0.6))!.share).toBe(0);
    expect(tightnessOf(sweep, along(sweep, 'wait', 1))).toBeNull();
    expect(tightnessOf(emptySweep(gain, speed, 0.85))).toBeNull();
  });

  it('a guess lies between a third and three times what works, inside what can be', () => {
    const range = (text: string) => sensibleRange(knobsOf(text).at(-1)!);
    expect(range('let gain = 1.2')).toEqual({ low: 0.4, high: 3.6 });
    expect(range('drive 15 %')).toEqual({ low: 5, high: 45 });
    expect(range('drive 60 %')).toEqual({ low: 20, high: 100 });
    const back = range('drive -30 %');
    expect(back.low).toBeLessThan(back.high);
    expect(range('let gain = 0').low).toBeLessThan(range('let gain = 0').high);
  });

  it('a place on the field is between its points, and none outside', () => {
    expect(placeOn(speed, 5)).toBe(0);
    expect(placeOn(speed, 26)).toBeCloseTo(10.5, 9);
    expect(placeOn(speed, 50)).toBeNull();
  });
});

describe('the walk by hand', () => {
  // Common practice: gain 1, find the speed; then the gain up until worse, and back.
  it('goes up in speed with a gain of 1, then up in gain, and one back', () => {
    const sweep = swept(inside);
    const { places, says } = handWalk(sweep, 'rms')!;
    expect(says).toBe('By hand: gain 1, speed up to 39 %, then the gain up to 1.');
    expect(places[0]).toEqual([5, 0]);
    const slow = swept(({ gain: g, speed: v }) => g! > 0.4 && v! <= 21);
    expect(handWalk(slow, 'rms')!.says).toBe('By hand: gain 1, speed up to 21 %, then the gain up to 1.5.');
    expect(
      handWalk(
        swept(() => false),
        'rms',
      ),
    ).toBeNull();
    expect(
      handWalk(
        swept(() => true, { y: null }),
        'rms',
      ),
    ).toBeNull();
  });
});
