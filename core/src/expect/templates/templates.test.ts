import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { boards, buildCourse, courseFamilies, familyOf, type Course } from '../../course/index.ts';
import type { RunEvent, Trace } from '../../sim/index.ts';
import {
  evidenceFor,
  expectationChoices,
  formulaOf,
  formulaText,
  judge,
  readFormula,
  relativeMargin,
  sentence,
  signalOf,
  type Expectation,
  type Scene,
} from '../index.ts';

const at = (xMm: number, yMm: number) => ({ xMm, yMm });
const course: Course = {
  name: 'test',
  widthMm: 1000,
  heightMm: 1000,
  base: boards,
  marks: [
    {
      kind: 'stripe',
      surface: { name: 'line', reflectance: 0.2 },
      from: at(500, 0),
      to: at(500, 1000),
      widthMm: 30,
    },
  ],
  starts: [],
  landmarks: [],
  walls: [{ from: at(0, 900), to: at(1000, 900) }],
  tracks: [{ id: 'left', name: 'left edge', mark: 0, side: 'left' }],
  zones: [
    { id: 'a', name: 'A', kind: 'rectangle', corner: at(0, 0), widthMm: 1000, heightMm: 200 },
    { id: 'b', name: 'B', kind: 'disc', centre: at(500, 500), radiusMm: 100 },
  ],
  boxes: [
    { id: 'ferry', name: 'ferry', ...at(500, 700), widthMm: 100, depthMm: 40, stays: [{ fromS: 0, toS: 4 }] },
  ],
};

/** A drive along the line's left edge, one sample a second, with what was shown. */
function driven(
  ys: readonly number[],
  more: {
    x?: number;
    bearing?: number[];
    signals?: Record<string, number[]>;
    events?: RunEvent[];
    dt?: number;
  } = {},
): { trace: Trace; scene: Scene } {
  const { x = 485, bearing = ys.map(() => 0), signals = {}, events = [], dt = 1 } = more;
  const speed = ys.map((y, i) => ((ys[i + 1] ?? y) - y) / dt);
  const column = (unit: string, values: readonly number[]) => ({ unit, values: Float32Array.from(values) });
  return {
    trace: {
      timesS: Float32Array.from(ys, (_, i) => i * dt),
      signals: {
        x: column(
          'mm',
          ys.map(() => x),
        ),
        y: column('mm', ys),
        bearing: column('deg', bearing),
        speed: column('mm/s', speed),
        ...Object.fromEntries(Object.entries(signals).map(([name, values]) => [name, column('', values)])),
      },
    },
    scene: {
      course,
      watcher: { aheadMm: 0, rightMm: 0 },
      outline: { lengthMm: 200, widthMm: 100, axleFromFrontMm: 100, trackMm: 90 },
      events,
      laterS: 0,
      programOverS: null,
      bumpers: ['K1'],
    },
  };
}
const display = (atS: number, text: string): RunEvent => ({ atS, kind: 'display', text });
function verdict(e: Expectation, { trace, scene }: ReturnType<typeof driven>) {
  const judged = judge(e, evidenceFor(trace, scene, [e]));
  return [judged.verdict, judged.margin === null ? null : Math.round(judged.margin * 10) / 10];
}

describe('sentences on a trace', () => {
  const upTo = (y: number) => driven([100, 300, y, y]);
  it.each<[string, Expectation, ReturnType<typeof driven>, [string, number | null]]>([
    [
      'a gap kept',
      { kind: 'ends with gap', gapMm: 150, toleranceMm: 20 },
      driven([100, 400, 640], { x: 200 }),
      ['holds', 10],
    ],
    [
      'a gap too small',
      { kind: 'ends with gap', gapMm: 150, toleranceMm: 20 },
      driven([100, 400, 740], { x: 200 }),
      ['broken', -70],
    ],
    ['a wall touched', { kind: 'never touches' }, driven([100, 400, 800], { x: 200 }), ['broken', -0.5]],
    [
      'a wall kept clear of',
      { kind: 'keeps clear', roomMm: 50 },
      driven([100, 400, 700], { x: 200 }),
      ['holds', 50],
    ],
    ['over the edge', { kind: 'never over the edge' }, driven([100, 40, -10], { x: 200 }), ['broken', -10]],
    [
      'a count',
      { kind: 'counts', count: 5, tolerance: 0 },
      driven([100, 200, 300], { events: [display(1, 'Lanes: 5')] }),
      ['holds', 0.5],
    ],
    [
      'a wrong count',
      { kind: 'counts', count: 5, tolerance: 0 },
      driven([100, 200, 300], { events: [display(1, 'Lanes: 24')] }),
      ['broken', -18.5],
    ],
    [
      'a text at the end',
      { kind: 'shows', text: 'five' },
      driven([1, 2, 3], { events: [display(1, 'Five'), display(2, 'six')] }),
      ['broken', -1],
    ],
    [
      'texts in order',
      { kind: 'shows in order', texts: ['red', 'blue'] },
      driven([1, 2, 3, 4], { events: [display(1, 'red 3'), display(2, 'blue')] }),
      ['holds', 1],
    ],
    [
      'texts in another order',
      { kind: 'shows in order', texts: ['blue', 'red'] },
      driven([1, 2, 3, 4], { events: [display(1, 'red 3'), display(2, 'blue')] }),
      ['broken', -1],
    ],
    [
      'a turn',
      { kind: 'net turn', deg: 90, toleranceDeg: 5 },
      driven([1, 1, 1], { bearing: [10, 60, 98] }),
      ['holds', 3],
    ],
    [
      'on the edge',
      { kind: 'stays on track', track: 'left', withinMm: 25, share: 0.95 },
      driven([1, 2, 3], { x: 480 }),
      ['holds', 20],
    ],
    [
      'off the edge',
      { kind: 'stays on track', track: 'left', withinMm: 25, share: 0.95 },
      driven([1, 2, 3], { x: 530 }),
      ['broken', -20],
    ],
    [
      'places in order',
      { kind: 'visits', zones: ['a', 'b'] },
      driven([100, 300, 500], { x: 500 }),
      ['holds', 100],
    ],
    [
      'places in another order',
      { kind: 'visits', zones: ['b', 'a'] },
      driven([100, 300, 500], { x: 500 }),
      ['broken', -100],
    ],
    ['no fast driving', { kind: 'no faster', mmPerS: 150 }, upTo(500), ['broken', -50]],
    ['a way', { kind: 'travels', atLeastMm: 300 }, upTo(500), ['holds', 100]],
    ['at rest at first', { kind: 'stands until', seconds: 2 }, driven([100, 100, 100, 200]), ['broken', -99]],
  ])('%s', (_, expectation, run, wanted) => {
    expect(verdict(expectation, run)).toEqual(wanted);
  });

  it('waits while a box is there and goes on after it has left', () => {
    const waits: Expectation = { kind: 'waits for', box: 'ferry', withinS: 2 };
    // The front is 100 mm ahead; the ferry begins at 680.
    expect(verdict(waits, driven([400, 500, 540, 540, 540, 600, 700], { x: 500 }))[0]).toBe('holds');
    expect(verdict(waits, driven([400, 500, 540, 540, 540, 540, 540, 540, 600, 700], { x: 500 }))[0]).toBe(
      'broken',
    );
    expect(verdict(waits, driven([400, 600, 700, 700, 700, 800], { x: 500 }))[0]).toBe('broken');
    // A record that ends before it has left says nothing.
    expect(verdict(waits, driven([400, 500, 540], { x: 500 }))[0]).toBe('cannot tell');
  });

  it('reverses after bumps, and cannot tell where there was none', () => {
    const backs: Expectation = { kind: 'backs off after bumps', atLeastMm: 100 };
    const bumped = (ys: number[]) =>
      driven(ys, { x: 200, signals: { K1: ys.map((y) => (y >= 300 ? 1 : 0)) } });
    expect(verdict(backs, bumped([100, 200, 300, 310, 250, 150, 150, 250, 260]))[0]).toBe('holds');
    expect(verdict(backs, bumped([100, 200, 300, 310, 290, 280, 280, 290, 295]))[0]).toBe('broken');
    expect(verdict(backs, bumped([100, 150, 200, 250, 250, 250]))[0]).toBe('cannot tell');
  });

  it('asks for something soon after something else, each time, and not beyond the record', () => {
    const soon: Expectation = {
      kind: 'soon after',
      seconds: 1,
      when: { is: 'pressed', socket: 'K1' },
      then: { is: 'stands' },
    };
    const run = (ys: number[], K1: number[]) => driven(ys, { x: 200, signals: { K1 } });
    expect(verdict(soon, run([0, 100, 200, 200, 200], [0, 0, 1, 0, 0]))[0]).toBe('holds');
    expect(verdict(soon, run([0, 100, 200, 300, 400, 500, 600], [0, 0, 1, 0, 0, 0, 0]))[0]).toBe('broken');
    // Nothing of what was asked is decided: the only press came too late to see what followed.
    const back: Expectation = { ...soon, then: { is: 'reverses' } };
    expect(verdict(back, run([0, 100, 200, 300], [0, 0, 0, 1]))[0]).toBe('cannot tell');
    // One press was answered; that the record ends before the answer to the next one is no fault.
    expect(verdict(soon, run([0, 100, 100, 100, 200, 300], [0, 1, 0, 0, 0, 1]))[0]).toBe('holds');
    // Without any press there is nothing that was not answered.
    expect(verdict(soon, run([0, 100, 200, 300], [0, 0, 0, 0]))[0]).toBe('holds');
    // The program is over and the robot at rest: what it did not do by then it will not do.
    const over = (ys: number[], K1: number[]) => {
      const { trace, ...rest } = run(ys, K1);
      return { ...rest, trace: { ...trace, lasts: true } };
    };
    expect(verdict(back, over([0, 100, 200, 200], [0, 0, 0, 1]))[0]).toBe('broken');
    expect(verdict(soon, over([0, 100, 200, 200], [0, 0, 0, 1]))[0]).toBe('holds');
  });

  it('never passes on what the record does not hold', () => {
    const bare: Trace = { timesS: Float32Array.from([0, 1]), signals: {} };
    const { scene } = driven([0, 1]);
    for (const { fresh } of expectationChoices) {
      const e = fresh({
        ...course,
        rim: 'drop',
        landmarks: [{ id: 'l', name: 'l', ...at(0, 0), bearingDeg: 0 }],
      });
      if (!e || e.kind === 'shows' || e.kind === 'shows in order' || e.kind === 'still running') continue;
      expect([e.kind, judge(e, evidenceFor(bare, scene, [e])).verdict]).toEqual([e.kind, 'cannot tell']);
    }
  });

  it('every kind that fits a course has a sentence, a formula that reads back, and a scale', () => {
    for (const family of courseFamilies) {
      const built = buildCourse(family);
      for (const { fresh, kind } of expectationChoices) {
        const e = fresh(built);
        if (!e) continue;
        expect(sentence(e, built).length).toBeGreaterThan(8);
        const formula = formulaOf(e)!;
        expect([kind, readFormula(formulaText(formula))]).toEqual([kind, { ok: true, value: formula }]);
        expect(relativeMargin(e, 1)).toBeGreaterThan(0);
      }
    }
  });

  it('tells a signal by its name, and none that nobody knows', () => {
    const { trace, scene } = driven([100, 300, 500]);
    expect(signalOf('travelled', trace, scene)!.values.at(-1)).toBe(400);
    for (const name of ['off nowhere', 'in nowhere', 'constructor', 'past x', 'what is that'])
      expect([name, signalOf(name, trace, scene)]).toEqual([name, null]);
  });
});

describe('formulas of one’s own', () => {
  it.each([
    'always speed < 200',
    'eventually[0, 5] "gap ahead" < 15 cm',
    'always (K1 > 0.5 -> eventually[0, 0.3] speed < 5)',
    '(travelled < 10 cm) until turned > 80',
    'for 95 % (speed > 1 or not speed > 100)',
    '"or" < 15 cm or "until" > 2',
    'always[2, end] (turning < 15 and turning > -15)',
  ])('%s is read, and written as it is meant', (text) => {
    const read = readFormula(text);
    expect(read.ok).toBe(true);
    if (read.ok) expect(readFormula(formulaText(read.value))).toEqual(read);
  });

  it.each([
    ['', 'empty'],
    ['always', 'signal is missing'],
    ['speed <', 'number is missing'],
    ['speed 5', '< or > is missing'],
    ['always[5 2] speed < 1', 'Before “2” a “,” is missing'],
    ['for 95 speed < 1', 'a “%” is missing'],
    ['speed < 5 apples', '“apples” is no unit'],
    ['or < 5', '“or” stands where a signal'],
    ['always[5, 2] speed < 1', 'run forwards'],
    ['speed < 5 )', 'does not belong'],
    ['(speed < 5', '“)” is missing'],
    ['speed < 5; drop', 'not understood'],
    [`${'('.repeat(300)}speed < 1${')'.repeat(300)}`, 'nested too deeply'],
    ['x'.repeat(2000), 'at most'],
  ])('%s: one sentence says why not', (text, says) => {
    const read = readFormula(text);
    expect(read.ok ? '' : read.says).toContain(says);
  });

  it('takes lengths in their own unit, whatever the signal’s', () => {
    const { trace } = driven([0, 1]);
    trace.signals.far = { unit: 'cm', values: Float32Array.from([15, 15]) };
    const e = (formula: string): Expectation => ({ kind: 'formula', says: 'x', formula });
    expect(judge(e('always far < 160 mm'), trace).margin).toBeCloseTo(1, 5);
    expect(judge(e('always far < 6 in'), trace).margin).toBeCloseTo(0.24, 5);
  });

  it('cannot be crashed by any text', () => {
    fc.assert(fc.property(fc.string({ maxLength: 60 }), (text) => typeof readFormula(text).ok === 'boolean'));
  });

  it('the family that a name does not fit is a slip', () =>
    expect(() => familyOf('nowhere')).toThrow(RangeError));
});
