import Joi from 'joi';
import { LONGEST_TEAM, MOST_TEAMS } from '@vigilum/core/formats';
import { count, nameWords, oneOf, whole, words, wordsOrNone } from '../basics.ts';
import { maybe, id, named, text } from './shared.ts';

/** What is there already: what the first day begins with, and how far it is. */
export interface School {
  /** The school’s name, as new classes take it; empty while nobody has said it. */
  name: string;
  robots: number;
  classes: number;
  hours: number;
}
/** Which robots a class takes: those of a kit in a cupboard, one after the other and new ones where they are too few; or new ones alone. */
export interface RobotsFor {
  kit: string;
  cupboard: string;
  take: 'those there' | 'new';
}
export interface NewClass {
  school: string;
  name: string;
  teams: string[];
  robots: RobotsFor;
}
export interface ClassEntry {
  id: number;
  school: string;
  name: string;
  teams: number;
  /** Of another year: kept, and not offered where hours are started. */
  archived: boolean;
  /** Whose class it is; null where nobody has said. */
  teacher: { id: number; name: string } | null;
}
export interface ClassChange {
  /** Hands the class to somebody; for its own teacher and owners. */
  teacher?: number | null;
  school?: string;
  name?: string;
  archived?: boolean;
}
export interface Member {
  id: number;
  name: string;
  robot: { id: number; name: string; kit: string; cupboard: string };
}
export interface ClassDetail extends ClassEntry {
  members: Member[];
}
export interface TeamEntry {
  id: number;
  name: string;
  class: string;
  robot: number;
}

export interface SetupRoutes {
  'GET /school': { reply: School };
  'PUT /school': { body: { name: string }; reply: undefined };
  'GET /classes': { reply: { classes: ClassEntry[] } };
  'POST /classes': { body: NewClass; reply: { id: number } };
  'GET /classes/:id': { reply: ClassDetail };
  'PATCH /classes/:id': { body: ClassChange; reply: undefined };
  'DELETE /classes/:id': { reply: undefined };
  'POST /classes/:id/restoration': { reply: undefined };
  /** A class of another name with teams of the same names and the same robots; without their record. */
  'POST /classes/:id/copies': { body: { name: string }; reply: { id: number } };
  'POST /classes/:id/teams': { body: { teams: string[]; robots: RobotsFor }; reply: { ids: number[] } };
  'GET /teams': { reply: { teams: TeamEntry[] } };
  'PATCH /teams/:id': { body: { name: string }; reply: undefined };
  'DELETE /teams/:id': { reply: undefined };
  'POST /teams/:id/restoration': { reply: undefined };
  /** The team goes on in another class; its record stays with the hours of the class that it leaves. */
  'POST /teams/:id/moves': { body: { class: number }; reply: { id: number } };
  'PUT /teams/:id/robot': { body: { robot: number }; reply: { before: number; exchanged: boolean } };
}

// Whatever else is wrong with them: what is no text is like no other.
const sameName = (a: unknown, b: unknown) =>
  typeof a === 'string' && typeof b === 'string' && a.trim().toLowerCase() === b.trim().toLowerCase();
const schoolName = nameWords(120);
const className = nameWords(80);
const teamName = nameWords(LONGEST_TEAM);
const teamList = Joi.array().items(teamName).min(1).max(MOST_TEAMS).unique(sameName).required();
export const cupboardName = wordsOrNone(60);
const robotsFor = Joi.object<RobotsFor>({
  kit: words(40).required(),
  cupboard: cupboardName.required(),
  take: oneOf('those there', 'new').required(),
}).required();
export const setupRequests = {
  'PUT /school': Joi.object<{ name: string }>({ name: schoolName.required() }),
  'POST /classes': Joi.object<NewClass>({
    school: schoolName.required(),
    name: className.required(),
    teams: teamList,
    robots: robotsFor,
  }),
  'PATCH /classes/:id': Joi.object<ClassChange>({
    school: schoolName,
    name: className,
    archived: Joi.boolean(),
    teacher: whole(1, 2 ** 31 - 1).allow(null),
  }).min(1),
  'POST /classes/:id/copies': Joi.object<{ name: string }>({ name: className.required() }),
  'POST /classes/:id/teams': Joi.object<{ teams: string[]; robots: RobotsFor }>({
    teams: teamList,
    robots: robotsFor,
  }),
  'PATCH /teams/:id': Joi.object<{ name: string }>({ name: teamName.required() }),
  'POST /teams/:id/moves': Joi.object<{ class: number }>({ class: whole(1, 2 ** 31 - 1).required() }),
  'PUT /teams/:id/robot': Joi.object<{ robot: number }>({ robot: whole(1, 2 ** 31 - 1).required() }),
};

const entryFields = {
  school: text.required(),
  teams: count.required(),
  archived: Joi.boolean().required(),
  teacher: maybe(named),
};
export const classEntry = named.keys(entryFields);
export const setupReplies = {
  'GET /school': Joi.object<School>({
    name: text.required(),
    robots: count.required(),
    classes: count.required(),
    hours: count.required(),
  }),
  'PUT /school': null,
  'GET /classes': Joi.object({ classes: Joi.array().items(classEntry).required() }),
  'POST /classes': id,
  'GET /classes/:id': named.keys({
    ...entryFields,
    members: Joi.array()
      .items(
        named.keys({ robot: named.keys({ kit: text.required(), cupboard: text.required() }).required() }),
      )
      .required(),
  }),
  'PATCH /classes/:id': null,
  'DELETE /classes/:id': null,
  'POST /classes/:id/restoration': null,
  'POST /classes/:id/copies': id,
  'POST /classes/:id/teams': Joi.object({ ids: Joi.array().items(count).required() }),
  'GET /teams': Joi.object({
    teams: Joi.array()
      .items(named.keys({ class: text.required(), robot: count.required() }))
      .required(),
  }),
  'PATCH /teams/:id': null,
  'DELETE /teams/:id': null,
  'POST /teams/:id/restoration': null,
  'POST /teams/:id/moves': id,
  'PUT /teams/:id/robot': Joi.object({ before: count.required(), exchanged: Joi.boolean().required() }),
};
