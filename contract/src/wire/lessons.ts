import Joi from 'joi';
import type { Expectation, Proof } from '@vigilum/core/expect';
import { LESSON_FILE_LIMIT } from '@vigilum/core/formats';
import type { Lesson, Missing, ModelState, TwistValues } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import type { Conditions } from '@vigilum/core/sim';
import { count, moment, oneOf, seedNumber, whole, words, wordsOrNone } from '../basics.ts';
import { kitSchema } from '../files/kit.ts';
import { conditionsSchema, expectationsSchema, lessonSchema, proofSchema } from '../files/lesson.ts';
import { maybe, named, proof, text } from './shared.ts';

/** A lesson with the kit of its own robot. */
export interface LessonBench {
  lesson: Lesson;
  revision: number;
  /** Null when the lesson names no robot, or one of a kit that is not here. */
  kit: Kit | null;
  /** Whether its numbers follow a twist: it is then changed in the builder. */
  twisted: boolean;
  /** Whether somebody has changed a shipped lesson here. */
  changed: boolean;
  shipped: boolean;
}
/** A lesson as the server keeps it for its teacher. */
export interface DraftState {
  lesson: Lesson;
  revision: number;
  changed: boolean;
  shipped: boolean;
  removed: boolean;
  model: ModelState;
  modelProof: Proof | null;
}
export interface Draft extends DraftState {
  kits: Kit[];
}
export interface LessonChange {
  revision: number;
  expectations?: Expectation[];
  conditions?: Conditions;
  proof?: Lesson['proof'];
}
export interface LessonVersion {
  version: number;
  note: string;
  at: number;
}
export interface Variant {
  team: { id: number; name: string };
  seed: number | null;
  level: number | null;
  values: TwistValues | null;
  says: string;
  proof: Proof | null;
}

/** Where a lesson of the list comes from: it ships with Vigilum, or somebody here made it; when it was changed last. */
export interface LessonFacts {
  slug: string;
  shipped: boolean;
  changedAt: number | null;
}

export interface LessonRoutes {
  'GET /lessons': { reply: { lessons: Lesson[]; facts: LessonFacts[] } };
  'POST /lessons': { body: { lesson: Lesson }; reply: DraftState };
  'GET /lessons/:slug': { reply: Lesson };
  'PATCH /lessons/:slug': { body: LessonChange; reply: { lesson: Lesson; revision: number; freed: number } };
  'DELETE /lessons/:slug': { reply: undefined };
  'POST /lessons/:slug/restoration': { reply: undefined };
  'GET /lessons/:slug/bench': { reply: LessonBench };
  'POST /lessons/:slug/shipped-form': { reply: Lesson };
  'GET /lessons/:slug/draft': { reply: Draft };
  'PUT /lessons/:slug/draft': {
    body: { revision: number; lesson: Lesson; note?: string };
    reply: DraftState;
  };
  'POST /lessons/:slug/model-proofs': { reply: { proof: Proof } };
  'POST /lessons/:slug/copies': { body: { title?: string; from?: string }; reply: DraftState };
  'GET /lessons/:slug/versions': { reply: { versions: LessonVersion[] } };
  'GET /lessons/:slug/versions/:version': { reply: { lesson: Lesson } };
  'POST /lessons/:slug/versions/:version/restoration': { reply: DraftState };
  'POST /lessons/imports': { body: { text: string }; reply: { lesson: Lesson; missing: Missing[] } };
  'GET /lessons/:slug/variants/:class': { reply: { variants: Variant[] } };
  'POST /lessons/:slug/variants': {
    body: { classId: number; seed: number; level: number };
    reply: { handed: number; judged: number };
  };
  'DELETE /lessons/:slug/variants/:class': { reply: undefined };
}

const note = wordsOrNone(120);
export const lessonRequests = {
  'POST /lessons': Joi.object<{ lesson: Lesson }>({ lesson: lessonSchema.required() }),
  'PATCH /lessons/:slug': Joi.object<LessonChange>({
    revision: whole(1, 2 ** 31 - 1).required(),
    expectations: expectationsSchema,
    conditions: conditionsSchema,
    proof: proofSchema,
  }).min(2),
  'PUT /lessons/:slug/draft': Joi.object<{ revision: number; lesson: Lesson; note?: string }>({
    revision: whole(1, 2 ** 31 - 1).required(),
    lesson: lessonSchema.required(),
    note,
  }),
  'POST /lessons/:slug/copies': Joi.object<{ title?: string; from?: string }>({
    title: words(120),
    from: note,
  }),
  'POST /lessons/imports': Joi.object<{ text: string }>({
    text: Joi.string().max(LESSON_FILE_LIMIT).required(),
  }),
  'POST /lessons/:slug/variants': Joi.object<{ classId: number; seed: number; level: number }>({
    classId: whole(1, 2 ** 31 - 1).required(),
    seed: seedNumber.required(),
    level: whole(0, 3).required(),
  }),
};

const draft = Joi.object<DraftState>({
  lesson: lessonSchema.required(),
  revision: count.required(),
  changed: Joi.boolean().required(),
  shipped: Joi.boolean().required(),
  removed: Joi.boolean().required(),
  model: oneOf('never proved', 'proved', 'not proved').required() as Joi.Schema<ModelState>,
  modelProof: maybe(proof),
});
export const lessonReplies = {
  'GET /lessons': Joi.object({
    lessons: Joi.array().items(lessonSchema).required(),
    facts: Joi.array()
      .items(
        Joi.object<LessonFacts>({
          slug: text.required(),
          shipped: Joi.boolean().required(),
          changedAt: maybe(moment),
        }),
      )
      .required(),
  }),
  'POST /lessons': draft,
  'GET /lessons/:slug': lessonSchema,
  'PATCH /lessons/:slug': Joi.object({
    lesson: lessonSchema.required(),
    revision: count.required(),
    freed: count.required(),
  }),
  'DELETE /lessons/:slug': null,
  'POST /lessons/:slug/restoration': null,
  'GET /lessons/:slug/bench': Joi.object<LessonBench>({
    lesson: lessonSchema.required(),
    revision: count.required(),
    kit: maybe(kitSchema),
    twisted: Joi.boolean().required(),
    changed: Joi.boolean().required(),
    shipped: Joi.boolean().required(),
  }),
  'POST /lessons/:slug/shipped-form': lessonSchema,
  'GET /lessons/:slug/draft': (draft as Joi.ObjectSchema).keys({
    kits: Joi.array().items(kitSchema).required(),
  }),
  'PUT /lessons/:slug/draft': draft,
  'POST /lessons/:slug/model-proofs': Joi.object({ proof: proof.required() }),
  'POST /lessons/:slug/copies': draft,
  'GET /lessons/:slug/versions': Joi.object({
    versions: Joi.array()
      .items(
        Joi.object<LessonVersion>({
          version: count.required(),
          note: text.required(),
          at: moment.required(),
        }),
      )
      .required(),
  }),
  'GET /lessons/:slug/versions/:version': Joi.object({ lesson: lessonSchema.required() }),
  'POST /lessons/:slug/versions/:version/restoration': draft,
  'POST /lessons/imports': Joi.object({
    lesson: lessonSchema.required(),
    missing: Joi.array()
      .items(
        Joi.object<Missing>({
          step: maybe(text),
          grade: oneOf('stop', 'note').required(),
          says: text.required(),
        }),
      )
      .required(),
  }),
  'GET /lessons/:slug/variants/:class': Joi.object({
    variants: Joi.array()
      .items(
        Joi.object<Variant>({
          team: named.required(),
          seed: maybe(Joi.number().integer()),
          level: maybe(count),
          values: maybe(Joi.object().pattern(Joi.string(), Joi.alternatives().try(Joi.number(), text))),
          says: text.required(),
          proof: maybe(proof),
        }),
      )
      .required(),
  }),
  'POST /lessons/:slug/variants': Joi.object({ handed: count.required(), judged: count.required() }),
  'DELETE /lessons/:slug/variants/:class': null,
};
