import { formatNumber } from '../quantity/index.ts';
import { overshoot, reactionOf, spotTurnRate } from '../motion/index.ts';
import { fittingOn, sensorOf } from '../sensing/index.ts';
import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { expressionsOf, parts, sensorsIn, walkProgram } from '../script/index.ts';
import { finding, readingTest, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, type Known } from './evaluate.ts';
import { looked, type Check } from './look.ts';
import { goesOn, speedFix, speedMmPerS } from './motionOf.ts';
import { spinSpeed } from './spelledOut.ts';

/** An overshoot of less than this is within what a floor gives anyway, degrees. */
const SMALL_DEG = 5;

const isHeading = (program: Program, index: number) => program.sensors[index]!.kind === 'heading';

/** Whether an expression looks at a heading. */
const looksAtHeading = (program: Program, expr: Expr) =>
  [...sensorsIn(expr)].some((index) => isHeading(program, index));

/** Rule 11, first part: a heading held against a number without having been zeroed. */
export const notZeroed: Rule = (program) => {
  if (!program.sensors.some(({ kind }) => kind === 'heading')) return [];
  let first: { step: Step; expr: Expr } | null = null;
  let zeroed = false;
  let saved = program.values.some(({ initial }) => initial !== null && looksAtHeading(program, initial));
  walkProgram(program, (step) => {
    if (step.kind === 'zero' && step.what === 'heading') zeroed = true;
    if (step.kind === 'set' && looksAtHeading(program, step.value)) saved = true;
    if (step.kind === 'show' || step.kind === 'set' || first) return;
    for (const expr of expressionsOf(step)) {
      // A change counts from where the step began: nothing needs to be zeroed for it.
      const held = parts(expr).find(
        (part) => (part.kind === 'compare' || part.kind === 'arithmetic') && looksAtHeading(program, part),
      );
      if (held && !first) first = { step, expr: held };
    }
  });
  if (!first || zeroed || saved || program.steps.length === 0) return [];
  const { expr } = first as { step: Step; expr: Expr };
  const top = program.steps[0]!.at.line - 1;
  return [
    finding(
      expr.at,
      'risk',
      'not zeroed',
      'The heading is used and never zeroed.',
      'It counts from when the sensor was last set to 0, which may have been another way round.',
      'Write “zero heading” while the robot stands still at the start.',
      {
        label: `Add “zero heading” before line ${top + 1}`,
        edit: { kind: 'insert', after: top, text: 'zero heading' },
      },
    ),
  ];
};

/** The heading test of a wait or a repeat, with its number worked out. */
function headingTest(expr: Expr | null, program: Program, known: Known) {
  if (!expr) return null;
  for (const part of parts(expr)) {
    const test = readingTest(part, program);
    if (!test || !isHeading(program, test.index)) continue;
    const value = numberOf(test.other, known);
    if (value !== null) return { ...test, value };
  }
  return null;
}

/** Rule 11: a turn that goes the wrong way, that never gets there, or that is too hot to end where it should. */
export const turns: Rule = (program, context) => {
  if (!program.sensors.some(({ kind }) => kind === 'heading')) return [];
  const known = constants(program, context);
  const found: Finding[] = [];
  walkProgram(program, (step, _inside, siblings, index) => {
    if (step.kind === 'waitUntil') {
      const before = siblings[index - 1];
      const test = headingTest(step.test, program, known);
      const next = siblings[index + 1];
      // Where another movement follows, this one need not end on its angle.
      const ends = !next || next.kind === 'stop' || (next.kind !== 'spin' && !goesOn(next));
      if (test && before?.kind === 'spin')
        found.push(
          ...spinUntil(program, context, known, before, test).filter(
            ({ rule }) => ends || rule !== 'overshoots',
          ),
        );
    }
    if (step.kind === 'repeat' && (step.how === 'until' || step.how === 'while')) {
      const test = headingTest(step.amount, program, known);
      if (test) found.push(...slowsToNothing(program, step, test, known, context.kit.drive.deadPercent ?? 0));
    }
  });
  return found;
};

type HeadingTest = NonNullable<ReturnType<typeof headingTest>>;

function spinUntil(
  program: Program,
  context: ReviewContext,
  known: Known,
  spin: Extract<Step, { kind: 'spin' }>,
  test: HeadingTest,
): Finding[] {
  const up = test.op === '>' || test.op === '>=';
  const down = test.op === '<' || test.op === '<=';
  const asked = numberOf(spinSpeed(spin), known);
  if (asked === null || (!up && !down)) return [];
  const right = (spin.direction === 'right') === asked > 0;
  if ((up && !right && test.value > 0) || (down && right && test.value < 0)) {
    const wanted = up ? 'right' : 'left';
    const words = wordsAt(program, spin.at);
    const from = words.toLowerCase().indexOf(spin.direction);
    return [
      finding(
        spin.at,
        'fault',
        'wrong way',
        `Turning ${right ? 'right' : 'left'} never brings the heading to ${formatNumber(test.value, 0)}.`,
        'Turning right counts up, turning left counts down.',
        `Spin ${wanted}, or turn the comparison round.`,
        {
          label: `Write “spin ${wanted}” instead`,
          edit: {
            kind: 'replace',
            at: { line: spin.at.line, column: spin.at.column + from, length: spin.direction.length },
            text: wanted,
          },
        },
      ),
    ];
  }
  const fitting = fittingOn(context.build, test.sensor.socket);
  const spec = fitting && sensorOf(context.kit, fitting);
  if (!spec) return [];
  const rate = spotTurnRate(Math.abs(speedMmPerS(context, asked)), context.build.trackMm);
  const over = overshoot(
    Math.abs(test.value),
    rate,
    reactionOf(context.kit, spec.samplePeriodMs),
    context.build.trackMm,
  );
  // Whoever asks for 86 has left room for what is over.
  if (over.overshootDeg <= SMALL_DEG || test.value % 5 !== 0) return [];
  const sign = Math.sign(test.value) || 1;
  const set = over.setDeg === null ? null : sign * Math.round(over.setDeg);
  const slow = Math.floor((Math.min(100, Math.abs(asked)) * SMALL_DEG) / over.overshootDeg);
  return [
    finding(
      spin.at,
      'risk',
      'overshoots',
      `At ${formatNumber(Math.abs(asked), 0)} % it ends near ${formatNumber(sign * over.endsAtDeg, 0)}°, not ${formatNumber(test.value, 0)}°.`,
      `It turns ${formatNumber(rate, 0)}° in a second and goes on for ${formatNumber(over.overshootDeg, 0)}° after the look that ends it.`,
      set === null
        ? 'Turn slower, or at a speed that falls with what is left.'
        : `Turn slower, or end at ${set}°, or at a speed that falls with what is left.`,
      speedFix(spin, slow),
    ),
  ];
}

/** The program was still going when its time was up. */
const neverEnds: Check = (seen) => seen.run.ended.how === 'time limit';

/** A repeat that turns at a speed which is nothing, or too little to turn a wheel, at the very heading that would end it. */
function slowsToNothing(
  program: Program,
  step: Extract<Step, { kind: 'repeat' }>,
  test: HeadingTest,
  known: Known,
  deadPercent: number,
): Finding[] {
  const speeds = step.body.flatMap((inner): Expr[] =>
    inner.kind === 'spin'
      ? [spinSpeed(inner)]
      : inner.kind === 'wheels'
        ? [inner.left, inner.right]
        : inner.kind === 'steer'
          ? [inner.steering]
          : [],
  );
  const at = (heading: number): Known => ({
    ...known,
    reading: (index) => (index === test.index ? heading : known.reading(index)),
  });
  const values = speeds
    .filter((expr) => looksAtHeading(program, expr))
    .map((expr) => numberOf(expr, at(test.value)));
  const below = (least: number) =>
    values.length > 0 && values.every((value) => value !== null && Math.abs(value) < least);
  const steering = step.body.some(
    (inner) => inner.kind === 'steer' && looksAtHeading(program, inner.steering),
  );
  if (steering || !below(Math.max(1, deadPercent))) return [];
  if (!below(1))
    return [
      looked(
        finding(
          step.at,
          'risk',
          'sticks',
          `At ${formatNumber(test.value, 0)}° its wheels are told ${formatNumber(Math.abs(values[0]!), 1)} %, and this kit’s do not turn below ${formatNumber(deadPercent)} %.`,
          'It may stand a little short for ever: a motor needs a least speed to overcome its friction.',
          `Add a least speed: ${formatNumber(2 * deadPercent)} + what is there now.`,
        ),
        neverEnds,
      ),
    ];
  const early = test.value - Math.sign(test.value) * 2;
  return [
    looked(
      finding(
        step.at,
        'risk',
        'never gets there',
        `Near ${formatNumber(test.value, 0)}° it has slowed to nothing, so this may never end.`,
        'Its speed falls with what is left, and the last degrees take for ever.',
        `Leave the loop a little before, at ${formatNumber(early, 0)}°.`,
        test.other.kind === 'quantity'
          ? {
              label: `Leave at ${early} deg`,
              edit: { kind: 'replace', at: test.other.at, text: `${early} deg` },
            }
          : undefined,
      ),
      neverEnds,
    ),
  ];
}
