import { bySocket } from '../sensing/index.ts';
import type { Program, SensorDeclaration, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { sensorsIn, walk } from '../script/index.ts';
import { repeatedTasks } from './decisionRules.ts';
import { finding, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, truthOf, type Known } from './evaluate.ts';
import { looked, type Check } from './look.ts';

/** How strongly a step turns: positive to the right; null when it does not turn the wheels or cannot be told. */
function turningOf(step: Step, known: Known): number | null {
  switch (step.kind) {
    case 'steer':
      return numberOf(step.steering, known);
    case 'wheels': {
      const [left, right] = [numberOf(step.left, known), numberOf(step.right, known)];
      return left === null || right === null ? null : left - right;
    }
    case 'drive':
      return 0;
    case 'spin':
      return step.direction === 'right' ? 100 : -100;
    default:
      return null;
  }
}

/** The turning that the robot is told at a reading by a chain of branches: that of the arm which is taken then; null where that cannot be told. */
function turningAt(steps: readonly Step[], known: Known): number | null {
  let turning: number | null = null;
  for (const step of steps) {
    const own = turningOf(step, known);
    if (own !== null) turning ??= own;
    if (step.kind !== 'if' || turning !== null) continue;
    for (const arm of step.arms) {
      const taken = arm.test === null ? true : truthOf(arm.test, known);
      if (taken === null) return null;
      if (!taken) continue;
      turning = turningAt(arm.body, known);
      break;
    }
  }
  return turning;
}

const sides = { left: ['right', 'left'], right: ['left', 'right'] } as const;

/** Rule 12: steering that pushes away from the edge instead of back to it. */
export const awayFromEdge: Rule = (program, context) => {
  const known = constants(program, context);
  const found: Finding[] = [];
  const repeated = repeatedTasks(program);
  const look = (steps: readonly Step[], again: boolean) =>
    walk(steps, (step, inside) => {
      if (!again && !inside.some((outer) => outer.kind === 'repeat')) return;
      if (step.kind === 'if' && !inside.some((outer) => outer.kind === 'if'))
        found.push(...branches(program, context, step, known));
      if (step.kind === 'steer' || step.kind === 'wheels')
        found.push(...proportional(program, context, step, known));
    });
  look(program.steps, false);
  program.watchers.forEach(({ body }) => look(body, false));
  program.tasks.forEach(({ body }, i) => look(body, repeated.has(i)));
  return found;
};

/** What the floor sensor of a decision reads on the line and beside it, in base units. */
function darkAndLight({ surfaces }: ReviewContext, { socket }: SensorDeclaration): [number, number] {
  const pair = bySocket(surfaces, socket);
  return pair ? [pair.low.mean, pair.high.mean] : [5, 95];
}

/** The only floor sensor that a decision asks, with nothing else asked beside it; null for any other decision. */
function floorAsked(program: Program, step: Extract<Step, { kind: 'if' }>): number | null {
  const asked = new Set(step.arms.flatMap(({ test }) => (test ? [...sensorsIn(test)] : [])));
  const [only] = asked;
  if (asked.size !== 1) return null;
  const { kind } = program.sensors[only!]!;
  return kind === 'light' || kind === 'ambient' ? only! : null;
}

function branches(
  program: Program,
  context: ReviewContext,
  step: Extract<Step, { kind: 'if' }>,
  known: Known,
): Finding[] {
  const floor = floorAsked(program, step);
  if (floor === null) return [];
  const readings = darkAndLight(context, program.sensors[floor]!);
  const [onDark, onLight] = readings.map((reading) =>
    turningAt([step], { ...known, reading: (index) => (index === floor ? reading : null) }),
  );
  if (onDark === null || onLight === null || onDark === undefined || onLight === undefined) return [];
  const way = (turning: number) => (turning > 0 ? 'right' : 'left');
  if (onDark !== 0 && Math.sign(onDark) === Math.sign(onLight)) {
    const said = finding(
      step.at,
      'fault',
      'away from the edge',
      `It turns ${way(onDark)} whether it sees the line or not.`,
      'Nothing ever brings it back: it goes round in a circle.',
      'Turn one way on the line and the other way beside it.',
    );
    return [looked(said, loses(floor, readings))];
  }
  const edge = context.course?.edge;
  if (!edge || onDark === 0 || Math.sign(onDark) === Math.sign(onLight)) return [];
  const [line, back] = sides[edge];
  if (way(onDark) === back) return [];
  const said = finding(
    step.at,
    'fault',
    'away from the edge',
    `On the line it turns ${way(onDark)}, away from the edge it should follow.`,
    `It follows the ${edge} edge: the line lies to its ${line}, so on the line it must turn ${back}.`,
    'Swap the branches, or start on the other side of the line.',
  );
  return [looked(said, fails(loses(floor, readings)))];
}

/** Whether a run went wrong; by what else it shows where nothing is expected of it. */
const fails =
  (other: Check): Check =>
  (seen) =>
    seen.passed === null ? other(seen) : !seen.passed;

/** Whether the robot drove on one surface only for the second half of its way: it had lost the edge, which either edge would keep. */
const loses =
  (floor: number, [dark, light]: readonly number[]): Check =>
  (seen) => {
    const middle = (dark! + light!) / 2;
    const read = (row: number) => seen.reading(floor, row);
    const moved = seen.stretches(
      (row) => Math.abs(seen.signal('speed', row)) > 10 || Math.abs(seen.signal('turning', row)) > 5,
    );
    const [from, to] = [moved[0]?.[0] ?? 0, moved.at(-1)?.[1] ?? 0];
    if (to - from < 100) return null;
    const half = Math.floor((from + to) / 2);
    let low = 0;
    for (let row = half; row < to; row++) if ((read(row) ?? middle) < middle) low++;
    const share = low / (to - half);
    return seen.run.ended.how === 'left the mat' || share < 0.02 || share > 0.98;
  };

function proportional(
  program: Program,
  context: ReviewContext,
  step: Extract<Step, { kind: 'steer' | 'wheels' }>,
  known: Known,
): Finding[] {
  const edge = context.course?.edge;
  const turning = step.kind === 'steer' ? [step.steering] : [step.left, step.right];
  const asked = new Set(turning.flatMap((expr) => [...sensorsIn(expr)]));
  const floor = [...asked].find((index) => program.sensors[index]!.kind === 'light');
  if (!edge || floor === undefined || asked.size > 1) return [];
  const at = (reading: number) =>
    turningOf(step, { ...known, reading: (index) => (index === floor ? reading : null) });
  const [dark, light] = [at(20), at(80)];
  if (dark === null || light === null || dark === light) return [];
  const [line, back] = sides[edge];
  // On the left edge a lighter reading means too far to the left: it must steer to the right, which counts up.
  if (light > dark === (edge === 'left')) return [];
  const said = finding(
    turning[0]!.at,
    'fault',
    'away from the edge',
    'It steers away from the edge instead of back to it.',
    `It follows the ${edge} edge: the line lies to its ${line}, so on the line it must turn ${back}.`,
    'Turn the subtraction round, or start on the other side of the line.',
    turnedRound(program, step),
  );
  return [looked(said, fails(loses(floor, darkAndLight(context, program.sensors[floor]!))))];
}

const turnedRound = (program: Program, step: Extract<Step, { kind: 'steer' | 'wheels' }>): Finding['fix'] =>
  step.kind === 'steer'
    ? {
        label: 'Turn the sign round',
        edit: { kind: 'replace', at: step.steering.at, text: `-(${wordsAt(program, step.steering.at)})` },
      }
    : undefined;
