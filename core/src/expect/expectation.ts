import type { Course } from '../course/index.ts';
import { formatNumber } from '../quantity/index.ts';
import { REST_MM_PER_S, type Trace } from '../sim/index.ts';
import { all, above, below, inTheEnd, type Formula } from './formula.ts';
import { pastSignal, restTime } from './derived.ts';
import { robustness } from './robustness.ts';

/** A sentence about what the robot shall do, that can be checked on a trace. */
export type Expectation =
  | { kind: 'stops past'; landmark: string; withinMm: number }
  | { kind: 'comes to rest' }
  | { kind: 'done within'; seconds: number };

/** What came of one expectation on one trace. */
export interface Judgement {
  verdict: 'holds' | 'broken' | 'cannot tell';
  /** How much to spare (negative: broken by), in `unit`; null when it cannot be told. */
  margin: number | null;
  unit: string;
  says: string;
}

const landmarkName = (course: Course, id: string): string =>
  course.landmarks.find((landmark) => landmark.id === id)?.name ?? id;

/** The expectation as a sentence for people. */
export function sentence(expectation: Expectation, course: Course): string {
  switch (expectation.kind) {
    case 'stops past':
      return `Stops within ${formatNumber(expectation.withinMm, 0)} mm past the ${landmarkName(course, expectation.landmark)}`;
    case 'comes to rest':
      return 'Comes to rest';
    case 'done within':
      return `Is done within ${formatNumber(expectation.seconds)} s`;
  }
}

/** The expectation as a formula of signal temporal logic. */
export function formulaOf(expectation: Expectation): Formula {
  switch (expectation.kind) {
    case 'stops past': {
      const past = pastSignal(expectation.landmark);
      return inTheEnd(all(above(past, 0), below(past, expectation.withinMm)));
    }
    case 'comes to rest':
      return inTheEnd(all(below('speed', REST_MM_PER_S), above('speed', -REST_MM_PER_S)));
    case 'done within':
      return inTheEnd(below('rest', expectation.seconds));
  }
}

/**
 * The trace with a signal `rest`: at each moment, the time at which the robot last came to rest. While it
 * still moves at the end of the trace that is at least the trace's length, so a limit within the trace is
 * surely broken and a later one cannot be told.
 */
function withRest(trace: Trace, limitS: number): Trace {
  const n = trace.timesS.length;
  const timed = n > 1 || trace.signals.clock !== undefined;
  if (!trace.signals.speed || !timed) return trace;
  const rest = restTime(trace);
  const end = trace.timesS[n - 1]!;
  if (rest === null && end <= limitS) return trace;
  const values = new Float32Array(n).fill(rest ?? end);
  return { ...trace, signals: { ...trace.signals, rest: { unit: 's', values } } };
}

const unitOf: Record<Expectation['kind'], string> = {
  'stops past': 'mm',
  'comes to rest': 'mm/s',
  'done within': 's',
};

function tell(expectation: Expectation, trace: Trace, margin: number): string {
  const by = formatNumber(Math.abs(margin), expectation.kind === 'stops past' ? 0 : 1);
  switch (expectation.kind) {
    case 'stops past': {
      const past = trace.signals[pastSignal(expectation.landmark)]!.values.at(-1)!;
      const where = `${formatNumber(Math.abs(past), 0)} mm ${past < 0 ? 'short of' : 'past'} the edge`;
      if (margin >= 0) return `${where}, ${by} mm to spare`;
      return past < 0 ? where : `${where}, ${by} mm too far`;
    }
    case 'comes to rest': {
      const speed = Math.abs(trace.signals.speed!.values.at(-1)!);
      return margin >= 0 ? 'at rest at the end' : `still moving at ${formatNumber(speed, 0)} mm/s at the end`;
    }
    case 'done within': {
      const rest = restTime(trace);
      if (rest === null) return `still moving after ${formatNumber(trace.timesS.at(-1)!)} s`;
      return `done at ${formatNumber(rest)} s, ${by} s ${margin >= 0 ? 'to spare' : 'too late'}`;
    }
  }
}

/** Judges one expectation on one trace. A missing signal gives *cannot tell*, never a pass. */
export function judge(expectation: Expectation, trace: Trace): Judgement {
  const unit = unitOf[expectation.kind];
  const evidence = expectation.kind === 'done within' ? withRest(trace, expectation.seconds) : trace;
  const margin = robustness(formulaOf(expectation), evidence);
  if (margin === null) {
    const says =
      expectation.kind === 'done within' && trace.signals.speed && trace.timesS.length > 1
        ? `still moving when the record ends at ${formatNumber(trace.timesS.at(-1)!)} s`
        : 'the record does not hold what this needs';
    return { verdict: 'cannot tell', margin: null, unit, says };
  }
  return {
    verdict: margin >= 0 ? 'holds' : 'broken',
    margin,
    unit,
    says: tell(expectation, evidence, margin),
  };
}

/** A margin as a share of what the expectation allows, so that margins of different units can be ranked. */
export function relativeMargin(expectation: Expectation, margin: number): number {
  switch (expectation.kind) {
    case 'stops past':
      return margin / (expectation.withinMm / 2);
    case 'comes to rest':
      return margin / REST_MM_PER_S;
    case 'done within':
      return margin / expectation.seconds;
  }
}
