import Joi from 'joi';
import { courseFamilies } from '@vigilum/core/course';
import { count, moment, rowId, wordsOrNone } from '../basics.ts';
import { courseSchema } from '../files/course.ts';
import { buildSchema, kitSchema } from '../files/kit.ts';
import { phrasebookSchema } from '../files/phrasebook.ts';
import { list, maybe, more, oneOf, optional, record, shape, type RouteShapes, type Typed } from '../shape.ts';
import { id, kindOfSensor, number, text } from './shared.ts';

/** A save says which revision it was made from, and may say what brought it about. */
const save = { revision: rowId, note: optional(wordsOrNone(120)) };
const revised = { revision: count };

/** The kits, each with a robot of it as it is first put together, and what each lesson here needs of one. */
const kits = shape({
  kits: list(shape({ kit: kitSchema, robots: count, usual: buildSchema, ...revised })),
  needs: list(shape({ slug: text, title: text, needs: list(kindOfSensor) })),
});
export type Kits = Typed<typeof kits>;

const numbers = record(number, Joi.string().max(40)).max(20);
const courseFields = {
  course: courseSchema,
  family: optional(maybe(oneOf(...courseFamilies.map((family) => family.id)))),
  parameters: optional(maybe(numbers)),
};
const courseValue = shape(courseFields);
export type CourseValue = Typed<typeof courseValue>;
const storedCourse = shape({
  id: count,
  name: text,
  course: courseSchema,
  family: maybe(text),
  parameters: maybe(numbers),
  ...revised,
  at: moment,
});
export type StoredCourse = Typed<typeof storedCourse>;
const courses = shape({
  courses: list(storedCourse),
  lessons: list(shape({ slug: text, title: text, course: courseSchema })),
});
export type Courses = Typed<typeof courses>;

const storedBook = shape({ id: count, book: phrasebookSchema, ...revised });
export type StoredBook = Typed<typeof storedBook>;

/** Things whose earlier states are kept, by what names one of them. */
export type KeptKind = 'kit' | 'course' | 'phrasebook' | 'note';
/** An earlier state of a thing. */
const keptVersion = shape({ ...revised, at: moment, note: text, value: Joi.any<unknown>() });
export type KeptVersion = Typed<typeof keptVersion>;

export const thingRoutes = {
  'GET /kits': { reply: kits },
  'POST /kits': { body: kitSchema, reply: shape({ slug: text }) },
  'PUT /kits/:slug': { body: shape({ ...save, kit: kitSchema }), reply: shape({ slug: text, ...revised }) },
  'DELETE /kits/:slug': { reply: null },
  'POST /kits/:slug/restoration': { reply: null },
  'GET /kits/:slug/phrasebooks': { reply: shape({ phrasebooks: list(storedBook) }) },
  'POST /kits/:slug/phrasebooks': { body: phrasebookSchema, reply: id },
  'PUT /phrasebooks/:id': { body: shape({ ...save, book: phrasebookSchema }), reply: more(id, revised) },
  'DELETE /phrasebooks/:id': { reply: null },
  'POST /phrasebooks/:id/restoration': { reply: null },
  'GET /courses': { reply: courses },
  'POST /courses': { body: courseValue, reply: id },
  'GET /courses/:id': { reply: storedCourse },
  'PUT /courses/:id': { body: shape({ ...save, ...courseFields }), reply: more(id, revised) },
  'DELETE /courses/:id': { reply: null },
  'POST /courses/:id/restoration': { reply: null },
  'POST /course-families/:id/builds': { body: numbers, reply: courseSchema },
  'GET /kept-versions': {
    query: shape({ of: oneOf('kit', 'course', 'phrasebook', 'note'), key: text }),
    reply: shape({ versions: list(keptVersion) }),
  },
} satisfies RouteShapes;
