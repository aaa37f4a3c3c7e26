import Joi from 'joi';
import { teamPictures } from '@vigilum/core/classroom';
import { count, moment, nameWords, rowId, words } from '../basics.ts';
import { accountRoles, roles } from '../roles.ts';
import { list, maybe, more, oneOf, optional, shape, type RouteShapes, type Typed } from '../shape.ts';
import { flag, id, named, text } from './shared.ts';

/** Shortest password; longer ones are measured by length alone, as the usual guidance has it. */
export const SHORTEST_PASSWORD = 10;
export const LONGEST_PASSWORD = 200;
const newPassword = Joi.string()
  .min(SHORTEST_PASSWORD)
  .max(LONGEST_PASSWORD)
  .messages({
    'string.min': `the password needs at least ${SHORTEST_PASSWORD} characters. Three words that have nothing to do with each other work well`,
  });
const anyPassword = Joi.string().max(LONGEST_PASSWORD);
const role = oneOf(...accountRoles);
const picture = oneOf(...teamPictures);
/** Classes that a guest sees. */
const classIds = list(rowId).max(200).unique();

const me = shape({
  role: oneOf(...roles),
  /** Name of the account, of the team, or of the class of a board; '' for nobody. */
  name: text,
  school: text,
  account: maybe(count),
  /** The team of a tablet. */
  team: maybe(shape({ id: count, class: text })),
  /** It is the school that looks after all others; only its owners do. */
  office: flag,
  /** There are several schools: whoever signs in says to which. */
  several: flag,
  /** Nobody has an account here yet: the first is to be made. */
  first: flag,
  /** Made-up data, in which this machine is signed in by itself. */
  demo: flag,
  /** The disk of the server is full: everything can be looked at and nothing saved, and who signs in is kept in memory. */
  diskFull: flag,
});
/** Who asks, as a page needs to know it. */
export type Me = Typed<typeof me>;

const newAccount = shape({ name: nameWords(60), password: newPassword });
export type Credentials = Typed<typeof newAccount>;
const firstAccount = more(newAccount, {
  /** Without it, or with another, the answer is 403. */
  code: optional(words(80)),
});
/** The first account of a school takes the code that was printed when the server was started. */
export type FirstAccount = Typed<typeof firstAccount>;
const signIn = shape({ name: words(60), password: anyPassword, school: optional(words(40)) });
/** What somebody signs in with; `school` is the short name of theirs where there are several. */
export type SignIn = Typed<typeof signIn>;

const account = more(named, {
  role,
  /** When it was last seen; null for never. */
  seenAt: maybe(moment),
  /** On how many machines it is signed in. */
  sessions: count,
  /** Classes that a guest sees; others see all. */
  classes: list(count),
});
export type Account = Typed<typeof account>;
const accountChange = shape({ role: optional(role), classes: optional(classIds) }).min(1);
/** What an owner changes of an account. */
export type AccountChange = Typed<typeof accountChange>;
const newInvitation = shape({ role, classes: optional(classIds) });
export type NewInvitation = Typed<typeof newInvitation>;
const invitation = more(id, { role, by: text, until: moment });
/** An invitation that can still be taken up. Its link is told once, when it is made. */
export type Invitation = Typed<typeof invitation>;
const accounts = shape({
  now: moment,
  accounts: list(account),
  invitations: list(invitation),
  /** The code for the first account, for the server's own machine; null once there is an account. */
  firstCode: maybe(text),
});
export type Accounts = Typed<typeof accounts>;

const teamDoor = more(named, {
  picture,
  /** What the card of the team leads to: `/card/<token>`. */
  card: text,
  /** Machines that are signed in as the team, latest seen first. */
  tablets: list(more(id, { seenAt: moment, since: moment })),
});
/** A team at the door of its class, for the teacher who prints cards. */
export type TeamDoor = Typed<typeof teamDoor>;
const doors = shape({
  now: moment,
  school: text,
  class: text,
  code: text,
  /** What the projector's link leads to: `/board/<token>`. */
  board: text,
  /** Projectors that are signed in. */
  boards: count,
  teams: list(teamDoor),
  /** Addresses at which tablets reach the server; none where it answers this machine alone. */
  addresses: list(text),
});
export type Doors = Typed<typeof doors>;
const openDoor = shape({ school: text, class: text, teams: list(named) });
/** What a class code opens: the teams to choose from. */
export type OpenDoor = Typed<typeof openDoor>;

const code = words(40);
const token = words(80);
export const accessRoutes = {
  'GET /me': { reply: me },
  'POST /first-account': { body: firstAccount, reply: me },
  'POST /sessions': { body: signIn, reply: me },
  'DELETE /sessions/mine': { reply: null },
  /** Signs the account out everywhere, here too. */
  'DELETE /sessions': { reply: null },
  /** Shows the password again, for what destroys or reveals much. */
  'POST /sessions/mine/proofs': { body: shape({ password: anyPassword }), reply: null },
  'PUT /me/password': {
    // A demo's account has none at first.
    body: shape({ old: anyPassword.allow(''), password: newPassword }),
    reply: null,
  },
  'GET /accounts': { reply: accounts },
  'PATCH /accounts/:id': { body: accountChange, reply: null },
  'DELETE /accounts/:id': { reply: null },
  'POST /accounts/:id/restoration': { reply: null },
  /** A new password for somebody who has forgotten theirs; it is told once. */
  'POST /accounts/:id/recoveries': { reply: shape({ name: text, password: text }) },
  'POST /invitations': { body: newInvitation, reply: more(id, { token: text, until: moment }) },
  'DELETE /invitations/:id': { reply: null },
  'GET /invitations/:token': { reply: shape({ role, by: text, school: text }) },
  'POST /invitations/:token/acceptance': { body: newAccount, reply: me },
  'POST /doors': { body: shape({ code }), reply: openDoor },
  'POST /doors/teams': { body: shape({ code, team: rowId, picture }), reply: me },
  'POST /doors/cards': { body: shape({ card: token }), reply: me },
  'POST /doors/boards': { body: shape({ board: token }), reply: me },
  'GET /classes/:id/doors': { reply: doors },
  'POST /classes/:id/codes': { reply: shape({ code: text }) },
  /** Another link for the projector; the old one and whoever came by it are out. */
  'POST /classes/:id/board-links': { reply: shape({ board: text }) },
  /** Another card and picture; the old ones are void, and whoever came by them is out. */
  'POST /teams/:id/cards': { reply: shape({ card: text, picture }) },
  'DELETE /teams/:id/tablets': { reply: null },
  'DELETE /teams/:id/tablets/:tablet': { reply: null },
} satisfies RouteShapes;
