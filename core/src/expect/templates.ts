import type { Course } from '../course/index.ts';
import { countOf, formatNumber } from '../quantity/index.ts';
import { REST_MM_PER_S, type Trace } from '../sim/index.ts';
import { TOUCH_MM } from './amongSolids.ts';
import { motionOf, restTime } from './derived.ts';
import {
  goesOnSignal,
  inSignal,
  nearSignal,
  offSignal,
  opponentInSignal,
  pastSignal,
  showsSignal,
  thereSignal,
} from './signalNames.ts';
import type { Expectation, ExpectationKind, Happening } from './sentences.ts';
import {
  above,
  all,
  always,
  any,
  below,
  eventually,
  forShare,
  implies,
  inOrder,
  inTheEnd,
  signalsOf,
  type Formula,
} from './formula.ts';
import { readFormula } from './formulaText.ts';
import { lastOf, Standing } from './looked.ts';
import { robustness } from './robustness.ts';

type Of<K extends ExpectationKind> = Extract<Expectation, { kind: K }>;

/** What one kind of sentence means: its words, its formula, and how its outcome is told. */
export interface Template<E extends Expectation = Expectation> {
  sentence: (e: E, course: Course) => string;
  formula: (e: E) => Formula | null;
  unit: string;
  /** The unit of its margin where that depends on the evidence. */
  unitOn?: (e: E, trace: Trace) => string;
  /** What it allows, in `unit`: margins are ranked against it. */
  scale: (e: E) => number;
  /** What happened, in words. */
  tell: (e: E, trace: Trace, margin: number) => string;
  /** The trace with what only this kind needs; the trace as it is when that cannot be had. */
  prepare?: (trace: Trace, e: E) => Trace;
  /** Why it cannot be told. */
  why?: (e: E, trace: Trace) => string | undefined;
}

const mm = (value: number): string =>
  Math.abs(value) >= 100 && value % 10 === 0
    ? `${formatNumber(value / 10)} cm`
    : `${formatNumber(value, 0)} mm`;
const last = (trace: Trace, signal: string): number => lastOf(trace.signals[signal]);
/** The least of the readings that there are. */
function least(trace: Trace, signal: string): number {
  const values = trace.signals[signal]?.values;
  if (!values) return NaN;
  let best = Infinity;
  for (let i = 0; i < values.length; i++) if (values[i]! < best) best = values[i]!;
  return best;
}
const nameOf = (list: readonly { id: string; name: string }[] | undefined, id: string): string =>
  list?.find((item) => item.id === id)?.name ?? id;
const ordinal = (n: number): string => ['first', 'second', 'third', 'fourth', 'fifth'][n - 1] ?? `${n}th`;
const spare = (margin: number, unit: string, digits = 0): string =>
  `${formatNumber(Math.abs(margin), digits)} ${unit} ${margin >= 0 ? 'to spare' : 'too much'}`;
const turnedBy = (deg: number): string =>
  `${formatNumber(Math.abs(deg), 0)}° ${deg < 0 ? 'to the left' : 'to the right'}`;
/** When a signal first falls below a value, s; null when it never does. */
function firstBelow(trace: Trace, signal: string, value: number): number | null {
  const values = trace.signals[signal]?.values ?? [];
  for (let i = 0; i < values.length; i++) if (values[i]! < value) return trace.timesS[i]!;
  return null;
}

/** A signal within a tolerance of a value. */
const about = (signal: string, value: number, tolerance: number): Formula =>
  all(above(signal, value - tolerance), below(signal, value + tolerance));
const resting = below('motion', REST_MM_PER_S);
/** The trace with how fast the robot moves in any way. */
function withMotion(trace: Trace): Trace {
  if (trace.signals.motion) return trace;
  const motion = motionOf(trace);
  return motion ? { ...trace, signals: { ...trace.signals, motion } } : trace;
}
/** No wall is so far away, mm. */
const NOTHING_AHEAD_MM = 50_000;
/** What counts as shown while no number is: no count ever comes near it. */
const NOTHING_SHOWN = -1e9;
/** It moves, or reverses, when it is faster than this, mm/s. */
const MOVES_MM_PER_S = 15;

export function happeningFormula(what: Happening): Formula {
  switch (what.is) {
    case 'pressed':
      return above(what.socket, 0);
    case 'reads':
      return what.op === '<' ? below(what.socket, what.value) : above(what.socket, what.value);
    case 'past':
      return above(pastSignal(what.landmark), 0);
    case 'in zone':
      return above(inSignal(what.zone), 0);
    case 'box there':
      return above(thereSignal(what.box), 0);
    case 'moves':
      return above('speed', MOVES_MM_PER_S);
    case 'reverses':
      return below('speed', -MOVES_MM_PER_S);
    case 'stands':
      return below('motion', MOVES_MM_PER_S);
  }
}

export function happeningWords(what: Happening, course: Course): string {
  switch (what.is) {
    case 'pressed':
      return `${what.socket} is pressed`;
    case 'reads':
      return `${what.socket} reads ${what.op === '<' ? 'less' : 'more'} than ${formatNumber(what.value)}`;
    case 'past':
      return `it has passed the ${nameOf(course.landmarks, what.landmark)}`;
    case 'in zone':
      return `it is in the ${nameOf(course.zones, what.zone)}`;
    case 'box there':
      return `the ${nameOf(course.boxes, what.box)} is there`;
    case 'moves':
      return 'it moves ahead';
    case 'reverses':
      return 'it reverses';
    case 'stands':
      return 'it stands';
  }
}

/**
 * The trace with a signal `rest`: at each moment, the time at which the robot last came to rest. While it
 * still moves at the end of the trace that is at least the trace's length, so a limit within the trace is
 * surely broken and a later one cannot be told.
 */
function withRest(trace: Trace, { seconds }: { seconds: number }): Trace {
  const n = trace.timesS.length;
  const timed = n > 1 || trace.signals.clock !== undefined;
  if (!trace.signals.speed || !timed) return trace;
  const rest = restTime(trace);
  const end = trace.timesS[n - 1]!;
  if (rest === null && end <= seconds) return trace;
  return { ...trace, signals: { ...trace.signals, rest: new Standing('s', rest ?? end, n) } };
}

/** The unit that all signals of a person's own formula share; none when they differ, for a margin is then of either. */
function unitOfFormula({ formula }: Of<'formula'>, { signals }: Trace): string {
  const read = readFormula(formula);
  const names = read.ok ? signalsOf(read.value) : [];
  const found = new Set(names.map((name) => (Object.hasOwn(signals, name) ? signals[name]!.unit : '')));
  return found.size === 1 ? [...found][0]! : '';
}

const templates: { [K in ExpectationKind]: Template<Of<K>> } = {
  'stops past': {
    sentence: (e, course) =>
      `Stops within ${mm(e.withinMm)} past the ${nameOf(course.landmarks, e.landmark)}`,
    formula: (e) =>
      inTheEnd(all(above(pastSignal(e.landmark), 0), below(pastSignal(e.landmark), e.withinMm))),
    unit: 'mm',
    scale: (e) => e.withinMm / 2,
    tell: (e, trace, margin) => {
      const past = last(trace, pastSignal(e.landmark));
      const where = `${formatNumber(Math.abs(past), 0)} mm ${past < 0 ? 'short of' : 'past'} the edge`;
      const by = formatNumber(Math.abs(margin), 0);
      return margin >= 0 ? `${where}, ${by} mm to spare` : past < 0 ? where : `${where}, ${by} mm too far`;
    },
  },
  'ends with gap': {
    sentence: (e) =>
      `Ends with a gap of ${formatNumber(e.gapMm / 10)} ± ${formatNumber(e.toleranceMm / 10)} cm to what is ahead`,
    formula: (e) => inTheEnd(about('gap ahead', e.gapMm, e.toleranceMm)),
    unit: 'mm',
    scale: (e) => e.toleranceMm,
    tell: (_, trace, margin) => {
      const gap = last(trace, 'gap ahead');
      if (gap > NOTHING_AHEAD_MM) return 'nothing is ahead of it at the end';
      return `gap ${formatNumber(gap / 10)} cm, ${spare(margin / 10, 'cm', 1)}`.replace('too much', 'out');
    },
  },
  'backs off by': {
    sentence: (e) =>
      `Backs off by ${formatNumber(e.byMm / 10)} ± ${formatNumber(e.toleranceMm / 10)} cm from its nearest`,
    formula: (e) => inTheEnd(about('backed', e.byMm, e.toleranceMm)),
    unit: 'mm',
    scale: (e) => e.toleranceMm,
    tell: (_, trace, margin) => {
      const backed = last(trace, 'backed');
      if (backed > NOTHING_AHEAD_MM) return 'nothing is ahead of it at the end';
      return `backed off ${formatNumber(backed / 10)} cm, ${spare(margin / 10, 'cm', 1)}`.replace(
        'too much',
        'out',
      );
    },
  },
  'comes to rest': {
    sentence: () => 'Comes to rest',
    formula: () => inTheEnd(resting),
    prepare: withMotion,
    unit: 'mm/s',
    scale: () => REST_MM_PER_S,
    tell: (_, trace, margin) =>
      margin >= 0
        ? 'at rest at the end'
        : `still moving at ${formatNumber(last(trace, 'motion'), 0)} mm/s at the end`,
  },
  'done within': {
    sentence: (e) => `Is done within ${formatNumber(e.seconds)} s`,
    formula: (e) => inTheEnd(below('rest', e.seconds)),
    unit: 's',
    scale: (e) => e.seconds,
    prepare: withRest,
    tell: (_, trace, margin) => {
      const rest = restTime(trace);
      if (rest === null) return `still moving after ${formatNumber(trace.timesS.at(-1))} s`;
      return `done at ${formatNumber(rest)} s, ${formatNumber(Math.abs(margin), 1)} s ${margin >= 0 ? 'to spare' : 'too late'}`;
    },
    why: (_, trace) =>
      trace.signals.speed && trace.timesS.length > 1
        ? `still moving when the record ends at ${formatNumber(trace.timesS.at(-1))} s`
        : undefined,
  },
  'still running': {
    sentence: (e) => `Is still at work after ${formatNumber(e.seconds)} s`,
    formula: (e) => inTheEnd(above('running for', e.seconds - 0.05)),
    unit: 's',
    scale: (e) => e.seconds,
    tell: (_, trace, margin) =>
      margin >= 0
        ? 'still at work'
        : `its program was over, or the run was, after ${formatNumber(last(trace, 'running for'))} s`,
  },
  'never touches': {
    sentence: () => 'Never touches a wall or a box',
    formula: () => always(above('room', TOUCH_MM)),
    unit: 'mm',
    scale: () => 50,
    tell: (_, trace, margin) => {
      const at = margin < 0 ? firstBelow(trace, 'room', TOUCH_MM) : null;
      return at === null
        ? `never nearer than ${formatNumber(least(trace, 'room'), 0)} mm`
        : `touches at ${formatNumber(at)} s`;
    },
  },
  'keeps clear': {
    sentence: (e) => `Keeps ${mm(e.roomMm)} clear of walls and boxes`,
    formula: (e) => always(above('room', e.roomMm)),
    unit: 'mm',
    scale: (e) => e.roomMm,
    tell: (_, trace) => `never nearer than ${formatNumber(least(trace, 'room'), 0)} mm`,
  },
  'never over the edge': {
    sentence: () => 'Never goes over the edge',
    formula: () => always(above('edge room', 0)),
    unit: 'mm',
    scale: () => 50,
    tell: (_, trace, margin) => {
      const at = margin < 0 ? firstBelow(trace, 'edge room', 0) : null;
      return at === null
        ? `a wheel came within ${formatNumber(least(trace, 'edge room'), 0)} mm of the edge`
        : `goes over the edge at ${formatNumber(at)} s`;
    },
  },
  shows: {
    sentence: (e) => `Shows “${e.text}” at the end`,
    formula: (e) => inTheEnd(above(showsSignal(e.text), 0)),
    unit: '',
    scale: () => 1,
    tell: (e, _, margin) => (margin >= 0 ? `shows “${e.text}”` : `does not show “${e.text}” at the end`),
  },
  'shows in order': {
    sentence: (e) => `Shows ${e.texts.map((text) => `“${text}”`).join(', then ')}`,
    formula: (e) => inOrder(...e.texts.map((text) => above(showsSignal(text), 0))),
    unit: '',
    scale: () => 1,
    tell: (e, trace, margin) => {
      if (margin >= 0) return 'all shown, in this order';
      const missing = e.texts.find((text) => !trace.signals[showsSignal(text)]?.values.some((v) => v > 0));
      return missing ? `never shows “${missing}”` : 'shown in another order';
    },
  },
  counts: {
    sentence: (e) =>
      `Counts ${formatNumber(e.count, 0)}${e.tolerance > 0 ? ` ± ${formatNumber(e.tolerance, 0)}` : ''}: the number shown at the end`,
    // Counts are whole: half a count of slack makes “exactly 5” a margin of a half.
    formula: (e) => inTheEnd(about('number shown', e.count, e.tolerance + 0.5)),
    unit: '',
    scale: (e) => e.tolerance + 0.5,
    tell: (_, trace) => {
      const shown = last(trace, 'number shown');
      return Number.isNaN(shown) || shown === NOTHING_SHOWN
        ? 'no number is shown at the end'
        : `shows ${formatNumber(shown)}`;
    },
    why: (_, trace) =>
      trace.signals['number shown'] ? 'no number is shown at the end' : 'nothing was ever shown',
    // Whoever shows no number has not counted: that is broken, not unknown.
    prepare: (trace) => {
      const shown = trace.signals['number shown']?.values;
      const values = shown
        ? shown.map((v) => (Number.isNaN(v) ? NOTHING_SHOWN : v))
        : trace.signals.line && new Float32Array(trace.timesS.length).fill(NOTHING_SHOWN);
      return values
        ? { ...trace, signals: { ...trace.signals, 'number shown': { unit: '', values } } }
        : trace;
    },
  },
  'net turn': {
    sentence: (e) => `Ends turned by ${turnedBy(e.deg)}, ± ${formatNumber(e.toleranceDeg)}°`,
    formula: (e) => inTheEnd(about('turned', e.deg, e.toleranceDeg)),
    unit: 'deg',
    scale: (e) => e.toleranceDeg,
    tell: (_, trace, margin) =>
      `turned ${turnedBy(last(trace, 'turned'))}, ${spare(margin, '°', 1)}`.replace('too much', 'out'),
  },
  'holds bearing': {
    sentence: (e) =>
      `Holds ${turnedBy(e.deg)} within ${formatNumber(e.withinDeg)}° from ${formatNumber(e.fromS)} s on, ${formatNumber(100 * e.share, 0)} % of the time`,
    formula: (e) => always(forShare(e.share, about('turned', e.deg, e.withinDeg)), [e.fromS, e.fromS + 0.02]),
    unit: 'deg',
    scale: (e) => e.withinDeg,
    // Only what comes after the moment counts.
    prepare: (trace, e) => {
      const from = trace.timesS.findIndex((t) => t >= e.fromS);
      const turned = trace.signals.turned;
      if (from < 0 || !turned) return trace;
      const values = turned.values.map((v, i) => (i < from ? e.deg : v));
      return { ...trace, signals: { ...trace.signals, turned: { ...turned, values } } };
    },
    tell: (_, __, margin) => spare(margin, '°', 1).replace('too much', 'farther off'),
  },
  'stays on track': {
    sentence: (e, course) =>
      `Stays within ${mm(e.withinMm)} of the ${nameOf(course.tracks, e.track)} for ${formatNumber(100 * e.share, 0)} % of the run`,
    formula: (e) => forShare(e.share, below(offSignal(e.track), e.withinMm)),
    unit: 'mm',
    scale: (e) => e.withinMm,
    tell: (e, _, margin) =>
      `${formatNumber(e.withinMm - margin, 0)} mm off for ${formatNumber(100 * e.share, 0)} % of the run`,
  },
  visits: {
    sentence: (e, course) => `Visits ${e.zones.map((zone) => nameOf(course.zones, zone)).join(', then ')}`,
    formula: (e) => inOrder(...e.zones.map((zone) => above(inSignal(zone), 0))),
    unit: 'mm',
    scale: () => 60,
    tell: (e, trace, margin) => {
      if (margin >= 0) return 'all visited, in this order';
      const missed = e.zones.findIndex((zone) => !trace.signals[inSignal(zone)]?.values.some((v) => v > 0));
      if (missed < 0) return 'visited in another order';
      return e.zones.length === 1 ? 'never came there' : `never came to the ${ordinal(missed + 1)} of them`;
    },
  },
  'ends in': {
    sentence: (e, course) => `Ends in the ${nameOf(course.zones, e.zone)}`,
    formula: (e) => inTheEnd(above(inSignal(e.zone), 0)),
    unit: 'mm',
    scale: () => 60,
    tell: (e, trace) => {
      const deep = last(trace, inSignal(e.zone));
      return deep >= 0
        ? `${formatNumber(deep, 0)} mm inside`
        : `${formatNumber(-deep, 0)} mm outside at the end`;
    },
  },
  'waits for': {
    sentence: (e, course) =>
      `Waits while the ${nameOf(course.boxes, e.box)} is there and goes on within ${formatNumber(e.withinS)} s after`,
    formula: (e) =>
      all(always(above(nearSignal(e.box), TOUCH_MM)), inTheEnd(below(goesOnSignal(e.box), e.withinS))),
    unit: '',
    scale: (e) => e.withinS,
    tell: (e, trace, margin) => {
      if (margin < 0 && least(trace, nearSignal(e.box)) < TOUCH_MM) return 'ran into it';
      const on = last(trace, goesOnSignal(e.box));
      if (on > 50_000) return 'never went on';
      return `went on ${formatNumber(on)} s after it had left${margin < 0 ? ', too late' : ''}`;
    },
    why: (_, trace) => (trace.signals.speed ? 'the run ended before it had left' : undefined),
  },
  bumps: {
    sentence: (e) =>
      `Bumps into something at least ${formatNumber(e.atLeast, 0)} ${e.atLeast === 1 ? 'time' : 'times'}`,
    formula: (e) => inTheEnd(above('bumps', e.atLeast - 0.5)),
    unit: '',
    scale: (e) => e.atLeast,
    tell: (_, trace) => countOf(Math.round(last(trace, 'bumps')), 'bump'),
  },
  'backs off after bumps': {
    sentence: (e) => `Reverses at least ${mm(e.atLeastMm)} after every bump`,
    formula: (e) => inTheEnd(above('backs off', e.atLeastMm)),
    unit: 'mm',
    scale: (e) => e.atLeastMm,
    tell: (_, trace) => `the shortest way back was ${formatNumber(last(trace, 'backs off'), 0)} mm`,
    why: () => 'it never bumped into anything early enough to tell',
  },
  'soon after': {
    sentence: (e, course) =>
      `Within ${formatNumber(e.seconds)} s after ${happeningWords(e.when, course)}, ${happeningWords(e.then, course)}`,
    // Where the record ends before the time is over, what is still open is not asked once it was asked before.
    formula: (e) =>
      always(
        implies(
          happeningFormula(e.when),
          any(eventually(happeningFormula(e.then), [0, e.seconds]), above('ending', 0)),
        ),
      ),
    prepare: (trace, { seconds, when }) => {
      const end = trace.timesS.at(-1)!;
      const moving = withMotion(trace);
      const whole = eventually(happeningFormula(when), [0, Math.max(0, end - seconds)]);
      const excused = !trace.lasts && end >= seconds && robustness(whole, moving).surely > 0;
      const values = new Float32Array(trace.timesS.length).fill(-1000);
      if (excused)
        values.fill(
          1000,
          trace.timesS.findIndex((t) => t > end - seconds),
        );
      return { ...moving, signals: { ...moving.signals, ending: { unit: '', values } } };
    },
    unit: '',
    scale: () => 30,
    tell: (_, __, margin) => (margin >= 0 ? 'each time' : 'not each time'),
  },
  'stands until': {
    sentence: (e) => `Stands still for the first ${formatNumber(e.seconds)} s`,
    formula: (e) => always(resting, [0, e.seconds]),
    prepare: withMotion,
    unit: 'mm/s',
    scale: () => REST_MM_PER_S,
    tell: (_, trace, margin) => {
      const on = trace.signals.motion!.values.findIndex((v) => v > REST_MM_PER_S);
      return margin >= 0 || on < 0 ? 'stood still' : `moved off after ${formatNumber(trace.timesS[on])} s`;
    },
  },
  travels: {
    sentence: (e) => `Travels at least ${formatNumber(e.atLeastMm / 10, 0)} cm`,
    formula: (e) => inTheEnd(above('travelled', e.atLeastMm)),
    unit: 'mm',
    scale: (e) => e.atLeastMm,
    tell: (_, trace) => `travelled ${formatNumber(last(trace, 'travelled') / 10, 0)} cm`,
  },
  'no faster': {
    sentence: (e) => `Is never faster than ${formatNumber(e.mmPerS / 10)} cm a second`,
    formula: (e) => always(below('motion', e.mmPerS)),
    prepare: withMotion,
    unit: 'mm/s',
    scale: (e) => e.mmPerS / 4,
    tell: (e, _, margin) => `${formatNumber((e.mmPerS - margin) / 10)} cm a second at its fastest`,
  },
  'does not roll on': {
    sentence: (e) => `Does not roll on for more than ${mm(e.withinMm)} when its program is over`,
    formula: (e) => always(below('rolled on', e.withinMm)),
    unit: 'mm',
    scale: (e) => e.withinMm,
    tell: (e, _, margin) => `rolled on ${formatNumber(e.withinMm - margin, 0)} mm`,
  },
  'pushes out': {
    sentence: (e, course) => `Pushes the other robot out of the ${nameOf(course.zones, e.zone)}`,
    formula: (e) => eventually(below(opponentInSignal(e.zone), 0)),
    unit: 'mm',
    scale: () => 100,
    tell: (e, trace, margin) =>
      margin >= 0
        ? 'it is out'
        : `it stayed ${formatNumber(least(trace, opponentInSignal(e.zone)), 0)} mm inside`,
  },
  formula: {
    sentence: (e) => e.says,
    formula: (e) => {
      const read = readFormula(e.formula);
      return read.ok ? read.value : null;
    },
    unit: '',
    unitOn: unitOfFormula,
    scale: () => 1,
    tell: (e, trace, margin) =>
      `${margin >= 0 ? 'holds' : 'does not hold'}, by ${formatNumber(Math.abs(margin), 1)} ${unitOfFormula(e, trace)}`.trim(),
  },
};

export const templateOf = (expectation: Expectation): Template =>
  templates[expectation.kind] as unknown as Template;
