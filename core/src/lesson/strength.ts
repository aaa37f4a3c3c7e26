import { passed, sumUp, type JudgedRun } from '../expect/index.ts';
import { parseScript } from '../script/index.ts';
import { usualFaults, type BrokenScript } from '../editing/index.ts';
import type { Run, Trace } from '../sim/index.ts';
import type { Lesson } from './lesson.ts';
import { rehearseRun, runSeed } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';

/** Runs that never differ from the model answer's by more than this look the same, mm and degrees. */
const SAME_MM = 6;
const SAME_DEG = 2;
/** So many runs are tried first; a fault that breaks several of them is caught for sure. */
const FIRST_RUNS = 6;
const SURE = 3;

/** What became of one broken script. */
export interface FaultReport {
  fault: BrokenScript;
  /**
   * Caught: it is not proved. Missed: it is proved although it behaves differently. Equivalent: no run tells it apart. Right
   * too: it is proved, behaves differently, and the lesson says that it is right as well.
   */
  outcome: 'caught' | 'missed' | 'equivalent' | 'right too';
  runs: number;
  passes: number;
  /** Indexes of the expectations that noticed it. */
  by: number[];
}

export interface Strength {
  reports: FaultReport[];
  caught: number;
  missed: number;
  equivalent: number;
  rightToo: number;
  /** Caught among those that behave differently, 0–1; null when there are none. */
  share: number | null;
  /** For each expectation: how many faults it noticed, and how many nobody else did. */
  each: { noticed: number; alone: number }[];
}

/** How a lesson names a break that is right as well. */
export const breakName = ({ line, name }: BrokenScript): string => `${line}: ${name}`;

/** What a run looks like from outside: where the robot goes and what it shows and sounds. */
interface Look {
  trace: Trace;
  told: string;
}
const lookOf = (run: Run): Look => ({
  trace: run.trace,
  told: run.events
    .filter(({ kind }) => kind === 'display' || kind === 'sound' || kind === 'lamp')
    .map(({ kind, text }) => `${kind} ${text}`)
    .join('\n'),
});

function looksAlike(a: Look, b: Look): boolean {
  if (a.told !== b.told) return false;
  const n = Math.max(a.trace.timesS.length, b.trace.timesS.length);
  const near = (name: string, by: number) => {
    const [p, q] = [a.trace.signals[name]!.values, b.trace.signals[name]!.values];
    for (let i = 0; i < n; i += 5) {
      // A run that ended earlier stays where it was.
      const far = Math.abs((p[i] ?? p.at(-1)!) - (q[i] ?? q.at(-1)!));
      if (far > by) return false;
    }
    return true;
  };
  return near('x', SAME_MM) && near('y', SAME_MM) && near('bearing', SAME_DEG);
}

/** Judges one broken script beside the model answer, run by run; `model` keeps the answer's looks by run. */
function judgeFault(
  lesson: Lesson,
  known: KnownRobot,
  fault: BrokenScript,
  model: (i: number) => Look,
): FaultReport {
  const program = parseScript(fault.text);
  const { runs, bar, seed } = lesson.proof;
  const judged: JudgedRun[] = [];
  let alike = true;
  for (let i = 0; i < runs; i++) {
    const { run, judgements } = rehearseRun(lesson, known, program, runSeed(seed, i));
    judged.push({ seed: runSeed(seed, i), judgements });
    alike &&= looksAlike(lookOf(run), model(i));
    const failed = judged.filter((one) => !passed(one)).length;
    if (i + 1 >= FIRST_RUNS && failed >= SURE) break;
  }
  const passes = judged.filter(passed).length;
  const by = lesson.expectations.flatMap((_, e) =>
    judged.some(({ judgements }) => judgements[e]!.verdict !== 'holds') ? [e] : [],
  );
  const proved = sumUp(judged, lesson.expectations, bar).verdict === 'proved';
  const right = lesson.accepts?.includes(breakName(fault)) ?? false;
  const outcome = !proved ? 'caught' : alike ? 'equivalent' : right ? 'right too' : 'missed';
  return { fault, outcome, runs: judged.length, passes, by: proved ? [] : by };
}

/**
 * How strong a lesson's expectations are: its model answer is broken in the usual ways, and each broken script is run
 * over the lesson's conditions. Yields one report at a time, so that it can be shown and stopped.
 */
export function* strengthReports(
  lesson: Lesson,
  known: KnownRobot,
  text = lesson.modelScript,
  /** Only every n-th fault, from the k-th on: a share of the work. */
  [k, n]: readonly [number, number] = [0, 1],
): Generator<{ done: number; of: number; report: FaultReport }> {
  const faults = usualFaults(text);
  const program = parseScript(text);
  const looks: Look[] = [];
  const model = (i: number) =>
    (looks[i] ??= lookOf(rehearseRun(lesson, known, program, runSeed(lesson.proof.seed, i)).run));
  for (const [i, fault] of faults.entries()) {
    if (i % n !== k) continue;
    yield { done: i + 1, of: faults.length, report: judgeFault(lesson, known, fault, model) };
  }
}

/** Sums up reports, all or those so far. */
export function strengthOf(lesson: Lesson, reports: readonly FaultReport[]): Strength {
  const count = (outcome: FaultReport['outcome']) => reports.filter((r) => r.outcome === outcome).length;
  const [caught, missed] = [count('caught'), count('missed')];
  return {
    reports: [...reports],
    caught,
    missed,
    equivalent: count('equivalent'),
    rightToo: count('right too'),
    share: caught + missed === 0 ? null : caught / (caught + missed),
    each: lesson.expectations.map((_, e) => ({
      noticed: reports.filter((r) => r.by.includes(e)).length,
      alone: reports.filter((r) => r.by.length === 1 && r.by[0] === e).length,
    })),
  };
}
