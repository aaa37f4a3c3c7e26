import Joi from 'joi';
import type { RobotTrial } from '@vigilum/core/motion';
import type { DriveFit } from '@vigilum/core/sensing';
import { moment, within } from '../basics.ts';
import { list, maybe, more, oneOf, optional, shape, shapeOf, type Typed } from '../shape.ts';
import { flag, id, text } from './shared.ts';

/** What trials found of a robot's drive; what they did not is left to its kit. */
export const driveFit = shapeOf<DriveFit>()({
  topDegPerS: optional(within(1, 20_000)),
  tauBrakeS: optional(within(0.005, 2)),
  commandDelayMs: optional(within(0, 1000)),
  deadPercent: optional(within(0, 30)),
  accelLimitMmPerS2: optional(within(100, 100_000)),
  mismatch: optional(within(-0.3, 0.3)),
  scrub: optional(within(-0.5, 1)),
});

type OfKind<K extends RobotTrial['kind']> = Extract<RobotTrial, { kind: K }>;
const speedPercent = within(0.1, 100);
const turn = within(-7200, 7200);
const stop = shapeOf<OfKind<'stop'>>()({
  kind: oneOf('stop'),
  speedPercent,
  pastMm: within(-2000, 5000),
  samplePeriodMs: within(0.5, 5000),
});
const kinds: { [K in RobotTrial['kind']]: Joi.ObjectSchema<OfKind<K>> } = {
  way: shapeOf<OfKind<'way'>>()({
    kind: oneOf('way'),
    speedPercent,
    seconds: within(0.5, 60),
    wentMm: within(0, 20_000),
    asideMm: maybe(within(-5000, 5000)),
  }),
  turn: shapeOf<OfKind<'turn'>>()({
    kind: oneOf('turn'),
    askedDeg: turn,
    turnedDeg: turn,
    trackMm: within(10, 1000),
  }),
  stop,
  creep: shapeOf<OfKind<'creep'>>()({ kind: oneOf('creep'), speedPercent, moved: flag }),
};
/** Chosen by its kind, so that a fault names the field and not every way in which it is no trial of another kind. */
export const robotTrial: Joi.AnySchema<RobotTrial> = Joi.alternatives<RobotTrial>().conditional('.kind', {
  switch: Object.entries(kinds).map(([is, then]) => ({ is, then })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(kinds)).required() }).unknown(),
});

export const storedRobotTrial = more(id, { trial: robotTrial, at: moment });
export type StoredRobotTrial = Typed<typeof storedRobotTrial>;

const loggedStop = shape({ trial: stop, team: text, lesson: text, at: moment });
/** A stop that a team logged in a lesson, as a trial of its robot. */
export type LoggedStop = Typed<typeof loggedStop>;

export const robotTrials = shape({
  trials: list(storedRobotTrial),
  stops: list(loggedStop),
  /** What the simulation uses in place of the kit's numbers. */
  braking: maybe(driveFit),
  now: moment,
});
/** All by which a robot was measured. */
export type RobotTrials = Typed<typeof robotTrials>;
