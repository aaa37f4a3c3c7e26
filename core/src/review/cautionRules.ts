import { fittingOn } from '../sensing/index.ts';
import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { expressionsOf, parts, sensorsIn, walk, walkProgram } from '../script/index.ts';
import { finding, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, type Known } from './evaluate.ts';
import { looked } from './look.ts';
import { goesOn, movesAtAll, percentOf, speedMmPerS } from './motionOf.ts';

/** Hands are away from the robot after this long, s (common practice). */
const HANDS_OFF_S = 2;
/** Farther than this it must not drive backwards without anything that tells where it is, mm. */
const BLIND_MM = 600;

/** Rule 16: driving where there is an edge to fall from, with no sensor looking down. */
export const noWatcher: Rule = (program, context) => {
  if (!context.course?.drop) return [];
  let first: Step | null = null;
  let watched = false;
  walkProgram(program, (step) => {
    if (movesAtAll(step) && step.kind !== 'turn' && step.kind !== 'spin') first ??= step;
    for (const expr of expressionsOf(step)) {
      for (const index of sensorsIn(expr)) watched ||= looksDown(program, context, index);
    }
  });
  if (!first || watched) return [];
  return [
    looked(
      finding(
        (first as Step).at,
        'risk',
        'no watcher',
        'It drives where there is an edge to fall from, and nothing looks down.',
        'A robot that cannot see the edge falls off it sooner or later.',
        'Ask a sensor that looks down, and post a catcher at every edge.',
      ),
      (seen) => seen.run.ended.how === 'fell off',
    ),
  ];
};

/** How often a repeat before the first movement is done. */
const rounds = ({ how, amount }: Extract<Step, { kind: 'repeat' }>, known: Known): number =>
  (how === 'times' && amount && numberOf(amount, known)) || 1;

/** How long a wait for the timer takes at least, s. */
function waitsSo(test: Expr, known: Known): number {
  if (test.kind !== 'compare' || test.left.kind !== 'builtin' || test.left.name !== 'timer') return 0;
  return numberOf(test.right, known) ?? 0;
}

function looksDown(program: Program, { build }: ReviewContext, index: number): boolean {
  const { kind, socket } = program.sensors[index]!;
  if (kind === 'light' || kind === 'ambient' || kind === 'colour' || kind === 'rgb') return true;
  return (kind === 'distance' || kind === 'proximity') && fittingOn(build, socket)?.facing === 'down';
}

/** Rule 16: a bout that begins before the hands are away. */
export const handsOff: Rule = (program, context) => {
  if (!context.course?.opponent) return [];
  const known = constants(program, context);
  let waited = 0;
  let first: Step | null = null;
  const seen = new Set<number>();
  const look = (steps: readonly Step[]) => {
    for (const step of steps) {
      if (first) return;
      if (movesAtAll(step)) first = step;
      else if (step.kind === 'wait') waited += numberOf(step.time, known) ?? 0;
      else if (step.kind === 'beep' && step.time) waited += numberOf(step.time, known) ?? 0;
      else if (step.kind === 'waitUntil') waited += waitsSo(step.test, known);
      else if (step.kind === 'repeat') {
        const before = waited;
        look(step.body);
        waited += (waited - before) * ((first ? 1 : rounds(step, known)) - 1);
        if (step.how === 'for' && step.amount)
          waited = Math.max(waited, before + (numberOf(step.amount, known) ?? 0));
      } else if (step.kind === 'if') step.arms.forEach((arm) => look(arm.body));
      else if (step.kind === 'do' && !seen.has(step.task)) {
        seen.add(step.task);
        look(program.tasks[step.task]!.body);
      }
    }
  };
  look(program.steps);
  if (!first || waited >= HANDS_OFF_S) return [];
  const { at } = program.steps[0]!;
  return [
    finding(
      (first as Step).at,
      'risk',
      'hands off',
      'The bout begins before the hands are away.',
      'Whoever starts the robots still has fingers between them.',
      `Wait ${HANDS_OFF_S} s before the first movement.`,
      {
        label: `Add “wait ${HANDS_OFF_S} s” before line ${at.line}`,
        edit: { kind: 'insert', after: at.line - 1, text: `wait ${HANDS_OFF_S} s` },
      },
    ),
  ];
};

/** Rule 16: driving backwards far, with nothing that tells how far. */
export const reversingBlind: Rule = (program, context) => {
  const known = constants(program, context);
  const found: Finding[] = [];
  const look = (steps: readonly Step[]) =>
    walk(steps, (step, inside, siblings, index) => {
      if (step.kind !== 'drive' && step.kind !== 'wheels' && step.kind !== 'steer') return;
      const percent = percentOf(step, known);
      if (percent === null || percent >= 0) return;
      const backMm = reverseMm(context, known, step, Math.abs(percent), siblings.slice(index + 1));
      if (backMm !== null && backMm <= BLIND_MM) return;
      if (backMm === null && asksWhileBacking(program, context, inside, siblings.slice(index + 1))) return;
      found.push(
        looked(
          finding(
            step.at,
            'risk',
            'reversing blind',
            'It drives backwards and nothing tells it how far.',
            'No sensor looks that way: it backs into whatever is there.',
            'Write how far: drive -30 % for 10 cm, or wait for a distance or the wheels.',
          ),
          (seen) =>
            seen.stretches((row) => seen.signal('touching', row) > 0 && seen.signal('speed', row) < 0)
              .length > 0 ||
            seen.run.ended.how === 'fell off' ||
            seen.run.ended.how === 'left the mat',
        ),
      );
    });
  look(program.steps);
  program.tasks.forEach((task) => look(task.body));
  return found;
};

/** How far it goes backwards, mm, where the script says so by length, wheel or time; null where it does not. */
function reverseMm(
  context: ReviewContext,
  known: Known,
  step: Extract<Step, { kind: 'drive' | 'wheels' | 'steer' }>,
  percent: number,
  rest: readonly Step[],
): number | null {
  const speed = Math.abs(speedMmPerS(context, percent));
  if (step.until) {
    const amount = numberOf(step.until.amount, known);
    // A parameter says how far, even though it is not known here.
    if (amount === null) return 0;
    const { of } = step.until;
    const perDegree = (Math.PI * context.build.wheelDiameterMm) / 360;
    return Math.abs(amount) * (of === 'time' ? speed : of === 'angle' ? perDegree : 1);
  }
  const [next] = rest;
  if (next?.kind === 'wait') {
    const time = numberOf(next.time, known);
    return time === null ? null : speed * time;
  }
  return goesOn(step) && next && (next.kind === 'stop' || movesAtAll(next)) ? 0 : null;
}

const looksBack = (program: Program, build: ReviewContext['build'], index: number): boolean =>
  fittingOn(build, program.sensors[index]!.socket)?.facing === 'back';

/** Whether, while it drives backwards, the program asks something that tells how far: a distance or the wheels. */
function asksWhileBacking(
  program: Program,
  { build }: ReviewContext,
  inside: readonly Step[],
  rest: readonly Step[],
): boolean {
  const holder = inside.at(-1);
  const asking = [
    ...rest.filter((step) => step.kind === 'waitUntil').slice(0, 1),
    ...(holder?.kind === 'repeat' ? [holder] : []),
    ...inside.filter((step) => step.kind === 'repeat'),
  ];
  const tells = (index: number) =>
    program.sensors[index]!.kind !== 'touch' || looksBack(program, build, index);
  return asking.some((step) =>
    expressionsOf(step).some(
      (expr) =>
        [...sensorsIn(expr)].some(tells) ||
        parts(expr).some((part) => part.kind === 'builtin' && part.name.endsWith('wheel')),
    ),
  );
}
