import { TURN_PERCENT, type Expr, type Program, type Step } from '../script/index.ts';
import { expressionsOf, memo, sensorsIn } from '../script/index.ts';

/** The speed of a spin; one that does not say goes as fast as a turn does. */
export const spinSpeed = ({ speed, at }: Extract<Step, { kind: 'spin' }>): Expr =>
  speed ?? { kind: 'quantity', value: TURN_PERCENT, of: 'percent', at: { ...at, length: 0 } };

/** A movement that ends by a test, as the steps that teams write for it: move, wait until, stop. */
function spelledOut(step: Step): Step[] {
  switch (step.kind) {
    case 'drive':
    case 'wheels':
    case 'steer':
    case 'spin': {
      const { endsWhen, at } = step;
      if (!endsWhen) return [step];
      // Whichever comes first: by its way or time it ends anyway, and no longer form says the same.
      if (step.until) return [step];
      const moves: Step = { ...step, endsWhen: null };
      const stop: Step = { kind: 'stop', how: 'brake', at };
      const follows = expressionsOf(moves).some((expr) => sensorsIn(expr).size > 0);
      if (!follows) return [moves, { kind: 'waitUntil', test: endsWhen, at }, stop];
      const round = { kind: 'repeat', how: 'until', amount: endsWhen, counter: null, body: [moves] } as const;
      return [{ ...round, body: [moves], endLine: at.line, at }, stop];
    }
    case 'repeat':
      return [{ ...step, body: all(step.body) }];
    case 'if':
      return [{ ...step, arms: step.arms.map((arm) => ({ ...arm, body: all(arm.body) })) }];
    default:
      return [step];
  }
}

const all = (steps: readonly Step[]): Step[] => steps.flatMap(spelledOut);

/** A program in which no movement ends by a test alone: every rule then knows “drive … until …” as it knows the long form. */
export const inPlainSteps = memo((program: Program): Program => ({
  ...program,
  steps: all(program.steps),
  tasks: program.tasks.map((task) => ({ ...task, body: all(task.body) })),
  watchers: program.watchers.map((watcher) => ({ ...watcher, body: all(watcher.body) })),
}));
