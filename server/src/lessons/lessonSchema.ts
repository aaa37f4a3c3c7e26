import Joi from 'joi';
import type { Expectation, Happening } from '@vigilum/core/expect';
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
import { courseId, courseSchema } from '../courses/courseSchema.ts';
import { seedNumber, socketName } from '../http/validate.ts';
import { buildSchema } from '../kits/kitSchema.ts';

const text = (longest: number) => Joi.string().trim().min(1).max(longest);
const within = (least: number, most: number) => Joi.number().min(least).max(most).required();
const mm = within(0, 20_000);
const seconds = within(0, 600);
const script = Joi.string().max(SCRIPT_LIMIT.characters).allow('');

const happening = Joi.alternatives().try(
  ...(
    [
      { is: 'pressed', socket: socketName.required() },
      {
        is: 'reads',
        socket: socketName.required(),
        op: Joi.valid('<', '>').required(),
        value: within(-100_000, 100_000),
      },
      { is: 'past', landmark: courseId.required() },
      { is: 'in zone', zone: courseId.required() },
      { is: 'box there', box: courseId.required() },
      { is: 'moves' },
      { is: 'stands' },
      { is: 'reverses' },
    ] satisfies { is: Happening['is']; [field: string]: unknown }[]
  ).map(({ is, ...fields }) => Joi.object({ is: Joi.valid(is).required(), ...fields } as Joi.SchemaMap)),
);

const kinds: Record<Expectation['kind'], Joi.SchemaMap> = {
  'stops past': { landmark: courseId.required(), withinMm: mm },
  'ends with gap': { gapMm: mm, toleranceMm: mm },
  'backs off by': { byMm: mm, toleranceMm: mm },
  'comes to rest': {},
  'done within': { seconds },
  'still running': { seconds },
  'never touches': {},
  'never over the edge': {},
  shows: { text: text(60).required() },
  'shows in order': { texts: Joi.array().items(text(60)).min(1).max(12).required() },
  counts: { count: within(-10_000, 10_000), tolerance: within(0, 1000) },
  'net turn': { deg: within(-3600, 3600), toleranceDeg: within(0, 360) },
  'holds bearing': {
    deg: within(-3600, 3600),
    withinDeg: within(0, 360),
    fromS: seconds,
    share: within(0, 1),
  },
  'stays on track': { track: courseId.required(), withinMm: mm, share: within(0, 1) },
  visits: { zones: Joi.array().items(courseId).min(1).max(20).required() },
  'ends in': { zone: courseId.required() },
  'waits for': { box: courseId.required(), withinS: seconds },
  'keeps clear': { roomMm: mm },
  bumps: { atLeast: within(0, 1000) },
  'backs off after bumps': { atLeastMm: mm },
  'soon after': { seconds, when: happening.required(), then: happening.required() },
  'stands until': { seconds },
  travels: { atLeastMm: within(0, 1_000_000) },
  'no faster': { mmPerS: within(0, 10_000) },
  'does not roll on': { withinMm: mm },
  'pushes out': { zone: courseId.required() },
  formula: { says: text(160).required(), formula: text(1000).required() },
};

const expectation = Joi.alternatives().conditional(Joi.ref('.kind'), {
  switch: Object.entries(kinds).map(([kind, fields]) => ({
    is: kind,
    then: Joi.object({ kind: Joi.valid(kind).required(), ...fields }),
  })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(kinds)).required() }).unknown(),
});
export const expectationsSchema = Joi.array<Expectation[]>().items(expectation).max(40);

const range = (least: number, most: number) =>
  Joi.array().ordered(within(least, most), within(least, most)).length(2);
const further: Record<(typeof furtherConditions)[number], Joi.Schema> = {
  battery: range(0, 100),
  noise: range(0, 10),
  scrub: range(-0.3, 0.3),
  laterS: range(-60, 60),
  echoes: range(0, 0.5),
  driftPerS: range(-10, 10),
  headingAtStart: range(-360, 360),
};
export const conditionsSchema = Joi.object<Conditions>({
  alongMm: range(-1000, 1000).required(),
  acrossMm: range(-1000, 1000).required(),
  bearingDeg: range(-180, 180).required(),
  lightShift: range(-100, 100).required(),
  mismatch: range(-0.5, 0.5).required(),
  ...further,
});
export const proofSchema = Joi.object<Lesson['proof']>({
  runs: Joi.number().integer().min(10).max(500).required(),
  bar: within(0.1, 0.99),
  seed: seedNumber.required(),
});

const need = Joi.object({
  kind: Joi.valid(...sensorKinds).required(),
  socket: socketName.required(),
  name: text(40).required(),
});

const tasks = Joi.array()
  .items(
    Joi.object({
      surface: text(60).required(),
      role: Joi.valid('dark', 'light'),
      reflectance: Joi.number().min(0).max(1),
      how: Joi.string().max(300).allow('').required(),
    }),
  )
  .max(12);

const step = Joi.object({
  id: Joi.string()
    .pattern(/^[a-z0-9-]{1,40}$/, 'lower-case letters, digits and dashes')
    .required(),
  kind: Joi.valid(...stepKinds).required(),
  title: Joi.string().max(80).allow('').required(),
  text: Joi.string().trim().max(LESSON_LIMIT.textCharacters).allow('').required(),
  minutes: Joi.number().integer().min(0).max(LESSON_LIMIT.period).required(),
  expects: Joi.string().max(300).allow('').required(),
  hints: Joi.array().items(Joi.string().max(300).allow('')).max(LESSON_LIMIT.hints).required(),
  cautions: Joi.array().items(text(300)).max(LESSON_LIMIT.cautions).required(),
  part: Joi.object({
    sockets: Joi.array().items(socketName).max(12),
    socket: socketName,
    tasks,
    at: Joi.array().items(Joi.number().min(-10_000).max(10_000)).min(1).max(12),
    school: text(40),
    startScript: script,
    course: courseSchema,
    expectations: expectationsSchema,
    trials: Joi.number().integer().min(0).max(50),
  }),
});

const parameterName = Joi.string().pattern(PARAMETER_NAME, 'a letter, then letters, digits or _').required();
const formula = Joi.string().trim().min(1).max(200);
const bound = Joi.number().min(-1_000_000).max(1_000_000);
const twist = Joi.object({
  parameters: Joi.array()
    .items(
      Joi.alternatives().conditional(Joi.ref('.is'), {
        is: 'word',
        then: Joi.object({
          is: Joi.valid('word').required(),
          name: parameterName,
          says: text(80).required(),
          words: Joi.array().items(text(60)).min(1).max(TWIST_LIMIT.words).unique().required(),
          usual: text(60).required(),
        }),
        otherwise: Joi.object({
          is: Joi.valid('number').required(),
          name: parameterName,
          says: text(80).required(),
          unit: Joi.valid('', 'mm', 'cm', 'in', 'deg', 'turns', 's', 'ms', '%', 'Hz').required(),
          from: bound.required(),
          to: bound.required(),
          step: Joi.number().greater(0).max(1_000_000).required(),
          usual: bound.required(),
        }),
      }),
    )
    .max(TWIST_LIMIT.parameters)
    .required(),
  constraints: Joi.array().items(formula).max(TWIST_LIMIT.constraints).required(),
  family: Joi.object({
    id: courseId.required(),
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
        says: text(120).required(),
        ranges: Joi.object()
          .pattern(PARAMETER_NAME, Joi.object({ from: bound.required(), to: bound.required() }))
          .max(TWIST_LIMIT.parameters)
          .required(),
      }),
    )
    .max(TWIST_LIMIT.levels),
});

/** A lesson as it is stored and read from a file. */
export const lessonSchema = Joi.object<Lesson>({
  slug: Joi.string()
    .pattern(/^[a-z0-9-]{1,60}$/, 'lower-case letters, digits and dashes')
    .required(),
  title: text(120).required(),
  aim: Joi.string().max(300).allow('').required(),
  minutes: Joi.number().integer().min(5).max(480).required(),
  need: need.required(),
  also: Joi.array().items(need).max(12),
  read: Joi.object({
    burst: Joi.number().integer().min(1).max(500).required(),
    tasks: tasks.required(),
  }).required(),
  startScript: script.required(),
  modelScript: script.required(),
  course: courseSchema.required(),
  expectations: expectationsSchema.required(),
  conditions: conditionsSchema.required(),
  proof: proofSchema.required(),
  timeLimitS: within(1, 120),
  floor: Joi.object({
    trials: Joi.number().integer().min(0).max(50).required(),
    landmark: courseId.allow('').required(),
    measures: Joi.array()
      .items(Joi.valid(...floorMeasures))
      .max(4),
  }).required(),
  cautions: Joi.array().items(text(300)).max(20).required(),
  robot: Joi.object({
    kit: courseId.required(),
    build: buildSchema.required(),
    thresholds: Joi.object().pattern(socketName, Joi.number()).max(20).required(),
  }),
  faults: Joi.array()
    .items(Joi.object({ name: text(120).required(), script: script.required() }))
    .max(40),
  steps: Joi.array().items(step).max(LESSON_LIMIT.steps).unique('id'),
  skills: Joi.array().items(text(160)).max(20),
  twist,
  origin: Joi.object({
    title: text(120).required(),
    slug: text(60).required(),
    from: Joi.string().max(120).allow('').required(),
  }),
});
