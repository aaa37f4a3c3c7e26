import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { bodiesOf, parts, sensorsIn, walk, walkProgram } from '../script/index.ts';
import { finding, testOf, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf } from './evaluate.ts';
import { looked, type Check } from './look.ts';
import { percentOf, speedMmPerS } from './motionOf.ts';

type Set_ = Extract<Step, { kind: 'set' }>;

/** A step that raises or lowers a value by something: `set n to n + 1`. */
const counts = (step: Step): step is Set_ =>
  step.kind === 'set' &&
  step.value.kind === 'arithmetic' &&
  (step.value.op === '+' || step.value.op === '-') &&
  parts(step.value).some((part) => part.kind === 'value' && part.index === step.index);

/** A level is a state that lasts: a comparison of a reading, a colour, a pressed bumper. A bump or a change is not. */
function levelSensors(test: Expr): ReadonlySet<number> {
  const event = parts(test).some(
    (part) =>
      part.kind === 'change' ||
      (part.kind === 'is' && part.asks.of === 'touch' && part.asks.what === 'bumped'),
  );
  return event ? new Set() : sensorsIn(test);
}

/** Values that a test asks about beside its sensors: a flag that is set in the same branch is a re-arm of its own. */
const valuesIn = (expr: Expr) =>
  new Set(parts(expr).flatMap((part) => (part.kind === 'value' ? [part.index] : [])));

const shares = (a: ReadonlySet<number>, b: ReadonlySet<number>) => [...a].some((one) => b.has(one));

/** Steps in order, those inside blocks counted; with a program, those of own steps that are done as well. */
function flat(steps: readonly Step[], program?: Program, deep = 0): Step[] {
  const found: Step[] = [];
  walk(steps, (step) => {
    found.push(step);
    if (step.kind === 'do' && program && deep < 5)
      found.push(...flat(program.tasks[step.task]!.body, program, deep + 1));
  });
  return found;
}

/** Whether steps wait, by a sensor of the level, for the level to end. */
const waitsFor = (
  program: Program,
  steps: readonly Step[],
  sensors: ReadonlySet<number>,
  but?: Step,
): boolean =>
  flat(steps, program).some((step) => {
    const test = testOf(step);
    return step !== but && test !== null && shares(sensorsIn(test), sensors);
  });

/** Steps that take so long that the level has probably ended: told as a risk, not as a fault. */
const takesTime = (steps: readonly Step[]) =>
  flat(steps).some(
    (step) =>
      step.kind === 'wait' ||
      step.kind === 'turn' ||
      ((step.kind === 'drive' || step.kind === 'wheels' || step.kind === 'steer') && step.until !== null) ||
      step.kind === 'waitUntil',
  );

const flips = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '<>', '<>': '=' } as const;

/** The opposite of a test, in words. */
function opposite(program: Program, test: Expr): string {
  const words = wordsAt(program, test.at);
  if (test.kind === 'compare') {
    const from = test.left.at.column - test.at.column + test.left.at.length;
    const at = words.indexOf(test.op, from);
    if (at >= 0) return words.slice(0, at) + flips[test.op] + words.slice(at + test.op.length);
  }
  if (test.kind === 'is') return words.replace(/\bis\s+/i, 'is not ');
  return `not (${words})`;
}

function rearm(program: Program, set: Set_, test: Expr, late: boolean, fixAfter: number): Finding {
  const words = wordsAt(program, test.at);
  const name = program.values[set.index]!.name;
  const wait = `wait until ${opposite(program, test)}`;
  return finding(
    set.at,
    late ? 'risk' : 'fault',
    'no re-arm',
    late ? `“${name}” may be raised twice for one.` : `“${name}” is raised again and again for one.`,
    late
      ? `It goes on after a fixed time, whether or not “${words}” is over.`
      : `“${words}” holds for many looks, and each look counts.`,
    `Wait for it to end before the next: ${wait}.`,
    { label: `Add “${wait}”`, edit: { kind: 'insert', after: fixAfter, text: wait } },
  );
}

/** A line that the robot certainly leaves behind: so much more than its width, mm. */
const BEYOND_MM = 10;

/** Whether some steps take the robot away from what it touches or has in front of it: back, or round. */
function turnsAway(
  steps: readonly Step[],
  program: Program,
  context: ReviewContext,
  sensors: ReadonlySet<number>,
): boolean {
  const ahead = [...sensors].every((index) =>
    ['touch', 'distance', 'proximity'].includes(program.sensors[index]!.kind),
  );
  if (!ahead) return false;
  const known = constants(program, context);
  return flat(steps, program).some(
    (step) =>
      step.kind === 'turn' ||
      ((step.kind === 'drive' || step.kind === 'wheels') &&
        step.until !== null &&
        (percentOf(step, known) ?? 0) < 0),
  );
}

/** Whether some steps take the robot so far that a line cannot be under it any more. */
function leavesLine(
  steps: readonly Step[],
  program: Program,
  context: ReviewContext,
  driving: Step | null,
): boolean {
  const { lineWidthMm } = context;
  if (lineWidthMm === null) return false;
  const known = constants(program, context);
  let going = driving;
  let mm = 0;
  for (const step of flat(steps, program)) {
    if (step.kind === 'drive' && step.until) {
      const amount = numberOf(step.until.amount, known);
      const speed = Math.abs(speedMmPerS(context, percentOf(step, known) ?? 0));
      const perDegree = (Math.PI * context.build.wheelDiameterMm) / 360;
      const by = { length: 1, angle: perDegree, time: speed }[step.until.of];
      mm = Math.max(mm, Math.abs(amount ?? 0) * by);
    } else if (step.kind === 'drive') going = step;
    else if (step.kind === 'stop') going = null;
    else if (step.kind === 'wait' && going) {
      const speed = Math.abs(speedMmPerS(context, percentOf(going, known) ?? 0));
      mm = Math.max(mm, speed * (numberOf(step.time, known) ?? 0));
    }
  }
  return mm > lineWidthMm + BEYOND_MM;
}

/** The last movement that goes on before a step of a list, or before the list itself. */
const goingBefore = (steps: readonly Step[], at: number, outer: Step | null): Step | null =>
  steps
    .slice(0, at)
    .reduce<Step | null>(
      (going, step) =>
        step.kind === 'drive' && !step.until
          ? step
          : step.kind === 'stop' || step.kind === 'turn'
            ? null
            : going,
      outer,
    );

/** Rule 4: a counter raised while a level holds, with nothing that waits for the level to end. */
export const noRearm: Rule = (program, context) => {
  const found: Finding[] = [];
  walkProgram(program, (step, _inside, siblings, index) => {
    if (step.kind !== 'repeat') return;
    const outer = goingBefore(siblings, index, null);
    const round = { repeat: step, outer };
    step.body.forEach((inner) => {
      if (inner.kind === 'if') found.push(...inArms(program, context, inner, round));
    });
    found.push(...inRound(program, context, step.body, round));
  });
  return found;
};

interface Round {
  repeat: Extract<Step, { kind: 'repeat' }>;
  outer: Step | null;
}

/** The count that a branch raises: written there, or in an own step that it does. */
const countIn = (program: Program, body: readonly Step[]): Set_ | undefined =>
  body.find(counts) ?? body.flatMap((one) => (one.kind === 'do' ? flat([one], program) : [])).find(counts);

/** Whether a value was raised twice or more while a test held without a break: its short breaks are noise. */
const countedTwice =
  (set: Set_, test: Expr): Check =>
  (seen) => {
    if (Number.isNaN(seen.value(set.index, 0))) return null;
    const held = seen
      .stretches((row) => seen.truth(test, row) === true)
      .reduce<[number, number][]>((all, [from, to]) => {
        const last = all.at(-1);
        if (last && from - last[1] < 12) last[1] = to;
        else all.push([from, to]);
        return all;
      }, []);
    if (held.length === 0) return null;
    return held.some(([from, to]) => {
      const [start, end] = [Math.max(0, from - 1), Math.min(seen.rows - 1, to + 4)];
      return Math.abs(seen.value(set.index, end) - seen.value(set.index, start)) > 1.5;
    });
  };

/** `if <level>` … `set n to n + 1`, looked at in every round. */
function inArms(
  program: Program,
  context: ReviewContext,
  decision: Extract<Step, { kind: 'if' }>,
  round: Round,
): Finding[] {
  const ends = round.repeat.amount ? valuesIn(round.repeat.amount) : new Set<number>();
  return decision.arms.flatMap(({ test, body }): Finding[] => {
    const sensors = test ? levelSensors(test) : new Set<number>();
    const nested = body.flatMap((inner) =>
      inner.kind === 'if' ? inArms(program, context, inner, round) : [],
    );
    const set = countIn(program, body);
    if (!test || !set || sensors.size === 0 || waitsFor(program, body, sensors)) return nested;
    const all = flat(body, program);
    const flags = new Set(all.flatMap((one) => (one.kind === 'set' && one !== set ? [one.index] : [])));
    // A flag that is set here and asked in the test, or that ends the repeat, is a re-arm of its own.
    if (shares(valuesIn(test), flags) || shares(ends, flags)) return nested;
    if (all.some((one) => one.kind === 'leave' || one.kind === 'finish' || one.kind === 'give'))
      return nested;
    const going = goingBefore(round.repeat.body, round.repeat.body.indexOf(decision), round.outer);
    const late = takesTime(all);
    const gone =
      late && (leavesLine(body, program, context, going) || turnsAway(body, program, context, sensors));
    return [looked(rearm(program, set, test, late, set.at.line), countedTwice(set, test), !gone), ...nested];
  });
}

/** `wait until <level>` … `set n to n + 1` in a round that comes back to the wait at once. */
function inRound(program: Program, context: ReviewContext, body: readonly Step[], round: Round): Finding[] {
  return body.flatMap((step, i): Finding[] => {
    if (step.kind !== 'waitUntil') return [];
    const sensors = levelSensors(step.test);
    if (sensors.size === 0) return [];
    const set = countIn(program, body.slice(i + 1));
    if (!set || waitsFor(program, body, sensors, step)) return [];
    const others = body.filter((one) => one !== step);
    if (flat(others).some((one) => one.kind === 'leave' || one.kind === 'finish')) return [];
    const late = takesTime(flat(others, program));
    const going = goingBefore(body, i, round.outer);
    const gone =
      late && (leavesLine(others, program, context, going) || turnsAway(others, program, context, sensors));
    return [looked(rearm(program, set, step.test, late, set.at.line), countedTwice(set, step.test), !gone)];
  });
}

/** Half of rule 15: a count that ends an inner repeat is still up when the outer repeat comes round again. */
export const neverReset: Rule = (program) => {
  const found: Finding[] = [];
  walkProgram(program, (step, inside) => {
    if (step.kind !== 'repeat' || (step.how !== 'until' && step.how !== 'while') || !step.amount) return;
    const outer = [...inside].reverse().find((one) => one.kind === 'repeat');
    if (!outer) return;
    const around = bodiesOf(outer).flatMap((body) => flat(body));
    for (const index of valuesIn(step.amount)) {
      const { name, task } = program.values[index]!;
      const raised = flat(step.body).some((one) => counts(one) && one.index === index);
      const reset = around.some((one) => one.kind === 'set' && one.index === index && !counts(one));
      if (!raised || reset || task !== null || sensorsIn(step.amount).size > 0) continue;
      found.push(
        finding(
          step.at,
          'risk',
          'never reset',
          `The second time round “${name}” is still up, and this repeat is over at once.`,
          `It is set at the start only, and the repeat in line ${outer.at.line} comes back here.`,
          `Set it again before this line: set ${name} to 0.`,
          {
            label: `Add “set ${name} to 0” before line ${step.at.line}`,
            edit: { kind: 'insert', after: step.at.line - 1, text: `set ${name} to 0` },
          },
        ),
      );
    }
    for (const part of parts(step.amount)) found.push(...stillCounting(part, step, around));
  });
  walkProgram(program, (step, inside) => {
    if (step.kind !== 'waitUntil') return;
    const outer = [...inside].reverse().find((one) => one.kind === 'repeat');
    if (outer)
      for (const part of parts(step.test))
        found.push(
          ...stillCounting(
            part,
            step,
            bodiesOf(outer).flatMap((body) => flat(body)),
          ),
        );
  });
  return found;
};

/** Wheel counts and the timer go on counting: a test of them in a repeat needs its own zero. */
function stillCounting(expr: Expr, step: Step, around: readonly Step[]): Finding[] {
  if (expr.kind !== 'compare') return [];
  const side = [expr.left, expr.right].find((one) => one.kind === 'builtin' && one.name !== 'battery');
  const other = side === expr.left ? expr.right : expr.left;
  if (side?.kind !== 'builtin' || other.kind !== 'quantity') return [];
  const what = side.name === 'timer' ? 'timer' : 'wheels';
  if (around.some((one) => one.kind === 'zero' && one.what === what)) return [];
  return [
    finding(
      expr.at,
      'risk',
      'never reset',
      `The second time round the ${what === 'timer' ? 'timer is' : 'wheels are'} already past this.`,
      what === 'timer'
        ? 'It counts from the start of the program.'
        : 'They count from the start of the program.',
      `Write “zero ${what}” before it.`,
      {
        label: `Add “zero ${what}” before line ${step.at.line}`,
        edit: { kind: 'insert', after: step.at.line - 1, text: `zero ${what}` },
      },
    ),
  ];
}
