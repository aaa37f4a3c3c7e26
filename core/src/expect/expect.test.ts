import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { stopLine } from '../course/index.ts';
import type { Trace } from '../sim/index.ts';
import {
  judgeByHand,
  type Answers,
  judge,
  pastSignal,
  restTime,
  sentence,
  sumUp,
  signalOf,
  type Expectation,
  type JudgedRun,
} from './index.ts';
import { runsToReach, wilson } from '../statistics/index.ts';

const course = stopLine({
  name: 't',
  base: { name: 'boards', reflectance: 0.8 },
  line: { name: 'tide line', reflectance: 0.2 },
  lineWidthMm: 18,
  approachMm: 300,
});
const stops: Expectation = { kind: 'stops past', landmark: 'near-edge', withinMm: 30 };
const rests: Expectation = { kind: 'comes to rest' };
const done: Expectation = { kind: 'done within', seconds: 10 };

function traceOf(past: number[], speed: number[], dt = 1): Trace {
  return {
    timesS: Float32Array.from(past, (_, i) => i * dt),
    signals: {
      [pastSignal('near-edge')]: { unit: 'mm', values: Float32Array.from(past) },
      speed: { unit: 'mm/s', values: Float32Array.from(speed) },
    },
  };
}

describe('expectations as sentences', () => {
  it('read as a teacher writes them', () => {
    expect([stops, rests, done].map((e) => sentence(e, course))).toEqual([
      'Stops within 30 mm past the near edge of the tide line',
      'Comes to rest',
      'Is done within 10 s',
    ]);
  });

  it.each<[string, number[], string, number]>([
    ['well inside', [-200, 0, 12, 12], 'holds', 12],
    ['near the far limit', [-200, 0, 27, 27], 'holds', 3],
    ['too far', [-200, 0, 71, 71], 'broken', -41],
    ['short of the edge', [-200, -100, -40, -40], 'broken', -40],
  ])('a stop %s', (_, past, verdict, margin) => {
    const judged = judge(stops, traceOf(past, [100, 100, 0, 0]));
    expect([judged.verdict, judged.margin, judged.unit]).toEqual([verdict, margin, 'mm']);
  });

  it('says where it stopped and by how much', () => {
    expect(judge(stops, traceOf([0, 71], [9, 0])).says).toBe('71 mm past the edge, 41 mm too far');
    expect(judge(stops, traceOf([0, -40], [9, 0])).says).toBe('40 mm short of the edge');
    expect(judge(stops, traceOf([0, 18], [9, 0])).says).toBe('18 mm past the edge, 12 mm to spare');
  });

  it('a robot that passes the right place but rolls on has not come to rest', () => {
    expect(judge(rests, traceOf([0, 12, 200], [100, 100, 100]))).toMatchObject({
      verdict: 'broken',
      says: 'still moving at 100 mm/s at the end',
    });
    expect(judge(rests, traceOf([0, 12], [100, 0.2])).verdict).toBe('holds');
  });

  it('is done when it came to its last rest, not when it paused', () => {
    const paused = traceOf([0, 1, 1, 2, 3, 3], [10, 0, 0, 10, 0, 0]);
    expect(restTime(paused)).toBe(4);
    expect(judge(done, paused)).toMatchObject({ verdict: 'holds', margin: 6 });
    expect(judge({ kind: 'done within', seconds: 3 }, paused)).toMatchObject({
      verdict: 'broken',
      margin: -1,
    });
  });

  it('cannot tell whether a record that ends early would have been in time', () => {
    expect(judge(done, traceOf([0, 1], [10, 10]))).toMatchObject({ verdict: 'cannot tell', margin: null });
    // Still moving after more than the limit: surely too late.
    expect(judge({ kind: 'done within', seconds: 1 }, traceOf([0, 1, 2, 3], [9, 9, 9, 9]))).toMatchObject({
      verdict: 'broken',
      margin: -2,
    });
  });

  it('cannot tell what the record does not hold: never a pass', () => {
    const bare: Trace = { timesS: Float32Array.from([0, 1]), signals: {} };
    expect([stops, rests, done].map((e) => judge(e, bare).verdict)).toEqual([
      'cannot tell',
      'cannot tell',
      'cannot tell',
    ]);
  });
});

describe('measured on the floor', () => {
  const measured: Answers = { 'past near-edge': 22, rested: true };
  it('is judged by the same sentences; a time not taken cannot be told', () => {
    const verdicts = (answers: Answers) => [stops, rests, done].map((e) => judgeByHand(e, answers).verdict);
    expect(verdicts(measured)).toEqual(['holds', 'holds', 'cannot tell']);
    expect(verdicts({ ...measured, took: 4 })).toEqual(['holds', 'holds', 'holds']);
    expect(verdicts({ ...measured, took: 12 })).toEqual(['holds', 'holds', 'broken']);
    expect(verdicts({ 'past near-edge': 40, rested: false })).toEqual(['broken', 'broken', 'cannot tell']);
  });
});

describe('landmarks', () => {
  it('measure from the watching sensor, along the landmark’s bearing', () => {
    const pose = (y: number): Trace => ({
      timesS: Float32Array.from([0]),
      signals: {
        x: { unit: 'mm', values: Float32Array.from([200]) },
        y: { unit: 'mm', values: Float32Array.from([y]) },
        bearing: { unit: 'deg', values: Float32Array.from([0]) },
      },
    });
    const scene = {
      course,
      watcher: { aheadMm: 80, rightMm: 0 },
      outline: { lengthMm: 190, widthMm: 150, axleFromFrontMm: 112, trackMm: 120 },
      events: [],
      laterS: 0,
      programOverS: null,
      bumpers: [],
    };
    const past = (y: number) => signalOf(pastSignal('near-edge'), pose(y), scene)!.values[0];
    expect([past(370), past(382)]).toEqual([0, 12]);
  });
});

describe('pass rates', () => {
  // Newcombe 1998, Statistics in Medicine 17:857–872, Table I, method 3; Wilson 1927.
  it.each([
    [81, 263, 0.255288519878274, 0.3662095769828],
    [0, 20, 0, 0.161125158052819],
    [19, 20, 0.763868806553258, 0.991118551199205],
    [20, 20, 0.838874841947181, 1],
    [8, 10, 0.490162471536642, 0.943317848545625],
  ])('%d of %d lie between %d and %d', (x, n, low, high) => {
    const interval = wilson(x, n);
    expect(interval.low).toBeCloseTo(low, 9);
    expect(interval.high).toBeCloseTo(high, 9);
  });

  it('refuse what is no count', () => {
    expect(() => wilson(3, 0)).toThrow(RangeError);
    expect(() => wilson(5, 4)).toThrow(RangeError);
  });

  it('hold the rate itself, and narrow with more runs', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, p) => {
        const x = Math.round(p * n);
        const [one, four] = [wilson(x, n), wilson(4 * x, 4 * n)];
        return (
          one.low <= x / n + 1e-12 &&
          one.high >= x / n - 1e-12 &&
          four.high - four.low <= one.high - one.low + 1e-12
        );
      }),
    );
  });
});

describe('a proof', () => {
  const run = (seed: number, past: number, speed = 0): JudgedRun => {
    const trace = traceOf([0, past, past], [100, speed, speed]);
    return { seed, judgements: [stops, rests, done].map((e) => judge(e, trace)) };
  };
  const many = (good: number, bad: number) => [
    ...Array.from({ length: good }, (_, i) => run(i, 10 + i / 10)),
    ...Array.from({ length: bad }, (_, i) => run(100 + i, 50 + i)),
  ];
  const verdict = (good: number, bad: number) => sumUp(many(good, bad), [stops, rests, done], 0.8).verdict;

  it('is proved, shaky or failed by its interval, not by its rate', () => {
    expect(verdict(20, 0)).toBe('proved');
    // 10 of 10 cannot be proof of 80 %: the interval reaches down to 72 %; 16 of 16 can (Wilson 1927).
    expect(verdict(10, 0)).toBe('cannot tell');
    expect([runsToReach(0.8), verdict(15, 0), verdict(16, 0)]).toEqual([16, 'cannot tell', 'proved']);
    expect(wilson(34, 34).low).toBeLessThan(0.9);
    expect([runsToReach(0.9), wilson(35, 35).low > 0.9]).toEqual([35, true]);
    expect(verdict(19, 1)).toBe('shaky');
    expect(verdict(5, 15)).toBe('fails');
  });

  it('names the worst run and each sentence’s worst margin', () => {
    const proof = sumUp(many(3, 3), [stops, rests, done], 0.8);
    expect(proof.worstSeed).toBe(102);
    expect(proof.each[0]).toMatchObject({ passes: 3, worstMargin: -22, unit: 'mm' });
    expect(proof.each[1]).toMatchObject({ passes: 6 });
  });

  it('cannot tell when some runs could not be judged and none is broken', () => {
    const short: JudgedRun = {
      seed: 9,
      judgements: [stops, rests, done].map((e) => judge(e, { timesS: Float32Array.from([0]), signals: {} })),
    };
    expect(sumUp([...many(20, 0), short], [stops, rests, done], 0.8).verdict).toBe('cannot tell');
    expect(sumUp([], [stops], 0.8).verdict).toBe('cannot tell');
  });
});
