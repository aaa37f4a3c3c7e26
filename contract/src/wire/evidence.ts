import Joi from 'joi';
import type {
  Recording,
  SavedScript,
  StoredNote,
  StoredProof,
  StoredSensor,
  StoredSet,
  StoredSweep,
  StoredThreshold,
  StoredTrial,
  StoredTry,
} from '@vigilum/core/classroom';
import type { Answers } from '@vigilum/core/expect';
import type { Summary } from '@vigilum/core/sensing';
import { resultKeys, trialSources, type Trial, type TrialKnob } from '@vigilum/core/tuning';
import { count, samples, moment, oneOf } from '../basics.ts';
import { buildSchema, kitSchema } from '../files/kit.ts';
import { lessonSchema } from '../files/lesson.ts';
import { driveFit } from './robotTrials.ts';
import { judgement, kindOfSensor, maybe, named, proof, text } from './shared.ts';

const number = Joi.number();
const readings = samples(20_000);

const summary = Joi.object<Summary>({
  n: count.required(),
  noReadings: count.required(),
  mean: maybe(number),
  sd: maybe(number),
  min: maybe(number),
  max: maybe(number),
  drift: maybe(number),
});

export const storedSet = Joi.object<StoredSet>({
  id: count.required(),
  socket: text.required(),
  kind: kindOfSensor.required(),
  surface: text.required(),
  values: readings.required(),
  of: summary,
  rgb: readings,
  truth: maybe(number),
  lightNote: text.required(),
  at: moment.required(),
});

const sweep = {
  id: count.required(),
  periodMs: number.required(),
  values: readings.required(),
  of: count,
  at: moment.required(),
};
export const storedSweep = Joi.object<StoredSweep>(sweep);
export const recording = Joi.object<Recording>({
  ...sweep,
  socket: text.required(),
  kind: kindOfSensor.required(),
  purpose: oneOf('sweep', 'touch').required(),
});

export const quickLooks = Joi.object({
  surface: text.required(),
  values: readings.required(),
  at: moment.required(),
});

export const wireCheckMark = Joi.object({ reacts: Joi.boolean().required(), at: moment.required() });

export const storedThreshold = Joi.object<StoredThreshold>({
  id: count.required(),
  value: number.required(),
  method: text.required(),
  compare: oneOf('level', 'change', 'pair').required(),
  leave: maybe(number),
  reason: text.required(),
  at: moment.required(),
});

const sensor = Joi.object<StoredSensor>({
  wireCheck: maybe(wireCheckMark),
  sets: Joi.array().items(storedSet).required(),
  quickLooks: Joi.array().items(quickLooks).required(),
  threshold: maybe(storedThreshold),
  sweep: maybe(storedSweep),
  touch: maybe(storedSweep),
});

export const savedScript = Joi.object<SavedScript>({
  version: count.required(),
  sameSince: count.required(),
  text: text.required(),
  at: moment.required(),
});

export const storedTry = Joi.object<StoredTry>({
  id: count.required(),
  scriptVersion: count.required(),
  start: text.required(),
  seed: number.integer().required(),
  judgements: Joi.array().items(judgement).required(),
  pastMm: maybe(number),
  at: moment.required(),
});

export const storedProof = Joi.object<StoredProof>({
  id: count.required(),
  scriptVersion: count.required(),
  seed: number.integer().required(),
  proof: proof.required(),
  at: moment.required(),
});

/** What was measured or seen, by the key of what was asked. */
export const answers = Joi.object<Answers>()
  .pattern(
    Joi.string().max(400),
    Joi.alternatives().try(Joi.boolean(), Joi.number().min(-100_000).max(100_000)),
  )
  .max(40);
export const storedTrial = Joi.object<StoredTrial>({
  id: count.required(),
  scriptVersion: maybe(count),
  pastMm: maybe(number),
  gapMm: maybe(number),
  turnedDeg: maybe(number),
  counted: maybe(number),
  changed: text.required(),
  speedPercent: maybe(number),
  rested: maybe(Joi.boolean()),
  tookS: maybe(number),
  seen: answers.required(),
  step: maybe(text),
  note: text.required(),
  judgements: Joi.array().items(judgement).required(),
  at: moment.required(),
});

/** A trial as the walk shows it. */
export const walkTrial = Joi.object<Trial>({
  id: text.required(),
  at: moment.required(),
  source: oneOf(...trialSources).required(),
  version: maybe(count),
  knobs: Joi.array()
    .items(Joi.object<TrialKnob>({ name: text.required(), value: number.required(), unit: text.required() }))
    .required(),
  shape: count.required(),
  results: Joi.object(Object.fromEntries(resultKeys.map((key) => [key, number]))).required(),
  kept: maybe(Joi.boolean()),
  runs: count.required(),
  said: text.required(),
});

/** All fields of `TeamEvidence`. */
export const evidence = Joi.object({
  hour: maybe(Joi.object({ id: count.required(), at: moment.required() })),
  team: named.required(),
  robot: named.keys({ standIn: Joi.boolean().required() }).required(),
  kit: kitSchema.required(),
  build: buildSchema.required(),
  lesson: lessonSchema.required(),
  sensors: Joi.object().pattern(Joi.string(), sensor).required(),
  script: maybe(savedScript),
  tries: Joi.array().items(storedTry).max(8).required(),
  proof: maybe(storedProof),
  trials: Joi.array().items(storedTrial).required(),
  braking: maybe(driveFit),
  twist: maybe(
    Joi.object({
      values: Joi.object().pattern(Joi.string(), Joi.alternatives().try(number, text)).required(),
      level: count.required(),
    }),
  ),
  place: maybe(text),
  notes: Joi.object()
    .pattern(Joi.string(), Joi.object<StoredNote>({ text: text.required(), revision: count.required() }))
    .required(),
});
