import { formatNumber } from '../../quantity/index.ts';
import { REST_MM_PER_S, type Trace } from '../../sim/index.ts';
import { restTime } from '../derived.ts';
import { above, all, always, below, forShare, inTheEnd } from '../formula.ts';
import { Standing } from '../looked.ts';
import { pastSignal } from '../signalNames.ts';
import { resting, withMotion } from './happening.ts';
import { about, last, mm, nameOf, spare, turnedBy } from './telling.ts';
import type { Templates } from './template.ts';

/** No wall is so far away, mm. */
const NOTHING_AHEAD_MM = 50_000;

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

/** How it moves, turns and stops. */
export const moving: Templates<
  | 'stops past'
  | 'ends with gap'
  | 'backs off by'
  | 'comes to rest'
  | 'done within'
  | 'still running'
  | 'stands until'
  | 'travels'
  | 'no faster'
  | 'does not roll on'
  | 'net turn'
  | 'holds bearing'
> = {
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
};
