import Joi from 'joi';
import type { Expectation, Happening } from '@vigilum/core/expect';
import { LESSON_FORMAT, LESSON_FORMAT_VERSION } from '@vigilum/core/formats';
import {
  floorMeasures,
  LESSON_LIMIT,
  PARAMETER_NAME,
  stepKinds,
  TWIST_LIMIT,
  type Lesson,
} from '@vigilum/core/lesson';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import { sensorKinds } from '@vigilum/core/sensing';
import type { furtherConditions } from '@vigilum/core/sim';
import { type Conditions } from '@vigilum/core/sim';
import {
  byField,
  pair,
  parameterName,
  seedNumber,
  slug,
  socketName,
  verbatim,
  whole,
  within,
  words,
  wordsOrNone,
} from '../basics.ts';
import { oneOf } from '../shape.ts';
import { courseSchema } from './course.ts';
import { buildSchema } from './kit.ts';

const must = (least: number, most: number) => within(least, most).required();
const mm = must(0, 20_000);
const seconds = must(0, 600);
const script = verbatim(SCRIPT_LIMIT.characters);

const happenings: Record<Happening['is'], Joi.SchemaMap> = {
  pressed: { socket: socketName.required() },
  reads: { socket: socketName.required(), op: oneOf('<', '>').required(), value: must(-100_000, 100_000) },
  past: { landmark: slug().required() },
  'in zone': { zone: slug().required() },
  'box there': { box: slug().required() },
  moves: {},
  stands: {},
  reverses: {},
};
const happening = byField('is', happenings).meta({ named: 'happening' });

const kinds: Record<Expectation['kind'], Joi.SchemaMap> = {
  'stops past': { landmark: slug().required(), withinMm: mm },
  'ends with gap': { gapMm: mm, toleranceMm: mm },
  'backs off by': { byMm: mm, toleranceMm: mm },
  'comes to rest': {},
  'done within': { seconds },
  'still running': { seconds },
  'never touches': {},
  'never over the edge': {},
  shows: { text: words(60).required() },
  'shows in order': { texts: Joi.array().items(words(60)).min(1).max(12).required() },
  counts: { count: must(-10_000, 10_000), tolerance: must(0, 1000) },
  'net turn': { deg: must(-3600, 3600), toleranceDeg: must(0, 360) },
  'holds bearing': {
    deg: must(-3600, 3600),
    withinDeg: must(0, 360),
    fromS: seconds,
    share: must(0, 1),
  },
  'stays on track': { track: slug().required(), withinMm: mm, share: must(0, 1) },
  visits: { zones: Joi.array().items(slug()).min(1).max(20).required() },
  'ends in': { zone: slug().required() },
  'waits for': { box: slug().required(), withinS: seconds },
  'keeps clear': { roomMm: mm },
  bumps: { atLeast: must(0, 1000) },
  'backs off after bumps': { atLeastMm: mm },
  'soon after': { seconds, when: happening.required(), then: happening.required() },
  'stands until': { seconds },
  travels: { atLeastMm: must(0, 1_000_000) },
  'no faster': { mmPerS: must(0, 10_000) },
  'does not roll on': { withinMm: mm },
  'pushes out': { zone: slug().required() },
  formula: { says: words(160).required(), formula: words(1000).required() },
};

export const expectationsSchema = Joi.array<Expectation[]>()
  .items(byField('kind', kinds).meta({ named: 'expectation' }))
  .max(40);

const further: Record<(typeof furtherConditions)[number], Joi.Schema> = {
  battery: pair(0, 100),
  noise: pair(0, 10),
  scrub: pair(-0.3, 0.3),
  laterS: pair(-60, 60),
  echoes: pair(0, 0.5),
  driftPerS: pair(-10, 10),
  headingAtStart: pair(-360, 360),
  gyroScale: pair(0.8, 1.2),
  deadPercent: pair(0, 30),
};
export const conditionsSchema = Joi.object<Conditions>({
  alongMm: pair(-1000, 1000).required(),
  acrossMm: pair(-1000, 1000).required(),
  bearingDeg: pair(-180, 180).required(),
  lightShift: pair(-100, 100).required(),
  mismatch: pair(-0.5, 0.5).required(),
  ...further,
});
export const proofSchema = Joi.object<Lesson['proof']>({
  runs: whole(10, 500).required(),
  bar: must(0.1, 0.99),
  seed: seedNumber.required(),
});

const need = Joi.object({
  kind: oneOf(...sensorKinds).required(),
  socket: socketName.required(),
  name: words(40).required(),
});

const tasks = Joi.array()
  .items(
    Joi.object({
      surface: words(60).required(),
      role: oneOf('dark', 'light'),
      reflectance: Joi.number().min(0).max(1),
      how: wordsOrNone(300).required(),
    }),
  )
  .max(12)
  .meta({ named: 'tasks' });

const step = Joi.object({
  id: slug().required(),
  kind: oneOf(...stepKinds).required(),
  title: wordsOrNone(80).required(),
  text: wordsOrNone(LESSON_LIMIT.textCharacters).required(),
  minutes: whole(0, LESSON_LIMIT.period).required(),
  expects: wordsOrNone(300).required(),
  hints: Joi.array().items(wordsOrNone(300)).max(LESSON_LIMIT.hints).required(),
  cautions: Joi.array().items(words(300)).max(LESSON_LIMIT.cautions).required(),
  part: Joi.object({
    sockets: Joi.array().items(socketName).max(12),
    socket: socketName,
    tasks,
    at: Joi.array().items(Joi.number().min(-10_000).max(10_000)).min(1).max(12),
    method: words(40),
    startScript: script,
    course: courseSchema,
    expectations: expectationsSchema,
    trials: whole(0, 50),
  }),
});

const formula = words(200);
const bound = Joi.number().min(-1_000_000).max(1_000_000);
const twist = Joi.object({
  parameters: Joi.array()
    .items(
      byField(
        'is',
        {
          word: {
            words: Joi.array().items(words(60)).min(1).max(TWIST_LIMIT.words).required(),
            usual: words(60).required(),
          },
          number: {
            unit: oneOf('', 'mm', 'cm', 'in', 'deg', 'turns', 's', 'ms', '%', 'Hz').required(),
            from: bound.required(),
            to: bound.required(),
            step: Joi.number().greater(0).max(1_000_000).required(),
            usual: bound.required(),
          },
        },
        { name: parameterName.required(), says: words(80).required() },
      ),
    )
    .max(TWIST_LIMIT.parameters)
    .required(),
  constraints: Joi.array().items(formula).max(TWIST_LIMIT.constraints).required(),
  family: Joi.object({
    id: slug().required(),
    values: Joi.object().pattern(Joi.string().max(40), formula).max(20).required(),
  }),
  bindings: Joi.array()
    .items(
      Joi.object({
        at: Joi.string().pattern(/^\//, 'a JSON pointer').max(200).required(),
        value: formula.required(),
      }),
    )
    .max(TWIST_LIMIT.bindings)
    .required(),
  levels: Joi.array()
    .items(
      Joi.object({
        says: words(120).required(),
        ranges: Joi.object()
          .pattern(PARAMETER_NAME, Joi.object({ from: bound.required(), to: bound.required() }))
          .max(TWIST_LIMIT.parameters)
          .required(),
      }),
    )
    .max(TWIST_LIMIT.levels),
});

/** The shape of a lesson as it is stored and read from a file. What its parts ask of each other is `lessonFaults`. */
export const lessonSchema = Joi.object<Lesson>({
  slug: slug(60).required(),
  title: words(120).required(),
  aim: wordsOrNone(300).required(),
  minutes: whole(5, 480).required(),
  need: need.required(),
  also: Joi.array().items(need).max(12),
  read: Joi.object({
    burst: whole(1, 500).required(),
    tasks: tasks.required(),
  }).required(),
  startScript: script.required(),
  modelScript: script.required(),
  course: courseSchema.required(),
  expectations: expectationsSchema.required(),
  conditions: conditionsSchema.required(),
  proof: proofSchema.required(),
  timeLimitS: must(1, 120),
  floor: Joi.object({
    trials: whole(0, 50).required(),
    landmark: slug().allow('').required(),
    measures: Joi.array()
      .items(oneOf(...floorMeasures))
      .max(4),
  }).required(),
  cautions: Joi.array().items(words(300)).max(20).required(),
  robot: Joi.object({
    kit: slug().required(),
    build: buildSchema.required(),
    thresholds: Joi.object()
      .pattern(/^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/, Joi.number())
      .max(20)
      .required(),
  }),
  faults: Joi.array()
    .items(Joi.object({ name: words(120).required(), script: script.required() }))
    .max(40),
  rightToo: Joi.array()
    .items(Joi.object({ name: words(120).required(), script: script.required() }))
    .max(40),
  accepts: Joi.array().items(words(160)).max(200),
  steps: Joi.array().items(step).max(LESSON_LIMIT.steps),
  skills: Joi.array().items(words(160)).max(20),
  needs: Joi.array().items(slug(40)).max(20).unique(),
  twist,
  varies: twist,
  origin: Joi.object({
    title: words(120).required(),
    slug: words(60).required(),
    from: wordsOrNone(120).required(),
  }),
});

/** A lesson as a file, with the name and version of its format. */
export const lessonFileSchema = Joi.object<{ format: string; version: number; lesson: Lesson }>({
  format: oneOf(LESSON_FORMAT).required(),
  version: oneOf(LESSON_FORMAT_VERSION).required(),
  lesson: lessonSchema.required(),
});
