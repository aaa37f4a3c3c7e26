import { LONGEST_TEAM, MOST_TEAMS } from '@vigilum/core/formats';
import { count, nameWords, rowId, words, wordsOrNone } from '../basics.ts';
import { list, maybe, more, oneOf, optional, shape, type RouteShapes, type Typed } from '../shape.ts';
import { flag, id, ids, named, text } from './shared.ts';

const school = shape({
  /** The school’s name, as new classes take it; empty while nobody has said it. */
  name: text,
  robots: count,
  classes: count,
  hours: count,
});
/** What is there already: what the first day begins with, and how far it is. */
export type School = Typed<typeof school>;

// Whatever else is wrong with them: what is no text is like no other.
const sameName = (a: unknown, b: unknown) =>
  typeof a === 'string' && typeof b === 'string' && a.trim().toLowerCase() === b.trim().toLowerCase();
const schoolName = nameWords(120);
const className = nameWords(80);
const teamName = nameWords(LONGEST_TEAM);
const teamList = list(teamName).min(1).max(MOST_TEAMS).unique(sameName);
export const cupboardName = wordsOrNone(60);

const robotsFor = shape({ kit: words(40), cupboard: cupboardName, take: oneOf('those there', 'new') });
/** Which robots a class takes: those of a kit in a cupboard, one after the other and new ones where they are too few; or new ones alone. */
export type RobotsFor = Typed<typeof robotsFor>;
const newClass = shape({ school: schoolName, name: className, teams: teamList, robots: robotsFor });
export type NewClass = Typed<typeof newClass>;

export const classEntry = more(named, {
  school: text,
  teams: count,
  /** Of another year: kept, and not offered where hours are started. */
  archived: flag,
  /** Whose class it is; null where nobody has said. */
  teacher: maybe(named),
});
export type ClassEntry = Typed<typeof classEntry>;
const classChange = shape({
  school: optional(schoolName),
  name: optional(className),
  archived: optional(flag),
  /** Hands the class to somebody; for its own teacher and owners. */
  teacher: optional(maybe(rowId)),
}).min(1);
export type ClassChange = Typed<typeof classChange>;

const member = more(named, { robot: more(named, { kit: text, cupboard: text }) });
export type Member = Typed<typeof member>;
const classDetail = more(classEntry, { members: list(member) });
export type ClassDetail = Typed<typeof classDetail>;
const teamEntry = more(named, { class: text, robot: count });
export type TeamEntry = Typed<typeof teamEntry>;

export const setupRoutes = {
  'GET /school': { reply: school },
  'PUT /school': { body: shape({ name: schoolName }), reply: null },
  'GET /classes': { reply: shape({ classes: list(classEntry) }) },
  'POST /classes': { body: newClass, reply: id },
  'GET /classes/:id': { reply: classDetail },
  'PATCH /classes/:id': { body: classChange, reply: null },
  'DELETE /classes/:id': { reply: null },
  'POST /classes/:id/restoration': { reply: null },
  /** A class of another name with teams of the same names and the same robots; without their record. */
  'POST /classes/:id/copies': { body: shape({ name: className }), reply: id },
  'POST /classes/:id/teams': { body: shape({ teams: teamList, robots: robotsFor }), reply: ids },
  'GET /teams': { reply: shape({ teams: list(teamEntry) }) },
  'PATCH /teams/:id': { body: shape({ name: teamName }), reply: null },
  'DELETE /teams/:id': { reply: null },
  'POST /teams/:id/restoration': { reply: null },
  /** The team goes on in another class; its record stays with the hours of the class that it leaves. */
  'POST /teams/:id/moves': { body: shape({ class: rowId }), reply: id },
  'PUT /teams/:id/robot': { body: shape({ robot: rowId }), reply: shape({ before: count, exchanged: flag }) },
} satisfies RouteShapes;
