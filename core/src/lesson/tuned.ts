import { passed, pastSignal, type Expectation } from '../expect/index.ts';
import { canRun, parseScript } from '../script/index.ts';
import { fittingOn, sensorOf } from '../sensing/index.ts';
import {
  HOPELESS_RUNS,
  withKnobs,
  type Goal,
  type KnobFacts,
  type ResultKey,
  type Results,
  type SweepRun,
  type SweepTask,
} from '../tuning/index.ts';
import type { TrialFields } from './floorTrial.ts';
import type { Lesson } from './lesson.ts';
import { rehearseRun, runSeed, type Rehearsal } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';
import { worldOf } from './worlds.ts';

/** What a script's knobs must know of the robot that runs it. */
export const knobFactsOf = ({ kit, build, thresholds }: KnownRobot): KnobFacts => ({
  thresholds,
  unitOf: (socket) => {
    const fitting = fittingOn(build, socket);
    return (fitting && sensorOf(kit, fitting)?.unit) ?? '';
  },
});

/** mm of a length result's unit: gaps are told in cm, ways past a line in mm. */
const MM_PER_CM = 10;

/** What one sentence wants of a result; null where no single number tells it. */
function goalOf(expectation: Expectation): Goal | null {
  const around = (key: ResultKey, middle: number, give: number, per = 1): Goal => ({
    key,
    low: (middle - give) / per,
    high: (middle + give) / per,
  });
  switch (expectation.kind) {
    case 'stops past':
      return { key: 'past', low: 0, high: expectation.withinMm };
    case 'ends with gap':
      return around('gap', expectation.gapMm, expectation.toleranceMm, MM_PER_CM);
    case 'backs off by':
      return around('backed', expectation.byMm, expectation.toleranceMm, MM_PER_CM);
    case 'net turn':
      return around('turned', expectation.deg, expectation.toleranceDeg);
    case 'holds bearing':
      return around('turned', expectation.deg, expectation.withinDeg);
    case 'stays on track':
      return { key: 'lost', low: -Infinity, high: 100 * (1 - expectation.share) };
    case 'counts':
      return around('count', expectation.count, expectation.tolerance);
    case 'done within':
      return { key: 'time', low: -Infinity, high: expectation.seconds };
    default:
      return null;
  }
}

/** What a lesson wants of the numbers that come out of a trial: one goal a result, in the order of its sentences. */
export function goalsOf({ expectations }: Pick<Lesson, 'expectations'>): Goal[] {
  const goals = new Map<ResultKey, Goal>();
  for (const expectation of expectations) {
    const goal = goalOf(expectation);
    if (goal && !goals.has(goal.key)) goals.set(goal.key, goal);
  }
  return [...goals.values()];
}

/** Root of the mean square of a record, and the share of it beyond a limit in %; NaN samples are left out. */
function spreadOf(values: ArrayLike<number>, limit: number): { rms: number; beyond: number } | null {
  let [sum, over, n] = [0, 0, 0];
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (Number.isNaN(value)) continue;
    n++;
    sum += value * value;
    if (value > limit) over++;
  }
  return n === 0 ? null : { rms: Math.sqrt(sum / n), beyond: (100 * over) / n };
}

const lastOf = (values: ArrayLike<number> | undefined): number | null => {
  const value = values?.[values.length - 1];
  return value === undefined || Number.isNaN(value) ? null : value;
};

/** What came out of a run, in the units of `resultFacts`: of the lesson's sentences, and of what is measured on its floor. */
export function resultsOfRun(
  lesson: Lesson,
  { evidence, run }: Pick<Rehearsal, 'evidence' | 'run'>,
): Results {
  const results: Partial<Record<ResultKey, number>> = {};
  const put = (key: ResultKey, value: number | null) => {
    if (value !== null && Number.isFinite(value)) results[key] ??= value;
  };
  const { signals, timesS } = evidence;
  for (const expectation of lesson.expectations) {
    switch (expectation.kind) {
      case 'stops past':
        put('past', lastOf(signals[pastSignal(expectation.landmark)]?.values));
        break;
      case 'ends with gap':
        put('gap', scaled(lastOf(signals['gap ahead']?.values)));
        break;
      case 'backs off by':
        put('backed', scaled(lastOf(signals.backed?.values)));
        break;
      case 'net turn':
      case 'holds bearing': {
        const turned = signals.turned?.values;
        put('turned', lastOf(turned));
        const sign = expectation.deg < 0 ? -1 : 1;
        const most = turned?.reduce((a, b) => Math.max(a, sign * b), -Infinity);
        if (most !== undefined) put('overshoot', most - Math.abs(expectation.deg));
        break;
      }
      case 'stays on track': {
        const off = signals[`off ${expectation.track}`]?.values;
        const spread = off && spreadOf(off, expectation.withinMm);
        if (spread) {
          put('lost', spread.beyond);
          put('rms', spread.rms);
        }
        break;
      }
      case 'counts':
        put('count', lastOf(signals['number shown']?.values));
        break;
    }
  }
  if (lesson.floor.landmark) put('past', lastOf(signals[pastSignal(lesson.floor.landmark)]?.values));
  if (lesson.floor.measures?.includes('gap')) put('gap', scaled(lastOf(signals['gap ahead']?.values)));
  if (lesson.floor.measures?.includes('turn')) put('turned', lastOf(signals.turned?.values));
  put('time', run.programOverS ?? lastOf(timesS));
  return results;
}

const scaled = (mm: number | null): number | null => (mm === null ? null : mm / MM_PER_CM);

/** What was measured of a trial on the floor, in the units of `resultFacts`. */
export function resultsOfTrial({ pastMm, gapMm, turnedDeg, counted, tookS }: TrialFields): Results {
  const all: Partial<Record<ResultKey, number | null>> = {
    past: pastMm,
    gap: scaled(gapMm),
    turned: turnedDeg,
    count: counted,
    time: tookS,
  };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== null && value !== undefined));
}

/** Why a script with other numbers cannot run; null when it can. */
export function tunedFault(text: string): string | null {
  const program = parseScript(text);
  if (canRun(program)) return null;
  const [first] = program.findings;
  return first ? `Line ${first.line}: ${first.says} ${first.mend}` : 'There is no step yet.';
}

/**
 * Runs number `from` to `from + count − 1` of a proof with some numbers of the script changed; fewer where the first ones show that
 * it is hopeless. Null where such a script cannot run.
 */
export function tunedRuns(
  lesson: Lesson,
  known: KnownRobot,
  text: string,
  { knobs, from, count }: Pick<SweepTask, 'knobs' | 'from' | 'count'>,
  seed: number,
): SweepRun[] | null {
  const program = parseScript(withKnobs(text, knobs, knobFactsOf(known)));
  if (!canRun(program)) return null;
  const runs: SweepRun[] = [];
  for (let i = from; i < from + count; i++) {
    const drawn = runSeed(seed, i);
    const { lesson: task } = worldOf(lesson, drawn);
    const rehearsal = rehearseRun(lesson, known, program, drawn);
    runs.push({
      passed: passed({ seed: drawn, judgements: rehearsal.judgements }),
      results: resultsOfRun(task, rehearsal),
    });
    if (runs.length >= HOPELESS_RUNS && !runs.some((run) => run.passed)) break;
  }
  return runs;
}
