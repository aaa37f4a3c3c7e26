import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { boards, type Course } from '../course/index.ts';
import type { RunEvent, Trace } from '../sim/index.ts';
import { askedOf } from './asked.ts';
import {
  evidenceFor,
  judge,
  readFormula,
  verdictEvidence,
  type Expectation,
  type Formula,
  type Scene,
} from './index.ts';

const at = (xMm: number, yMm: number) => ({ xMm, yMm });
const course: Course = {
  name: 'test',
  widthMm: 1000,
  heightMm: 800,
  base: boards,
  rim: 'wall',
  marks: [
    {
      kind: 'path',
      surface: { name: 'line', reflectance: 0.2 },
      points: [at(100, 100), at(400, 500), at(900, 550)],
      widthMm: 30,
    },
  ],
  starts: [],
  landmarks: [{ id: 'line', name: 'line', ...at(300, 300), bearingDeg: 30 }],
  walls: [
    { from: at(200, 600), to: at(700, 600) },
    { from: at(700, 600), to: at(700, 200) },
  ],
  tracks: [{ id: 'left', name: 'left edge', mark: 0, side: 'left' }],
  zones: [
    { id: 'a', name: 'A', kind: 'rectangle', corner: at(0, 0), widthMm: 500, heightMm: 200 },
    { id: 'b', name: 'B', kind: 'disc', centre: at(500, 500), radiusMm: 100 },
  ],
  boxes: [
    { id: 'ferry', name: 'ferry', ...at(500, 400), widthMm: 100, depthMm: 40, stays: [{ fromS: 1, toS: 4 }] },
    { id: 'post', name: 'post', ...at(300, 250), widthMm: 60, depthMm: 60 },
  ],
};

/** One step of a drive: how far and how it turns, whether it jumps, whether it stands. */
const step = fc.record({
  mm: fc.double({ min: -8, max: 12, noNaN: true }),
  deg: fc.double({ min: -9, max: 9, noNaN: true }),
  jumps: fc.constantFrom(false, false, false, false, false, false, true),
  stands: fc.integer({ min: 0, max: 5 }),
});
const drive = fc.array(step, { minLength: 1, maxLength: 60 });

function traceOf(
  steps: readonly (typeof step extends fc.Arbitrary<infer T> ? T : never)[],
  lasts: boolean,
): Trace {
  const [xs, ys, bearings, speeds, pressed]: number[][] = [[], [], [], [], []];
  let [x, y, bearing] = [300, 100, 20];
  for (const { mm, deg, jumps, stands } of steps) {
    bearing += jumps ? 20 * deg : deg;
    const way = jumps ? 15 * mm : mm;
    x += way * Math.sin((bearing * Math.PI) / 180);
    y += way * Math.cos((bearing * Math.PI) / 180);
    for (let k = 0; k <= stands; k++) {
      xs!.push(x);
      ys!.push(y);
      bearings!.push(bearing);
      speeds!.push(k === 0 ? 10 * mm : 0);
      pressed!.push(k === 1 && deg > 3 ? 1 : 0);
    }
  }
  const column = (unit: string, values: readonly number[]) => ({ unit, values: Float32Array.from(values) });
  return {
    timesS: Float32Array.from(xs!, (_, i) => i * 0.05),
    lasts,
    signals: {
      x: column('mm', xs!),
      y: column('mm', ys!),
      bearing: column('deg', bearings!),
      speed: column('mm/s', speeds!),
      turning: column('deg/s', bearings!),
      K1: column('', pressed!),
    },
  };
}
const sceneWith = (events: RunEvent[], laterS: number): Scene => ({
  course,
  watcher: { aheadMm: 60, rightMm: -20 },
  outline: { lengthMm: 150, widthMm: 110, axleFromFrontMm: 60, trackMm: 100 },
  events,
  laterS,
  programOverS: null,
  bumpers: ['K1'],
});

const signals = [
  ...['room', 'edge room', 'gap ahead', 'backed', 'turned', 'travelled', 'motion', 'bumps', 'K1', 'speed'],
  ...[
    'in a',
    'in b',
    'off left',
    'past line',
    'room to post',
    'room to ferry',
    'display',
    'ferry there',
    'constructor',
    'shown less turned',
    'shown less room',
    'shown less backed',
  ],
];
/** A formula of any shape, as a person might write it, over any of the signals. */
const formulas: fc.Arbitrary<string> = fc.letrec<{ any: string; compare: string }>((tie) => ({
  compare: fc
    .tuple(fc.constantFrom(...signals), fc.constantFrom('<', '>'), fc.integer({ min: -50, max: 200 }))
    .map(([signal, op, value]) => `"${signal}" ${op} ${value}`),
  any: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    tie('compare'),
    fc
      .tuple(
        fc.constantFrom('always', 'eventually', 'eventually always', 'not', 'always[0.1, 0.6]'),
        tie('any'),
      )
      .map(([word, of]) => `${word} (${of})`),
    fc
      .tuple(tie('any'), fc.constantFrom('and', 'or', '->', 'until'), tie('any'))
      .map(([a, word, b]) => `(${a}) ${word} (${b})`),
  ),
})).any;

const kinds: Expectation[] = [
  { kind: 'never touches' },
  { kind: 'keeps clear', roomMm: 20 },
  { kind: 'never over the edge' },
  { kind: 'ends with gap', gapMm: 150, toleranceMm: 60 },
  { kind: 'backs off by', byMm: 30, toleranceMm: 20 },
  { kind: 'stops past', landmark: 'line', withinMm: 90 },
  { kind: 'comes to rest' },
  { kind: 'done within', seconds: 2 },
  { kind: 'waits for', box: 'ferry', withinS: 1 },
  { kind: 'ends in', zone: 'b' },
  { kind: 'visits', zones: ['a', 'b'] },
  { kind: 'stays on track', track: 'left', withinMm: 80, share: 0.6 },
  { kind: 'net turn', deg: 10, toleranceDeg: 20 },
  { kind: 'bumps', atLeast: 2 },
  { kind: 'soon after', seconds: 0.5, when: { is: 'pressed', socket: 'K1' }, then: { is: 'stands' } },
  { kind: 'shows', text: '5' },
  { kind: 'counts', count: 5, tolerance: 0 },
];

describe('what a verdict looks at', () => {
  const read = (text: string): Formula => {
    const formula = readFormula(text);
    if (!formula.ok) throw new Error(formula.says);
    return formula.value;
  };
  it.each([
    ['always room > 30', 'room=least'],
    ['always room < 30', 'room=some'],
    ['eventually always (room > 30 and turned < 5)', 'room=end turned=end'],
    ['always (room > 30 and turned > 5)', 'room=least turned=least'],
    ['always (room > 30 or turned > 5)', 'room=some turned=some'],
    ['always not (room < 30)', 'room=some'],
    ['always room > 30 and eventually always room > 50', 'room=least'],
    ['eventually room < 30', 'room=least'],
    ['eventually room > 30', 'room=some'],
    ['eventually (room < 30 or turned < 5)', 'room=least turned=least'],
    ['eventually (room < 30 and turned < 5)', 'room=some turned=some'],
    ['always room < 30 and eventually room < 5', 'room=some'],
    ['always[1, end] room > 30', 'room=some'],
    ['eventually (room > 30 and eventually room < 5)', 'room=some'],
    ['not always room > 30', 'room=some'],
    ['for 90 % room > 30', 'room=some'],
    ['eventually always (for 90 % room > 30)', 'room=some'],
    ['(room > 30) until (turned > 5)', 'room=some turned=some'],
  ])('%s: %s', (text, wanted) => {
    expect([...askedOf(read(text))].map((one) => one.join('=')).join(' ')).toBe(wanted);
  });

  it('tells the same, to the bit and the word, as all the evidence would: any drive, any formula, things that come and go', () => {
    const expectations = fc.array(
      fc.oneof(
        fc.constantFrom(...kinds),
        formulas.map((formula): Expectation => ({ kind: 'formula', says: 'so', formula })),
      ),
      { minLength: 1, maxLength: 5 },
    );
    const shown = fc.array(
      fc.record({
        atS: fc.double({ min: 0, max: 3, noNaN: true }),
        text: fc.constantFrom('', '5', 'at 12 cm'),
      }),
      { maxLength: 3 },
    );
    const verdicts: Record<string, number> = {};
    fc.assert(
      fc.property(
        drive,
        expectations,
        shown,
        fc.constantFrom(0, 0.5, -0.7),
        fc.boolean(),
        (steps, asked, texts, laterS, lasts) => {
          const events = [...texts]
            .sort((a, b) => a.atS - b.atS)
            .map((one): RunEvent => ({ kind: 'display', ...one }));
          const [trace, scene] = [traceOf(steps, lasts), sceneWith(events, laterS)];
          const [whole, lean] = [evidenceFor(trace, scene, asked), verdictEvidence(trace, scene, asked)];
          for (const one of asked) {
            const judged = judge(one, whole);
            expect([one, judge(one, lean)]).toEqual([one, judged]);
            verdicts[judged.verdict] = (verdicts[judged.verdict] ?? 0) + 1;
          }
        },
      ),
      { numRuns: 1500 },
    );
    expect(Math.min(...['holds', 'broken', 'cannot tell'].map((v) => verdicts[v] ?? 0))).toBeGreaterThan(100);
  });

  it('works out all of what another signal is made from', () => {
    const there = Array.from({ length: 20 }, () => ({ mm: 5, deg: 0, jumps: false, stands: 0 }));
    const back = Array.from({ length: 12 }, () => ({ mm: -5, deg: 0, jumps: false, stands: 0 }));
    const trace = traceOf([...there, ...back], false);
    const scene = sceneWith([{ atS: 0.5, kind: 'display', text: 'at 12 cm' }], 0);
    const asked: Expectation[] = [
      { kind: 'ends with gap', gapMm: 150, toleranceMm: 60 },
      { kind: 'backs off by', byMm: 60, toleranceMm: 5 },
      { kind: 'formula', says: 'so', formula: 'eventually always "shown less gap ahead" < 0' },
      { kind: 'formula', says: 'so', formula: 'eventually always "shown less travelled" < 0' },
      { kind: 'formula', says: 'so', formula: 'eventually always travelled > 0' },
    ];
    const [whole, lean] = [evidenceFor(trace, scene, asked), verdictEvidence(trace, scene, asked)];
    expect(asked.map((one) => judge(one, lean))).toEqual(asked.map((one) => judge(one, whole)));
    expect(judge(asked[1]!, lean).verdict).toBe('holds');
    expect(lean.signals['gap ahead']!.values).toEqual(whole.signals['gap ahead']!.values);
  });

  it('and of what that is made from in its turn, whether or not anybody asks for what lies between', () => {
    const there = Array.from({ length: 20 }, () => ({ mm: 5, deg: 0, jumps: false, stands: 0 }));
    const back = Array.from({ length: 12 }, () => ({ mm: -5, deg: 0, jumps: false, stands: 0 }));
    const trace = traceOf([...there, ...back], false);
    const scene = sceneWith([{ atS: 1.2, kind: 'display', text: 'back by 20 mm' }], 0);
    const gap: Expectation = { kind: 'ends with gap', gapMm: 150, toleranceMm: 60 };
    const backed: Expectation = { kind: 'backs off by', byMm: 60, toleranceMm: 5 };
    const shown: Expectation = {
      kind: 'formula',
      says: 'so',
      formula: 'eventually always "shown less backed" < 0',
    };
    for (const asked of [
      [gap, shown],
      [shown, gap],
      [gap, backed, shown],
      [shown, backed, gap],
      [backed, shown],
    ]) {
      const [whole, lean] = [evidenceFor(trace, scene, asked), verdictEvidence(trace, scene, asked)];
      expect(asked.map((one) => judge(one, lean))).toEqual(asked.map((one) => judge(one, whole)));
    }
  });

  it('looks at fewer samples than a run has', () => {
    const away = Array.from({ length: 60 }, () => ({ mm: 4, deg: 0, jumps: false, stands: 3 }));
    const trace = traceOf(away, false);
    const lean = verdictEvidence(trace, sceneWith([], 0), [{ kind: 'never touches' }]).signals.room!.values;
    const whole = evidenceFor(trace, sceneWith([], 0), [{ kind: 'never touches' }]).signals.room!.values;
    expect(Math.min(...lean)).toBe(Math.min(...whole));
    expect(lean.at(-1)).toBe(whole.at(-1));
    expect(lean.every((v, i) => v <= whole[i]!)).toBe(true);
    expect(lean.filter((v, i) => v === whole[i]).length).toBeLessThan(whole.length);
  });
});
