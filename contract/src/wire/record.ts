import Joi from 'joi';
import { count, day, moment, nameWords, rowId, verbatim, words } from '../basics.ts';
import { reportSchema } from '../files/report.ts';
import { seriesFileSchema } from '../files/series.ts';
import { list, maybe, oneOf, optional, shape, type RouteShapes, type Typed } from '../shape.ts';
import { teamMembers } from './members.ts';
import { flag, id, named, text } from './shared.ts';

const handedFields = {
  id: count,
  step: text,
  text,
  handedAt: moment,
  seenAt: maybe(moment),
  answer: maybe(text),
  answeredBy: maybe(text),
  /** To be done again. */
  again: flag,
};
const handedIn = shape(handedFields);
/** What a team handed in, and what the teacher says of it. */
export type HandedIn = Typed<typeof handedIn>;
const handedInOfClass = shape({
  ...handedFields,
  team: named,
  lesson: shape({ slug: text, title: text }),
  /** What the step asks. */
  task: text,
});
export type HandedInOfClass = Typed<typeof handedInOfClass>;

const oblivion = shape({ team: text, rows: list(shape({ table: text, rows: count })) });
/** What would be, or was, deleted for good: rows by table. */
export type Oblivion = Typed<typeof oblivion>;

const newOrSame = list(shape({ name: text, is: oneOf('new', 'same') }));
const seriesPreview = shape({
  name: text,
  aim: text,
  from: text,
  /** `same`: it is here, and stays. `other`: one of its name is here that differs; this comes beside it. */
  lessons: list(shape({ title: text, is: oneOf('new', 'same', 'other') })),
  skills: newOrSame,
  kits: newOrSame,
  /** The series that was made; null where it was only looked at. */
  id: maybe(count),
});
export type SeriesPreview = Typed<typeof seriesPreview>;

const termCopy = shape({
  name: nameWords(60),
  /** First day. */
  from: day,
  /** Which class of the old term each class takes over from. */
  classes: list(shape({ from: rowId, to: rowId }))
    .min(1)
    .max(60),
});
export type TermCopy = Typed<typeof termCopy>;

export const recordRoutes = {
  'GET /teams/:id/members': { reply: shape({ members: teamMembers }) },
  'POST /teams/:id/members': { body: shape({ nickname: nameWords(30) }), reply: id },
  'DELETE /teams/:id/members/:member': { reply: null },
  'GET /teams/:id/oblivion': { reply: oblivion },
  'POST /teams/:id/oblivion': { body: shape({ name: words(40) }), reply: oblivion },
  'GET /forgotten': { reply: shape({ forgotten: list(shape({ at: moment, by: text, rows: count })) }) },
  'GET /classes/:id/reports/:term': { reply: reportSchema },
  'GET /teams/:id/lessons/:slug/homework': { reply: shape({ homework: list(handedIn) }) },
  'POST /teams/:id/lessons/:slug/homework': {
    body: shape({ step: words(60), text: verbatim(8000) }),
    reply: handedIn,
  },
  'GET /classes/:id/homework': { reply: shape({ homework: list(handedInOfClass) }) },
  'PATCH /homework/:id': {
    body: shape({
      seen: optional(oneOf(true)),
      answer: optional(words(500)),
      again: optional(flag),
    }).min(1),
    reply: null,
  },
  'GET /series/:id/file': { reply: seriesFileSchema },
  'POST /series/imports': {
    body: shape({ text: Joi.string().max(6_000_000), take: flag }),
    reply: seriesPreview,
  },
  'POST /terms/:id/copies': {
    body: termCopy,
    reply: shape({ id: count, meetings: count, hours: count, over: list(text) }),
  },
} satisfies RouteShapes;
