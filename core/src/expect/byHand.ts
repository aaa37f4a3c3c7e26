import type { Course } from '../course/index.ts';
import { formatNumber } from '../quantity/index.ts';
import type { Signal, Trace } from '../sim/index.ts';
import { judge } from './expectation.ts';
import { pastSignal } from './signalNames.ts';
import type { Expectation, ExpectationKind, Judgement } from './sentences.ts';
import { happeningWords, templateOf } from './templates/index.ts';

/** What a team measured or saw of one run on the floor, by the key of what was asked: mm, degrees, s, counts, or yes and no. */
export type Answers = Readonly<Record<string, number | boolean>>;

export const handUnits = ['mm', 'cm', 'deg', 's', ''] as const;

/** A number that is measured after a run. The answer is in mm, degrees, s or counts; `perUnit` of it make one of `unit`. */
export interface NumberQuestion {
  kind: 'number';
  key: string;
  asks: string;
  /** The same in a word, for tables. */
  word: string;
  unit: (typeof handUnits)[number];
  perUnit: number;
  tool: 'ruler' | 'protractor' | 'counting' | 'stopwatch';
  /** Bounds in `unit`, of the amount. */
  least: number;
  most: number;
  /** What its two ways are called; minus is the second. */
  ways?: { legend: string; plus: string; minus: string };
}
/** Something that whoever watched the run has seen or has not. */
export interface SeenQuestion {
  kind: 'seen';
  key: string;
  asks: string;
}
export type HandQuestion = NumberQuestion | SeenQuestion;

const number = (
  key: string,
  asks: string,
  rest: Pick<NumberQuestion, 'word' | 'unit' | 'tool' | 'most'> & Partial<NumberQuestion>,
): NumberQuestion => ({
  kind: 'number',
  key,
  asks,
  perUnit: rest.unit === 'cm' ? 10 : 1,
  least: 0,
  ...rest,
});

/** Questions whose answers stand in columns of their own, and which a lesson may ask without a sentence about them. */
export const pastKey = (landmark: string): string => `past ${landmark}`;
export const askPast = (landmark: string, course?: Course): NumberQuestion =>
  number(
    pastKey(landmark),
    `from the ${course?.landmarks.find(({ id }) => id === landmark)?.name ?? 'edge'} to under the sensor`,
    {
      word: '',
      unit: 'mm',
      tool: 'ruler',
      most: 2000,
      ways: { legend: 'the sensor stands', plus: 'past it', minus: 'short of it' },
    },
  );
export const askGap = number('gap', 'gap to what is ahead', {
  word: 'gap',
  unit: 'cm',
  tool: 'ruler',
  most: 300,
});
export const askTurn = number('turned', 'turned by', {
  word: 'turned',
  unit: 'deg',
  tool: 'protractor',
  most: 1080,
  ways: { legend: 'turned to the', plus: 'right', minus: 'left' },
});
export const askCount = number('count', 'number it shows at the end', {
  word: 'shows',
  unit: '',
  tool: 'counting',
  most: 1000,
});
const askTook = number('took', 'time until it stood', {
  word: 'took',
  unit: 's',
  tool: 'stopwatch',
  most: 600,
});
const askRested: SeenQuestion = { kind: 'seen', key: 'rested', asks: 'it came to rest by itself' };
const askTouched: SeenQuestion = { kind: 'seen', key: 'touched', asks: 'it touched a wall or a box' };

type Of<K extends ExpectationKind> = Extract<Expectation, { kind: K }>;
const nameOf = (list: readonly { id: string; name: string }[] | undefined, id: string): string =>
  list?.find((item) => item.id === id)?.name ?? id;
const inOrder = (texts: readonly string[]) => texts.map((text) => `“${text}”`).join(', then ');

/** What is asked of whoever watched so that a sentence can be judged, and which answer keeps it. */
interface Seen<E> {
  key: (e: E) => string;
  asks: (e: E, course: Course) => string;
  /** The answer that keeps the sentence. */
  keeps: boolean;
}
/** Sentences that are told by looking: a person sees them kept or broken, without a margin. */
const seenBy: { [K in ExpectationKind]?: Seen<Of<K>> } = {
  'comes to rest': { key: () => 'rested', asks: () => askRested.asks, keeps: true },
  'never touches': { key: () => 'touched', asks: () => askTouched.asks, keeps: false },
  'never over the edge': {
    key: () => 'over the edge',
    asks: () => 'a wheel went over the edge',
    keeps: false,
  },
  shows: {
    key: ({ text }) => `shows ${text}`,
    asks: ({ text }) => `it shows “${text}” at the end`,
    keeps: true,
  },
  'shows in order': {
    key: ({ texts }) => `shows ${texts.join(' > ')}`,
    asks: ({ texts }) => `it showed ${inOrder(texts)}`,
    keeps: true,
  },
  'still running': {
    key: ({ seconds }) => `at work ${seconds}`,
    asks: ({ seconds }) => `it was still at work after ${formatNumber(seconds)} s`,
    keeps: true,
  },
  'stands until': {
    key: ({ seconds }) => `stood ${seconds}`,
    asks: ({ seconds }) => `it stood still for the first ${formatNumber(seconds)} s`,
    keeps: true,
  },
  visits: {
    key: ({ zones }) => `visits ${zones.join(' > ')}`,
    asks: ({ zones }, course) =>
      `it came to ${zones.map((id) => `the ${nameOf(course.zones, id)}`).join(', then ')}`,
    keeps: true,
  },
  'ends in': {
    key: ({ zone }) => `in ${zone}`,
    asks: ({ zone }, course) => `it ended in the ${nameOf(course.zones, zone)}`,
    keeps: true,
  },
  'waits for': {
    key: ({ box }) => `waits ${box}`,
    asks: ({ box, withinS }, course) =>
      `it waited for the ${nameOf(course.boxes, box)} and went on within ${formatNumber(withinS)} s`,
    keeps: true,
  },
  'pushes out': {
    key: ({ zone }) => `out ${zone}`,
    asks: ({ zone }, course) => `the other robot was pushed out of the ${nameOf(course.zones, zone)}`,
    keeps: true,
  },
  'soon after': {
    key: ({ seconds, when, then }) => `soon ${seconds} ${JSON.stringify([when, then])}`,
    asks: ({ seconds, when, then }, course) =>
      `each time ${happeningWords(when, course)}, within ${formatNumber(seconds)} s ${happeningWords(then, course)}`,
    keeps: true,
  },
};

/** Numbers that a sentence is judged by. */
function numbersFor(e: Expectation, course?: Course): NumberQuestion[] {
  switch (e.kind) {
    case 'stops past':
      return [askPast(e.landmark, course)];
    case 'ends with gap':
      return [askGap];
    case 'backs off by':
      return [
        number('backed', 'way back from its nearest', { word: 'back', unit: 'cm', tool: 'ruler', most: 300 }),
      ];
    case 'done within':
      return [askTook];
    case 'counts':
      return [askCount];
    case 'net turn':
      return [askTurn];
    case 'bumps':
      return [
        number('bumps', 'times it bumped into something', {
          word: 'bumps',
          unit: '',
          tool: 'counting',
          most: 200,
        }),
      ];
    case 'backs off after bumps':
      return [
        number('back after bumps', 'shortest way back after a bump', {
          word: 'back',
          unit: 'cm',
          tool: 'ruler',
          most: 300,
        }),
      ];
    case 'travels':
      return [number('way', 'way it went', { word: 'way', unit: 'cm', tool: 'ruler', most: 10_000 })];
    case 'keeps clear':
      return [
        number('nearest', 'nearest to a wall or a box', {
          word: 'nearest',
          unit: 'cm',
          tool: 'ruler',
          most: 300,
        }),
      ];
    case 'does not roll on':
      return [
        number('rolled', 'rolled on after the end', {
          word: 'rolled',
          unit: 'mm',
          tool: 'ruler',
          most: 2000,
        }),
      ];
    default:
      return [];
  }
}

/** Eyes are too slow for less than this, s. */
const SEEN_WITHIN_S = 1;

/** Whether a sentence is judged by a number. */
const isMeasured = (e: Expectation): boolean => numbersFor(e).length > 0;

/** Looks up what is to be seen for a sentence; undefined where looking does not tell. */
function seenFor(e: Expectation): Seen<Expectation> | undefined {
  if (
    e.kind === 'soon after' &&
    (e.seconds < SEEN_WITHIN_S || e.when.is === 'reads' || e.then.is === 'reads')
  )
    return undefined;
  return seenBy[e.kind] as Seen<Expectation> | undefined;
}

/**
 * What is asked after a run on the floor so that the sentences can be judged by hand, each thing once. Some cannot be told by hand:
 * how long it was near a track, what its sensor read.
 */
export function handQuestions(expectations: readonly Expectation[], course: Course): HandQuestion[] {
  const all = expectations.flatMap((e): HandQuestion[] => {
    const seen = seenFor(e);
    return [
      ...numbersFor(e, course),
      ...(seen ? [{ kind: 'seen' as const, key: seen.key(e), asks: seen.asks(e, course) }] : []),
      // A time until it stood says nothing of a robot that somebody stopped.
      ...(e.kind === 'done within' ? [askRested] : []),
    ];
  });
  return [...new Map(all.map((question) => [question.key, question])).values()];
}

/** What is wrong with an answer, in a sentence; null for nothing. */
export function answerFault(question: HandQuestion, answer: number | boolean): string | null {
  if (question.kind === 'seen')
    return typeof answer === 'boolean' ? null : `Whether ${question.asks}: yes or no.`;
  const { unit, perUnit, least, most, tool, ways } = question;
  const amount = typeof answer === 'number' ? answer / perUnit : NaN;
  const good = ways
    ? Math.abs(amount) <= most && Math.abs(amount) >= least
    : amount <= most && amount >= least;
  if (good) return null;
  const units = { mm: 'Millimetres', cm: 'Centimetres', deg: 'Degrees', s: 'Seconds', '': 'A number' }[unit];
  return `${units} by ${tool}, ${least} to ${most}.`;
}

/** The signals of a run that answers are told as: what is measured at the end. */
const signalFor: Record<string, { name: string; unit: string }> = {
  gap: { name: 'gap ahead', unit: 'mm' },
  turned: { name: 'turned', unit: 'deg' },
  count: { name: 'number shown', unit: '' },
  backed: { name: 'backed', unit: 'mm' },
  bumps: { name: 'bumps', unit: '' },
  'back after bumps': { name: 'backs off', unit: 'mm' },
  way: { name: 'travelled', unit: 'mm' },
  nearest: { name: 'room', unit: 'mm' },
  rolled: { name: 'rolled on', unit: 'mm' },
};
const PAST = pastKey('');

/**
 * Answers as a trace of as many samples as are known: the same sentences judge it. What was not answered is left out, so that what
 * needs it cannot be told.
 */
export function evidenceOfAnswers(answers: Answers, forTime = false): Trace {
  const { took, rested } = answers;
  const timesS = typeof took === 'number' ? [0, took] : [0];
  const row = (values: number[]) => Float32Array.from(values.slice(-timesS.length));
  const signals: Record<string, Signal> = {};
  for (const [key, value] of Object.entries(answers)) {
    if (typeof value !== 'number') continue;
    const known = key.startsWith(PAST)
      ? { name: pastSignal(key.slice(PAST.length)), unit: 'mm' }
      : signalFor[key];
    if (known) signals[known.name] = { unit: known.unit, values: row([value, value]) };
  }
  // Whoever took the time saw it move off and, where it did, stand: nothing else is said of its speed.
  if (forTime && typeof rested === 'boolean')
    signals.speed = { unit: 'mm/s', values: row([100, rested ? 0 : 100]) };
  if (typeof took === 'number') signals.clock = { unit: 's', values: row([0, took]) };
  return { timesS: Float32Array.from(timesS), ...(rested === true ? { lasts: true } : {}), signals };
}

/** Judges a sentence by what was measured and seen. What a person saw has no margin; what nobody answered cannot be told. */
export function judgeByHand(expectation: Expectation, answers: Answers): Judgement {
  const seen = seenFor(expectation);
  const answer =
    seen && Object.hasOwn(answers, seen.key(expectation)) ? answers[seen.key(expectation)] : undefined;
  if (seen && typeof answer === 'boolean')
    return {
      verdict: answer === seen.keeps ? 'holds' : 'broken',
      margin: null,
      unit: templateOf(expectation).unit,
      says: `by eye: ${answer ? 'yes' : 'no'}`,
    };
  const judged = judge(expectation, evidenceOfAnswers(answers, expectation.kind === 'done within'));
  if (judged.verdict !== 'cannot tell') return judged;
  const asked = seen !== undefined || isMeasured(expectation);
  return {
    ...judged,
    says: asked ? 'it was not measured' : 'this is not told by hand: take a log of the robot',
  };
}
