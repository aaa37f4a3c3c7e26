import Joi from 'joi';
import type { RobotTrial } from '@vigilum/core/motion';
import type { DriveFit } from '@vigilum/core/sensing';
import { moment, within } from '../basics.ts';
import { id, maybe, text } from './shared.ts';

export interface StoredRobotTrial {
  id: number;
  trial: RobotTrial;
  at: number;
}
/** A stop that a team logged in a lesson, as a trial of its robot. */
export interface LoggedStop {
  trial: Extract<RobotTrial, { kind: 'stop' }>;
  team: string;
  lesson: string;
  at: number;
}
/** All by which a robot was measured. */
export interface RobotTrials {
  trials: StoredRobotTrial[];
  stops: LoggedStop[];
  /** What the simulation uses in place of the kit's numbers. */
  braking: DriveFit | null;
  now: number;
}

/** What trials found of a robot's drive; what they did not is left to its kit. */
export const driveFit = Joi.object<DriveFit>({
  topDegPerS: within(1, 20_000),
  tauBrakeS: within(0.005, 2),
  commandDelayMs: within(0, 1000),
  deadPercent: within(0, 30),
  accelLimitMmPerS2: within(100, 100_000),
  mismatch: within(-0.3, 0.3),
  scrub: within(-0.5, 1),
});

const speedPercent = within(0.1, 100).required();
const turn = within(-7200, 7200).required();
const kinds: Record<RobotTrial['kind'], Joi.ObjectSchema> = {
  way: Joi.object({
    kind: Joi.valid('way').required(),
    speedPercent,
    seconds: within(0.5, 60).required(),
    wentMm: within(0, 20_000).required(),
    asideMm: within(-5000, 5000).allow(null).required(),
  }),
  turn: Joi.object({
    kind: Joi.valid('turn').required(),
    askedDeg: turn,
    turnedDeg: turn,
    trackMm: within(10, 1000).required(),
  }),
  stop: Joi.object({
    kind: Joi.valid('stop').required(),
    speedPercent,
    pastMm: within(-2000, 5000).required(),
    samplePeriodMs: within(0.5, 5000).required(),
  }),
  creep: Joi.object({ kind: Joi.valid('creep').required(), speedPercent, moved: Joi.boolean().required() }),
};
/** Chosen by its kind, so that a fault names the field and not every way in which it is no trial of another kind. */
export const robotTrial: Joi.Schema<RobotTrial> = Joi.alternatives<RobotTrial>().conditional('.kind', {
  switch: Object.entries(kinds).map(([is, then]) => ({ is, then })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(kinds)).required() }).unknown(),
});

export const storedRobotTrial = id.keys({ trial: robotTrial.required(), at: moment.required() });

export const robotTrialsReply = Joi.object<RobotTrials>({
  trials: Joi.array().items(storedRobotTrial).required(),
  stops: Joi.array()
    .items(
      Joi.object({
        trial: kinds.stop.required(),
        team: text.required(),
        lesson: text.required(),
        at: moment.required(),
      }),
    )
    .required(),
  braking: maybe(driveFit),
  now: moment.required(),
});
