import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { built, kit } from '../test/index.ts';
import { liveCheck, preflight, preflightGrade, summarise, warnAboutPair, warnAboutSet } from './index.ts';

const need = { kind: 'light', socket: 'K3', name: 'floor' } as const;

describe('a sample set', () => {
  // NIST/ITL Statistical Reference Datasets, NumAcc1 (certified values follow from the definition).
  it('keeps its digits on large readings', () => {
    const s = summarise([10000001, 10000003, 10000002]);
    expect(s.mean).toBe(10000002);
    expect(s.sd).toBeCloseTo(1, 12);
  });

  it('counts gaps and leaves out what cannot be known', () => {
    expect(summarise([5, null, NaN])).toEqual({
      n: 1,
      noReadings: 2,
      mean: 5,
      sd: null,
      min: 5,
      max: 5,
      drift: null,
    });
    expect(summarise([]).mean).toBeNull();
  });

  it('does not depend on the order of its readings, but for the drift', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 40 }), (values) => {
        const [a, b] = [summarise(values), summarise([...values].sort((x, y) => x - y))];
        return Math.abs(a.mean! - b.mean!) < 1e-9 && Math.abs(a.sd! - b.sd!) < 1e-9 && a.min === b.min;
      }),
    );
  });

  it('warns of few readings, gaps, a reading that wanders and one stuck at the end of its range', () => {
    const range = { min: 0, max: 100 };
    const says = (values: (number | null)[]) =>
      warnAboutSet({ values }, range)
        .map((w) => w.says)
        .join(' ');
    expect(says([50, 51, 50])).toMatch(/Only 3 readings/);
    expect(says([50, null, 50, 51, 50, 50])).toMatch(/1 of 6 looks gave no reading/);
    expect(says([100, 100, 100, 100, 100])).toMatch(/end of its range/);
    expect(says([10, 20, 30, 40, 50, 60])).toMatch(/moved while/);
    expect(says([null, null])).toMatch(/No reading/);
    expect(says([50, 51, 50, 49, 50, 51])).toBe('');
  });

  it('warns when the scatter is wider than the gap between two surfaces', () => {
    expect(warnAboutPair({ values: [40, 50, 60] }, { values: [50, 55, 60] })).toHaveLength(1);
    expect(warnAboutPair({ values: [22, 24] }, { values: [90, 92] })).toHaveLength(0);
  });
});

describe('the preflight', () => {
  it('finds the plug in the wrong socket first, the most common mistake', () => {
    const [check] = preflight(kit, built('K4'), need);
    expect(check).toMatchObject({ topic: 'socket', grade: 'fault', foundOn: 'K4' });
    expect(check!.mend).toMatch(/from K4 to K3/);
  });

  it('tells wrong mode from wrong height (common practice: 8–16 mm above the floor)', () => {
    expect(preflightGrade(preflight(kit, built('K3'), need))).toBe('ok');
    expect(preflight(kit, built('K3', 'ambient'), need).find((c) => c.grade === 'fault')?.topic).toBe('mode');
    const high = preflight(kit, built('K3', 'light', 27), need).find((c) => c.grade === 'risk');
    expect(high?.mend).toMatch(/^Lower/);
    expect(preflight(kit, built('K3', 'light', 4), need).find((c) => c.grade === 'risk')?.mend).toMatch(
      /^Raise/,
    );
  });

  it('says when no such sensor is fitted at all', () => {
    const [check] = preflight(kit, { ...built('K3'), fittings: [] }, need);
    expect(check!.says).toMatch(/No reflected light sensor is fitted/);
  });
});

describe('the live check', () => {
  it('takes a moved paper for an answer, and noise alone for none', () => {
    const paper = [...Array<number>(10).fill(20), 45, 80, 88, ...Array<number>(10).fill(89)];
    expect(liveCheck(paper, '%').state).toBe('reacts');
    const noisy = Array.from({ length: 60 }, (_, i) => 34 + 6 * Math.sin(i * 2.4));
    expect(liveCheck(noisy, '%').state).toBe('still');
  });

  it('tells a silent socket from one not heard yet', () => {
    expect(liveCheck([null, null], '%').state).toBe('waiting');
    expect(liveCheck(Array<null>(12).fill(null), '%').state).toBe('silent');
  });
});
