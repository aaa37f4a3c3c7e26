import Joi from 'joi';
import { LESSON_FILE_LIMIT } from '@vigilum/core/formats';
import type { Missing } from '@vigilum/core/lesson';
import { count, moment, rowId, seedNumber, whole, words, wordsOrNone } from '../basics.ts';
import { kitSchema } from '../files/kit.ts';
import { conditionsSchema, expectationsSchema, lessonSchema, proofSchema } from '../files/lesson.ts';
import {
  either,
  list,
  maybe,
  more,
  oneOf,
  optional,
  record,
  shape,
  shapeOf,
  type RouteShapes,
  type Typed,
} from '../shape.ts';
import { flag, named, number, proof, text } from './shared.ts';

const lessonBench = shape({
  lesson: lessonSchema,
  revision: count,
  /** Null when the lesson names no robot, or one of a kit that is not here. */
  kit: maybe(kitSchema),
  /** Whether its numbers follow a twist: it is then changed in the builder. */
  twisted: flag,
  /** Whether somebody has changed a shipped lesson here. */
  changed: flag,
  shipped: flag,
});
/** A lesson with the kit of its own robot. */
export type LessonBench = Typed<typeof lessonBench>;

const draftState = shape({
  lesson: lessonSchema,
  revision: count,
  changed: flag,
  shipped: flag,
  removed: flag,
  model: oneOf('never proved', 'proved', 'not proved'),
  modelProof: maybe(proof),
});
/** A lesson as the server keeps it for its teacher. */
export type DraftState = Typed<typeof draftState>;
const draft = more(draftState, { kits: list(kitSchema) });
export type Draft = Typed<typeof draft>;

const lessonChange = shape({
  revision: rowId,
  expectations: optional(expectationsSchema),
  conditions: optional(conditionsSchema),
  proof: optional(proofSchema),
}).min(2);
export type LessonChange = Typed<typeof lessonChange>;
const lessonVersion = shape({ version: count, note: text, at: moment });
export type LessonVersion = Typed<typeof lessonVersion>;

const variant = shape({
  team: named,
  seed: maybe(number.integer()),
  level: maybe(count),
  values: maybe(record(either(number, text))),
  says: text,
  proof: maybe(proof),
});
export type Variant = Typed<typeof variant>;

const lessonFacts = shape({ slug: text, shipped: flag, changedAt: maybe(moment) });
/** Where a lesson of the list comes from: it ships with Vigilum, or somebody here made it; when it was changed last. */
export type LessonFacts = Typed<typeof lessonFacts>;

const missing = shapeOf<Missing>()({ step: maybe(text), grade: oneOf('stop', 'note'), says: text });
const lesson = shape({ lesson: lessonSchema });
const note = optional(wordsOrNone(120));

export const lessonRoutes = {
  'GET /lessons': { reply: shape({ lessons: list(lessonSchema), facts: list(lessonFacts) }) },
  'POST /lessons': { body: lesson, reply: draftState },
  'GET /lessons/:slug': { reply: lessonSchema },
  'PATCH /lessons/:slug': {
    body: lessonChange,
    reply: more(lesson, { revision: count, freed: count }),
  },
  'DELETE /lessons/:slug': { reply: null },
  'POST /lessons/:slug/restoration': { reply: null },
  'GET /lessons/:slug/bench': { reply: lessonBench },
  'POST /lessons/:slug/shipped-form': { reply: lessonSchema },
  'GET /lessons/:slug/draft': { reply: draft },
  'PUT /lessons/:slug/draft': {
    body: shape({ revision: rowId, lesson: lessonSchema, note }),
    reply: draftState,
  },
  'POST /lessons/:slug/model-proofs': { reply: shape({ proof }) },
  'POST /lessons/:slug/copies': {
    body: shape({ title: optional(words(120)), from: note }),
    reply: draftState,
  },
  'GET /lessons/:slug/versions': { reply: shape({ versions: list(lessonVersion) }) },
  'GET /lessons/:slug/versions/:version': { reply: lesson },
  'POST /lessons/:slug/versions/:version/restoration': { reply: draftState },
  'POST /lessons/imports': {
    body: shape({ text: Joi.string().max(LESSON_FILE_LIMIT) }),
    reply: more(lesson, { missing: list(missing) }),
  },
  'GET /lessons/:slug/variants/:class': { reply: shape({ variants: list(variant) }) },
  'POST /lessons/:slug/variants': {
    body: shape({ classId: rowId, seed: seedNumber, level: whole(0, 3) }),
    reply: shape({ handed: count, judged: count }),
  },
  'DELETE /lessons/:slug/variants/:class': { reply: null },
} satisfies RouteShapes;
