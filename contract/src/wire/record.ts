import Joi from 'joi';
import type { ClassReport } from '@vigilum/core/year';
import { count, moment, nameWords, verbatim, whole, words } from '../basics.ts';
import { reportSchema } from '../files/report.ts';
import { seriesFileSchema, type SeriesFile } from '../files/series.ts';
import { teamMembers, type TeamMember } from './members.ts';
import { maybe, text } from './shared.ts';

/** What a team handed in, and what the teacher says of it. */
export interface HandedIn {
  id: number;
  step: string;
  text: string;
  handedAt: number;
  seenAt: number | null;
  answer: string | null;
  answeredBy: string | null;
  /** To be done again. */
  again: boolean;
}
export interface HandedInOfClass extends HandedIn {
  team: { id: number; name: string };
  lesson: { slug: string; title: string };
  /** What the step asks. */
  task: string;
}

/** What would be, or was, deleted for good: rows by table. */
export interface Oblivion {
  team: string;
  rows: { table: string; rows: number }[];
}

export interface SeriesPreview {
  name: string;
  aim: string;
  from: string;
  /** `same`: it is here, and stays. `other`: one of its name is here that differs; this comes beside it. */
  lessons: { title: string; is: 'new' | 'same' | 'other' }[];
  skills: { name: string; is: 'new' | 'same' }[];
  kits: { name: string; is: 'new' | 'same' }[];
  /** The series that was made; null where it was only looked at. */
  id: number | null;
}

export interface TermCopy {
  name: string;
  /** First day. */
  from: string;
  /** Which class of the old term each class takes over from. */
  classes: { from: number; to: number }[];
}

export interface RecordRoutes {
  'GET /teams/:id/members': { reply: { members: TeamMember[] } };
  'POST /teams/:id/members': { body: { nickname: string }; reply: { id: number } };
  'DELETE /teams/:id/members/:member': { reply: undefined };
  'GET /teams/:id/oblivion': { reply: Oblivion };
  'POST /teams/:id/oblivion': { body: { name: string }; reply: Oblivion };
  'GET /forgotten': { reply: { forgotten: { at: number; by: string; rows: number }[] } };
  'GET /classes/:id/reports/:term': { reply: ClassReport };
  'GET /teams/:id/lessons/:slug/homework': { reply: { homework: HandedIn[] } };
  'POST /teams/:id/lessons/:slug/homework': { body: { step: string; text: string }; reply: HandedIn };
  'GET /classes/:id/homework': { reply: { homework: HandedInOfClass[] } };
  'PATCH /homework/:id': {
    body: { seen?: true; answer?: string; again?: boolean };
    reply: undefined;
  };
  'GET /series/:id/file': { reply: SeriesFile };
  'POST /series/imports': { body: { text: string; take: boolean }; reply: SeriesPreview };
  'POST /terms/:id/copies': {
    body: TermCopy;
    reply: { id: number; meetings: number; hours: number; over: string[] };
  };
}

const rowId = whole(1, 2 ** 31 - 1);
const day = Joi.string().pattern(/^\d{4}-\d\d-\d\d$/, 'a day as 2026-11-28');

export const recordRequests = {
  'POST /teams/:id/members': Joi.object({ nickname: nameWords(30).required() }),
  'POST /teams/:id/oblivion': Joi.object({ name: words(40).required() }),
  'POST /teams/:id/lessons/:slug/homework': Joi.object({
    step: words(60).required(),
    text: verbatim(8000).required(),
  }),
  'PATCH /homework/:id': Joi.object({
    seen: Joi.valid(true),
    answer: words(500),
    again: Joi.boolean(),
  }).min(1),
  'POST /series/imports': Joi.object({
    text: Joi.string().max(6_000_000).required(),
    take: Joi.boolean().required(),
  }),
  'POST /terms/:id/copies': Joi.object<TermCopy>({
    name: nameWords(60).required(),
    from: day.required(),
    classes: Joi.array()
      .items(Joi.object({ from: rowId.required(), to: rowId.required() }))
      .min(1)
      .max(60)
      .required(),
  }),
};

const handedIn = {
  id: count.required(),
  step: text.required(),
  text: text.required(),
  handedAt: moment.required(),
  seenAt: maybe(moment),
  answer: maybe(text),
  answeredBy: maybe(text),
  again: Joi.boolean().required(),
};
const oblivion = Joi.object<Oblivion>({
  team: text.required(),
  rows: Joi.array()
    .items(Joi.object({ table: text.required(), rows: count.required() }))
    .required(),
});
const named = (...is: string[]) =>
  Joi.array()
    .items(Joi.object({ name: text, title: text, is: Joi.valid(...is).required() }))
    .required();
export const recordReplies = {
  'GET /teams/:id/members': Joi.object({ members: teamMembers }),
  'POST /teams/:id/members': Joi.object({ id: count.required() }),
  'DELETE /teams/:id/members/:member': null,
  'GET /teams/:id/oblivion': oblivion,
  'POST /teams/:id/oblivion': oblivion,
  'GET /forgotten': Joi.object({
    forgotten: Joi.array()
      .items(Joi.object({ at: moment.required(), by: text.required(), rows: count.required() }))
      .required(),
  }),
  'GET /classes/:id/reports/:term': reportSchema,
  'GET /teams/:id/lessons/:slug/homework': Joi.object({
    homework: Joi.array().items(Joi.object(handedIn)).required(),
  }),
  'POST /teams/:id/lessons/:slug/homework': Joi.object(handedIn),
  'GET /classes/:id/homework': Joi.object({
    homework: Joi.array()
      .items(
        Joi.object({
          ...handedIn,
          team: Joi.object({ id: count.required(), name: text.required() }).required(),
          lesson: Joi.object({ slug: text.required(), title: text.required() }).required(),
          task: text.required(),
        }),
      )
      .required(),
  }),
  'PATCH /homework/:id': null,
  'GET /series/:id/file': seriesFileSchema,
  'POST /series/imports': Joi.object<SeriesPreview>({
    name: text.required(),
    aim: text.required(),
    from: text.required(),
    lessons: named('new', 'same', 'other'),
    skills: named('new', 'same'),
    kits: named('new', 'same'),
    id: maybe(count),
  }),
  'POST /terms/:id/copies': Joi.object({
    id: count.required(),
    meetings: count.required(),
    hours: count.required(),
    over: Joi.array().items(text).required(),
  }),
};
