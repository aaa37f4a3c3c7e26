import Joi from 'joi';
import { courseFamilies, type Course } from '@vigilum/core/course';
import type { Phrasebook } from '@vigilum/core/phrasebook';
import type { Kit, RobotBuild, SensorKind } from '@vigilum/core/sensing';
import { count, moment, oneOf, whole, wordsOrNone } from '../basics.ts';
import { courseSchema } from '../files/course.ts';
import { buildSchema, kitSchema } from '../files/kit.ts';
import { phrasebookSchema } from '../files/phrasebook.ts';
import { id, kindOfSensor, maybe, text } from './shared.ts';

/** The kits, each with a robot of it as it is first put together, and what each lesson here needs of one. */
export interface Kits {
  kits: { kit: Kit; robots: number; revision: number; usual: RobotBuild }[];
  needs: { slug: string; title: string; needs: SensorKind[] }[];
}
export interface CourseValue {
  course: Course;
  family?: string | null;
  parameters?: Record<string, number> | null;
}
export interface StoredCourse {
  id: number;
  name: string;
  course: Course;
  family: string | null;
  parameters: Record<string, number> | null;
  revision: number;
  at: number;
}
export interface Courses {
  courses: StoredCourse[];
  lessons: { slug: string; title: string; course: Course }[];
}
export interface StoredBook {
  id: number;
  book: Phrasebook;
  revision: number;
}
/** Things whose earlier states are kept, by what names one of them. */
export type KeptKind = 'kit' | 'course' | 'phrasebook' | 'note';
/** An earlier state of a thing. */
export interface KeptVersion {
  revision: number;
  at: number;
  note: string;
  value: unknown;
}
/** A save says which revision it was made from, and may say what brought it about. */
interface Save {
  revision: number;
  note?: string;
}

export interface ThingRoutes {
  'GET /kits': { reply: Kits };
  'POST /kits': { body: Kit; reply: { slug: string } };
  'PUT /kits/:slug': { body: Save & { kit: Kit }; reply: { slug: string; revision: number } };
  'DELETE /kits/:slug': { reply: undefined };
  'POST /kits/:slug/restoration': { reply: undefined };
  'GET /kits/:slug/phrasebooks': { reply: { phrasebooks: StoredBook[] } };
  'POST /kits/:slug/phrasebooks': { body: Phrasebook; reply: { id: number } };
  'PUT /phrasebooks/:id': { body: Save & { book: Phrasebook }; reply: { id: number; revision: number } };
  'DELETE /phrasebooks/:id': { reply: undefined };
  'POST /phrasebooks/:id/restoration': { reply: undefined };
  'GET /courses': { reply: Courses };
  'POST /courses': { body: CourseValue; reply: { id: number } };
  'GET /courses/:id': { reply: StoredCourse };
  'PUT /courses/:id': { body: Save & CourseValue; reply: { id: number; revision: number } };
  'DELETE /courses/:id': { reply: undefined };
  'POST /courses/:id/restoration': { reply: undefined };
  'POST /course-families/:id/builds': { body: Record<string, number>; reply: Course };
  'GET /kept-versions': { query: { of: KeptKind; key: string }; reply: { versions: KeptVersion[] } };
}

const save = { revision: whole(1, 2 ** 31 - 1).required(), note: wordsOrNone(120) };
const numbers = Joi.object<Record<string, number>>().pattern(Joi.string().max(40), Joi.number()).max(20);
const courseValue = {
  course: courseSchema.required(),
  family: oneOf(...courseFamilies.map((family) => family.id)).allow(null),
  parameters: numbers.allow(null),
};
export const thingRequests = {
  'POST /kits': kitSchema,
  'PUT /kits/:slug': Joi.object<Save & { kit: Kit }>({ ...save, kit: kitSchema.required() }),
  'POST /kits/:slug/phrasebooks': phrasebookSchema,
  'PUT /phrasebooks/:id': Joi.object<Save & { book: Phrasebook }>({
    ...save,
    book: phrasebookSchema.required(),
  }),
  'POST /courses': Joi.object<CourseValue>(courseValue),
  'PUT /courses/:id': Joi.object<Save & CourseValue>({ ...save, ...courseValue }),
  'POST /course-families/:id/builds': numbers,
};

const revised = { revision: count.required() };
const storedCourse = Joi.object<StoredCourse>({
  id: count.required(),
  name: text.required(),
  course: courseSchema.required(),
  family: maybe(text),
  parameters: maybe(numbers),
  ...revised,
  at: moment.required(),
});
export const thingReplies = {
  'GET /kits': Joi.object<Kits>({
    kits: Joi.array()
      .items(
        Joi.object({
          kit: kitSchema.required(),
          robots: count.required(),
          usual: buildSchema.required(),
          ...revised,
        }),
      )
      .required(),
    needs: Joi.array()
      .items(
        Joi.object({
          slug: text.required(),
          title: text.required(),
          needs: Joi.array().items(kindOfSensor).required(),
        }),
      )
      .required(),
  }),
  'POST /kits': Joi.object({ slug: text.required() }),
  'PUT /kits/:slug': Joi.object({ slug: text.required(), ...revised }),
  'DELETE /kits/:slug': null,
  'POST /kits/:slug/restoration': null,
  'GET /kits/:slug/phrasebooks': Joi.object({
    phrasebooks: Joi.array()
      .items(Joi.object({ id: count.required(), book: phrasebookSchema.required(), ...revised }))
      .required(),
  }),
  'POST /kits/:slug/phrasebooks': id,
  'PUT /phrasebooks/:id': id.keys(revised),
  'DELETE /phrasebooks/:id': null,
  'POST /phrasebooks/:id/restoration': null,
  'GET /courses': Joi.object({
    courses: Joi.array().items(storedCourse).required(),
    lessons: Joi.array()
      .items(Joi.object({ slug: text.required(), title: text.required(), course: courseSchema.required() }))
      .required(),
  }),
  'POST /courses': id,
  'GET /courses/:id': storedCourse,
  'PUT /courses/:id': id.keys(revised),
  'DELETE /courses/:id': null,
  'POST /courses/:id/restoration': null,
  'POST /course-families/:id/builds': courseSchema,
  'GET /kept-versions': Joi.object({
    versions: Joi.array()
      .items(
        Joi.object<KeptVersion>({
          ...revised,
          at: moment.required(),
          note: text.required(),
          value: Joi.any().required(),
        }),
      )
      .required(),
  }),
};
