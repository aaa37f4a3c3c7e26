import { bySocket, fromBaseTo, type SensorKind } from '../sensing/index.ts';
import type { Expr, Program, SensorDeclaration, Step } from '../script/index.ts';
import type { Finding, Fix, Place } from '../script/index.ts';
import { unitOf, type KnownRobotFacts } from '../editing/index.ts';

/** What the review may know about the course. Whatever is missing, its rules keep silent about. */
export interface CourseFacts {
  /** Whether there is an edge to fall from. */
  drop: boolean;
  /** Whether another robot is on the course. */
  opponent: boolean;
  /** What is searched for: its width, and how far away it may be, mm. */
  target: { widthMm: number; rangeMm: number };
  /** Which edge of the dark line is followed: on the left edge the line lies to the robot's right. */
  edge: 'left' | 'right';
  /** What the sensors read at the start, by socket, in the sensor's own unit. */
  startReadings: Record<string, number>;
}

/** What the review knows beside the script. Whatever is missing, its rules keep silent about. */
export interface ReviewContext extends KnownRobotFacts {
  /** Width of the narrowest line on the course, in mm. */
  lineWidthMm: number | null;
  course?: Partial<CourseFacts>;
  /** The kind of sensor that the lesson is about. */
  about?: SensorKind;
}

/** A rule of the review: looks at a program and tells what it finds. */
export type Rule = (program: Program, context: ReviewContext) => Finding[];

/** A finding: what will happen, why, what usually mends it, and a mend of one tap where there is one. */
export function finding(
  { line, column, length }: Place,
  grade: Finding['grade'],
  rule: string,
  says: string,
  why: string,
  mend: string,
  fix?: Fix,
): Finding {
  const found: Finding = { line, column, length, grade, rule, says, why, mend };
  return fix ? { ...found, fix } : found;
}

/** The words that an expression or step was written in. */
export const wordsAt = ({ source }: Program, { line, column, length }: Place): string =>
  (source[line - 1] ?? '').slice(column - 1, column - 1 + length);

/** A value in base units as the sensor tells it: 150 mm is 15 for a sensor in cm. */
export const inSensorUnit = (context: KnownRobotFacts, sensor: SensorDeclaration, value: number): number =>
  fromBaseTo(value, unitOf(context, sensor));

/** The decided threshold of a sensor, in the sensor's own unit. */
export const decidedFor = (context: KnownRobotFacts, sensor: SensorDeclaration): number | undefined =>
  bySocket(context.thresholds, sensor.socket);

/** A comparison of a reading with something, the reading on the left. */
export interface ReadingTest {
  sensor: SensorDeclaration;
  index: number;
  op: Extract<Expr, { kind: 'compare' }>['op'];
  other: Expr;
  at: Place;
}

const mirrored = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=', '<>': '<>' } as const;

/** A comparison as a reading against something; null when neither side is a reading. */
export function readingTest(expr: Expr, program: Program): ReadingTest | null {
  if (expr.kind !== 'compare') return null;
  const { left, right, op, at } = expr;
  if (left.kind === 'sensor') {
    return { sensor: program.sensors[left.index]!, index: left.index, op, other: right, at };
  }
  if (right.kind === 'sensor') {
    const index = right.index;
    return { sensor: program.sensors[index]!, index, op: mirrored[op], other: left, at };
  }
  return null;
}

/** The test that a wait or a repeat goes on or ends by; null for any other step. */
export function testOf(step: Step): Expr | null {
  if (step.kind === 'waitUntil') return step.test;
  return step.kind === 'repeat' && (step.how === 'until' || step.how === 'while') ? step.amount : null;
}
