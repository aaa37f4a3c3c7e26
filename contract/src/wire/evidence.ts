import Joi from 'joi';
import type {
  QuickLooks,
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
  TeamEvidence,
} from '@vigilum/core/classroom';
import type { Answers } from '@vigilum/core/expect';
import type { Reading, Summary } from '@vigilum/core/sensing';
import { resultKeys, trialSources, type Trial } from '@vigilum/core/tuning';
import { count, moment, samples, within } from '../basics.ts';
import { buildSchema, kitSchema } from '../files/kit.ts';
import { lessonSchema } from '../files/lesson.ts';
import { either, list, maybe, more, oneOf, optional, record, shape, shapeOf } from '../shape.ts';
import { driveFit } from './robotTrials.ts';
import { flag, judgement, kindOfSensor, named, number, proof, text } from './shared.ts';

const readings = samples<Reading>(20_000);

const summary = shapeOf<Summary>()({
  n: count,
  noReadings: count,
  mean: maybe(number),
  sd: maybe(number),
  min: maybe(number),
  max: maybe(number),
  drift: maybe(number),
});

const setFields = {
  id: count,
  socket: text,
  kind: kindOfSensor,
  surface: text,
  of: optional(summary),
  truth: maybe(number),
  lightNote: text,
  at: moment,
};
/** A set of readings, with at most this many of them. */
export const storedSetOf = (most: number) =>
  shapeOf<StoredSet>()({ ...setFields, values: samples(most), rgb: optional(samples(most)) });
export const storedSet = storedSetOf(20_000);

const sweep = {
  id: count,
  periodMs: number,
  values: readings,
  of: optional(count),
  at: moment,
};
export const storedSweep = shapeOf<StoredSweep>()(sweep);
export const recording = shapeOf<Recording>()({
  ...sweep,
  socket: text,
  kind: kindOfSensor,
  purpose: oneOf('sweep', 'touch'),
});

export const quickLooks = shapeOf<QuickLooks>()({ surface: text, values: readings, at: moment });

export const wireCheckMark = shape({ reacts: flag, at: moment });

export const storedThreshold = shapeOf<StoredThreshold>()({
  id: count,
  value: number,
  method: text,
  compare: oneOf('level', 'change', 'pair'),
  leave: maybe(number),
  reason: text,
  at: moment,
});

const sensor = shapeOf<StoredSensor>()({
  wireCheck: maybe(wireCheckMark),
  sets: list(storedSet),
  quickLooks: list(quickLooks),
  threshold: maybe(storedThreshold),
  sweep: maybe(storedSweep),
  touch: maybe(storedSweep),
});

export const savedScript = shapeOf<SavedScript>()({
  version: count,
  sameSince: count,
  text,
  at: moment,
});

export const storedTry = shapeOf<StoredTry>()({
  id: count,
  scriptVersion: count,
  start: text,
  seed: number.integer(),
  judgements: list(judgement),
  pastMm: maybe(number),
  at: moment,
});

export const storedProof = shapeOf<StoredProof>()({
  id: count,
  scriptVersion: count,
  seed: number.integer(),
  proof,
  at: moment,
});

/** What was measured or seen, by the key of what was asked. */
export const answers: Joi.ObjectSchema<Answers> = record(
  either(flag, within(-100_000, 100_000)),
  Joi.string().max(400),
).max(40);
export const storedTrial = shapeOf<StoredTrial>()({
  id: count,
  scriptVersion: maybe(count),
  pastMm: maybe(number),
  gapMm: maybe(number),
  turnedDeg: maybe(number),
  counted: maybe(number),
  changed: text,
  speedPercent: maybe(number),
  rested: maybe(flag),
  tookS: maybe(number),
  seen: answers,
  step: maybe(text),
  note: text,
  judgements: list(judgement),
  at: moment,
});

/** A trial as the walk shows it. */
export const walkTrial = shapeOf<Trial>()({
  id: text,
  at: moment,
  source: oneOf(...trialSources),
  version: maybe(count),
  knobs: list(shape({ name: text, value: number, unit: text })),
  shape: count,
  results: Joi.object<Trial['results']>(Object.fromEntries(resultKeys.map((key) => [key, number]))),
  kept: maybe(flag),
  runs: count,
  said: text,
});

/** Everything a team recorded in one lesson. */
export const evidence = shapeOf<TeamEvidence>()({
  hour: maybe(shape({ id: count, at: moment })),
  team: named,
  robot: more(named, { standIn: flag }),
  kit: kitSchema,
  build: buildSchema,
  lesson: lessonSchema,
  sensors: record(sensor),
  script: maybe(savedScript),
  tries: list(storedTry).max(8),
  proof: maybe(storedProof),
  trials: list(storedTrial),
  braking: maybe(driveFit),
  twist: maybe(shape({ values: record(either(number, text)), level: count })),
  place: maybe(text),
  notes: record(shapeOf<StoredNote>()({ text, revision: count })),
});
