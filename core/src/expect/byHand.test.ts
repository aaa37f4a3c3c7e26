import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Course, Zone } from '../course/index.ts';
import { lesson } from '../test/index.ts';
import {
  answerFault,
  handQuestions,
  judgeByHand,
  type Answers,
  type Expectation,
  type ExpectationKind,
} from './index.ts';

const zone = (id: string): Zone => ({ id, name: id, kind: 'disc', centre: { xMm: 0, yMm: 0 }, radiusMm: 50 });
const course: Course = { ...lesson.course, zones: [zone('dock'), zone('pier')] };

/** One sentence of each kind, an answer that keeps it, and one that breaks it; null where a person cannot tell. */
const cases: {
  [K in ExpectationKind]:
    [Extract<Expectation, { kind: K }>, Answers, Answers] | [Extract<Expectation, { kind: K }>];
} = {
  'stops past': [
    { kind: 'stops past', landmark: 'near-edge', withinMm: 30 },
    { 'past near-edge': 30 },
    { 'past near-edge': -1 },
  ],
  'ends with gap': [{ kind: 'ends with gap', gapMm: 150, toleranceMm: 20 }, { gap: 170 }, { gap: 171 }],
  'backs off by': [{ kind: 'backs off by', byMm: 100, toleranceMm: 10 }, { backed: 92 }, { backed: 80 }],
  'comes to rest': [{ kind: 'comes to rest' }, { rested: true }, { rested: false }],
  'done within': [
    { kind: 'done within', seconds: 10 },
    { took: 10, rested: true },
    { took: 10.5, rested: true },
  ],
  'still running': [{ kind: 'still running', seconds: 30 }, { 'at work 30': true }, { 'at work 30': false }],
  'never touches': [{ kind: 'never touches' }, { touched: false }, { touched: true }],
  'never over the edge': [
    { kind: 'never over the edge' },
    { 'over the edge': false },
    { 'over the edge': true },
  ],
  shows: [{ kind: 'shows', text: 'done' }, { 'shows done': true }, { 'shows done': false }],
  'shows in order': [
    { kind: 'shows in order', texts: ['a', 'b'] },
    { 'shows a > b': true },
    { 'shows a > b': false },
  ],
  counts: [{ kind: 'counts', count: 5, tolerance: 0 }, { count: 5 }, { count: 6 }],
  'net turn': [{ kind: 'net turn', deg: -90, toleranceDeg: 5 }, { turned: -94 }, { turned: 90 }],
  'holds bearing': [{ kind: 'holds bearing', deg: 0, withinDeg: 5, fromS: 2, share: 0.9 }],
  'stays on track': [{ kind: 'stays on track', track: 't', withinMm: 20, share: 0.9 }],
  visits: [
    { kind: 'visits', zones: ['dock', 'pier'] },
    { 'visits dock > pier': true },
    { 'visits dock > pier': false },
  ],
  'ends in': [{ kind: 'ends in', zone: 'dock' }, { 'in dock': true }, { 'in dock': false }],
  'waits for': [
    { kind: 'waits for', box: 'boat', withinS: 2 },
    { 'waits boat': true },
    { 'waits boat': false },
  ],
  'keeps clear': [{ kind: 'keeps clear', roomMm: 50 }, { nearest: 60 }, { nearest: 40 }],
  bumps: [{ kind: 'bumps', atLeast: 3 }, { bumps: 3 }, { bumps: 2 }],
  'backs off after bumps': [
    { kind: 'backs off after bumps', atLeastMm: 50 },
    { 'back after bumps': 60 },
    { 'back after bumps': 0 },
  ],
  'soon after': [
    { kind: 'soon after', seconds: 2, when: { is: 'pressed', socket: 'K1' }, then: { is: 'reverses' } },
    { 'soon 2 [{"is":"pressed","socket":"K1"},{"is":"reverses"}]': true },
    { 'soon 2 [{"is":"pressed","socket":"K1"},{"is":"reverses"}]': false },
  ],
  'stands until': [{ kind: 'stands until', seconds: 3 }, { 'stood 3': true }, { 'stood 3': false }],
  travels: [{ kind: 'travels', atLeastMm: 1500 }, { way: 1500 }, { way: 1490 }],
  'no faster': [{ kind: 'no faster', mmPerS: 200 }],
  'does not roll on': [{ kind: 'does not roll on', withinMm: 20 }, { rolled: 10 }, { rolled: 30 }],
  'pushes out': [{ kind: 'pushes out', zone: 'pier' }, { 'out pier': true }, { 'out pier': false }],
  formula: [{ kind: 'formula', says: 'Stays slow', formula: 'always speed < 200' }],
};
const all = Object.values(cases).map(([e]) => e);
const verdictOf = (e: Expectation, answers: Answers) => judgeByHand(e, answers).verdict;

describe('judged by hand', () => {
  it.each(Object.entries(cases))(
    '“%s” asks for what tells it, and is told by that',
    (_, [e, keeps, breaks]) => {
      const questions = handQuestions([e], course);
      if (keeps === undefined) {
        expect(questions).toEqual([]);
        return;
      }
      const keys = questions.map(({ key }) => key);
      for (const answers of [keeps, breaks!]) {
        expect(keys).toEqual(expect.arrayContaining(Object.keys(answers)));
        for (const question of questions) {
          const answer = answers[question.key];
          if (answer !== undefined) expect(answerFault(question, answer)).toBeNull();
        }
      }
      expect([verdictOf(e, keeps), verdictOf(e, breaks!)]).toEqual(['holds', 'broken']);
    },
  );

  it('tells nothing of a sentence by what answers others: a missing answer is never a pass', () => {
    for (const e of all) {
      expect([e.kind, verdictOf(e, {})]).toEqual([e.kind, 'cannot tell']);
      const own = new Set(handQuestions([e], course).map(({ key }) => key));
      const others = Object.assign({}, ...Object.values(cases).map(([, keeps]) => keeps)) as Answers;
      const rest = Object.fromEntries(Object.entries(others).filter(([key]) => !own.has(key)));
      // Nearness tells of touching; nothing else tells of anything else.
      if (e.kind !== 'never touches') expect([e.kind, verdictOf(e, rest)]).toEqual([e.kind, 'cannot tell']);
    }
  });

  it('asks each thing once, and names places as the course does', () => {
    const questions = handQuestions([...all, ...all], course);
    expect(new Set(questions.map(({ key }) => key)).size).toBe(questions.length);
    const asks = questions.map(({ asks: words }) => words);
    expect(asks).toContain('it came to the dock, then the pier');
    expect(asks).toContain('it ended in the dock');
    // Too quick for an eye, or what only the robot reads: not asked.
    const quick = {
      kind: 'soon after',
      seconds: 0.3,
      when: { is: 'moves' },
      then: { is: 'stands' },
    } as const;
    const reads = { is: 'reads', socket: 'K3', op: '<', value: 4 } as const;
    expect(handQuestions([quick, { ...quick, seconds: 5, when: reads }], course)).toEqual([]);
  });

  it('refuses what is out of bounds, in the unit that is asked for', () => {
    const [gap] = handQuestions([cases['ends with gap'][0]], course);
    expect(answerFault(gap!, 3010)).toBe('Centimetres by ruler, 0 to 300.');
    expect(answerFault(gap!, -1)).toMatch(/0 to 300/);
    expect(answerFault(gap!, NaN)).toMatch(/0 to 300/);
    expect(answerFault(gap!, true)).toMatch(/0 to 300/);
    const [turn] = handQuestions([cases['net turn'][0]], course);
    expect([answerFault(turn!, -90), answerFault(turn!, -1081)]).toEqual([
      null,
      'Degrees by protractor, 0 to 1080.',
    ]);
    const [touched] = handQuestions([cases['never touches'][0]], course);
    expect(answerFault(touched!, 3)).toMatch(/yes or no/);
  });

  it('never crashes and never passes by answers that nobody asked for', () => {
    const answer = fc.oneof(fc.boolean(), fc.double({ min: -1e5, max: 1e5, noNaN: true }));
    const strange = fc.dictionary(
      fc.oneof(
        fc.string({ maxLength: 12 }),
        fc.constantFrom('constructor', '__proto__', 'past ', 'clock', 'speed', 'room'),
      ),
      answer,
      { maxKeys: 6 },
    );
    fc.assert(
      fc.property(fc.constantFrom(...all), strange, (e, answers) => {
        const asked = handQuestions([e], course).map(({ key }) => key);
        const unasked = Object.fromEntries(Object.entries(answers).filter(([key]) => !asked.includes(key)));
        if (e.kind !== 'never touches') expect(verdictOf(e, unasked)).toBe('cannot tell');
      }),
      { numRuns: 500 },
    );
  });
});
