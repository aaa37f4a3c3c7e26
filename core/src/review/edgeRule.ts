import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { sensorsIn, walkProgram } from '../script/index.ts';
import { finding, readingTest, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, type Known } from './evaluate.ts';

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

const firstTurning = (steps: readonly Step[], known: Known): number | null => {
  for (const step of steps) {
    const turning = turningOf(step, known);
    if (turning !== null) return turning;
  }
  return null;
};

const sides = { left: ['right', 'left'], right: ['left', 'right'] } as const;

/** Rule 12: steering that pushes away from the edge instead of back to it. */
export const awayFromEdge: Rule = (program, context) => {
  const known = constants(program, context);
  const found: Finding[] = [];
  walkProgram(program, (step, inside) => {
    if (!inside.some((outer) => outer.kind === 'repeat')) return;
    if (step.kind === 'if') found.push(...twoState(program, context, step, known));
    if (step.kind === 'steer') found.push(...proportional(program, context, step, known));
  });
  return found;
};

/** Whether a test asks a floor sensor if it sees the dark (−1) or the light (+1); null for any other test. */
function asksFor(expr: Expr | null, program: Program): -1 | 1 | null {
  const test = expr && readingTest(expr, program);
  if (!test || (test.sensor.kind !== 'light' && test.sensor.kind !== 'ambient')) return null;
  return test.op === '<' || test.op === '<=' ? -1 : test.op === '>' || test.op === '>=' ? 1 : null;
}

function twoState(
  program: Program,
  { course }: ReviewContext,
  step: Extract<Step, { kind: 'if' }>,
  known: Known,
): Finding[] {
  const [first, second] = step.arms;
  const asks = asksFor(first?.test ?? null, program);
  if (!first || second?.test !== null || asks === null) return [];
  const [a, b] = [firstTurning(first.body, known), firstTurning(second.body, known)];
  if (a === null || b === null || a === 0 || b === 0) return [];
  const way = (turning: number) => (turning > 0 ? 'right' : 'left');
  if (Math.sign(a) === Math.sign(b)) {
    return [
      finding(
        step.at,
        'fault',
        'away from the edge',
        `It turns ${way(a)} whether it sees the line or not.`,
        'Nothing ever brings it back: it goes round in a circle.',
        'Turn one way on the line and the other way beside it.',
      ),
    ];
  }
  const edge = course?.edge;
  if (!edge) return [];
  const onDark = asks === -1 ? a : b;
  const [line, back] = sides[edge];
  if (way(onDark) === back) return [];
  return [
    finding(
      step.at,
      'fault',
      'away from the edge',
      `On the line it turns ${way(onDark)}, away from the edge it should follow.`,
      `It follows the ${edge} edge: the line lies to its ${line}, so on the line it must turn ${back}.`,
      'Swap the two branches, or start on the other side of the line.',
    ),
  ];
}

function proportional(
  program: Program,
  { course }: ReviewContext,
  step: Extract<Step, { kind: 'steer' }>,
  known: Known,
): Finding[] {
  const edge = course?.edge;
  const floor = [...sensorsIn(step.steering)].find((index) => program.sensors[index]!.kind === 'light');
  if (!edge || floor === undefined || sensorsIn(step.steering).size > 1) return [];
  const at = (reading: number) =>
    numberOf(step.steering, { ...known, reading: (index) => (index === floor ? reading : null) });
  const [dark, light] = [at(20), at(80)];
  if (dark === null || light === null || dark === light) return [];
  const [line, back] = sides[edge];
  // On the left edge a lighter reading means too far to the left: it must steer to the right, which counts up.
  if (light > dark === (edge === 'left')) return [];
  const words = wordsAt(program, step.steering.at);
  return [
    finding(
      step.steering.at,
      'fault',
      'away from the edge',
      'It steers away from the edge instead of back to it.',
      `It follows the ${edge} edge: the line lies to its ${line}, so on the line it must turn ${back}.`,
      'Turn the subtraction round, or start on the other side of the line.',
      {
        label: 'Turn the sign round',
        edit: { kind: 'replace', at: step.steering.at, text: `-(${words})` },
      },
    ),
  ];
}
