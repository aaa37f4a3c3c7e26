import Joi from 'joi';
import { teamPictures, type TeamPicture } from '@vigilum/core/classroom';
import { count, moment, nameWords, oneOf, whole, words } from '../basics.ts';
import { accountRoles, roles, type AccountRole, type Role } from '../roles.ts';
import { id, maybe, named, text } from './shared.ts';

/** Who asks, as a page needs to know it. */
export interface Me {
  role: Role;
  /** Name of the account, of the team, or of the class of a board; '' for nobody. */
  name: string;
  school: string;
  account: number | null;
  /** The team of a tablet. */
  team: { id: number; class: string } | null;
  /** It is the school that looks after all others; only its owners do. */
  office: boolean;
  /** There are several schools: whoever signs in says to which. */
  several: boolean;
  /** Nobody has an account here yet: the first is to be made. */
  first: boolean;
  /** Made-up data, in which this machine is signed in by itself. */
  demo: boolean;
  /** The disk of the server is full: everything can be looked at and nothing saved, and who signs in is kept in memory. */
  diskFull: boolean;
}
export interface Credentials {
  name: string;
  password: string;
}
/** The first account of a school takes the code that was printed when the server was started. */
export interface FirstAccount extends Credentials {
  /** Without it, or with another, the answer is 403. */
  code?: string;
}
/** What somebody signs in with; `school` is the short name of theirs where there are several. */
export interface SignIn extends Credentials {
  school?: string;
}
export interface Account {
  id: number;
  name: string;
  role: AccountRole;
  /** When it was last seen; null for never. */
  seenAt: number | null;
  /** On how many machines it is signed in. */
  sessions: number;
  /** Classes that a guest sees; others see all. */
  classes: number[];
}
/** What an owner changes of an account; `classes` are those that a guest sees. */
export interface AccountChange {
  role?: AccountRole;
  classes?: number[];
}
export interface NewInvitation {
  role: AccountRole;
  /** Classes that a guest will see. */
  classes?: number[];
}
/** An invitation that can still be taken up. Its link is told once, when it is made. */
export interface Invitation {
  id: number;
  role: AccountRole;
  by: string;
  until: number;
}
export interface Accounts {
  now: number;
  accounts: Account[];
  invitations: Invitation[];
  /** The code for the first account, for the server's own machine; null once there is an account. */
  firstCode: string | null;
}
/** A team at the door of its class, for the teacher who prints cards. */
export interface TeamDoor {
  id: number;
  name: string;
  picture: TeamPicture;
  /** What the card of the team leads to: `/card/<token>`. */
  card: string;
  /** Machines that are signed in as the team, latest seen first. */
  tablets: { id: number; seenAt: number; since: number }[];
}
export interface Doors {
  now: number;
  school: string;
  class: string;
  code: string;
  /** What the projector's link leads to: `/board/<token>`. */
  board: string;
  /** Projectors that are signed in. */
  boards: number;
  teams: TeamDoor[];
  /** Addresses at which tablets reach the server; none where it answers this machine alone. */
  addresses: string[];
}
/** What a class code opens: the teams to choose from. */
export interface OpenDoor {
  school: string;
  class: string;
  teams: { id: number; name: string }[];
}

export interface AccessRoutes {
  'GET /me': { reply: Me };
  'POST /first-account': { body: FirstAccount; reply: Me };
  'POST /sessions': { body: SignIn; reply: Me };
  'DELETE /sessions/mine': { reply: undefined };
  /** Signs the account out everywhere, here too. */
  'DELETE /sessions': { reply: undefined };
  /** Shows the password again, for what destroys or reveals much. */
  'POST /sessions/mine/proofs': { body: { password: string }; reply: undefined };
  'PUT /me/password': { body: { old: string; password: string }; reply: undefined };
  'GET /accounts': { reply: Accounts };
  'PATCH /accounts/:id': { body: AccountChange; reply: undefined };
  'DELETE /accounts/:id': { reply: undefined };
  'POST /accounts/:id/restoration': { reply: undefined };
  /** A new password for somebody who has forgotten theirs; it is told once. */
  'POST /accounts/:id/recoveries': { reply: { name: string; password: string } };
  'POST /invitations': { body: NewInvitation; reply: { id: number; token: string; until: number } };
  'DELETE /invitations/:id': { reply: undefined };
  'GET /invitations/:token': { reply: { role: AccountRole; by: string; school: string } };
  'POST /invitations/:token/acceptance': { body: Credentials; reply: Me };
  'POST /doors': { body: { code: string }; reply: OpenDoor };
  'POST /doors/teams': { body: { code: string; team: number; picture: TeamPicture }; reply: Me };
  'POST /doors/cards': { body: { card: string }; reply: Me };
  'POST /doors/boards': { body: { board: string }; reply: Me };
  'GET /classes/:id/doors': { reply: Doors };
  'POST /classes/:id/codes': { reply: { code: string } };
  /** Another link for the projector; the old one and whoever came by it are out. */
  'POST /classes/:id/board-links': { reply: { board: string } };
  /** Another card and picture; the old ones are void, and whoever came by them is out. */
  'POST /teams/:id/cards': { reply: { card: string; picture: TeamPicture } };
  'DELETE /teams/:id/tablets': { reply: undefined };
  'DELETE /teams/:id/tablets/:tablet': { reply: undefined };
}

/** Shortest password; longer ones are measured by length alone, as the usual guidance has it. */
export const SHORTEST_PASSWORD = 10;
export const LONGEST_PASSWORD = 200;
const newPassword = Joi.string()
  .min(SHORTEST_PASSWORD)
  .max(LONGEST_PASSWORD)
  .required()
  .messages({
    'string.min': `must be at least ${SHORTEST_PASSWORD} characters long: three words that nobody else would put together will do`,
  });
const anyPassword = Joi.string().max(LONGEST_PASSWORD).required();
const accountName = nameWords(60).required();
const token = words(80).required();
const role = oneOf(...accountRoles).required() as Joi.Schema<AccountRole>;
const picture = oneOf(...teamPictures).required() as Joi.Schema<TeamPicture>;

const classIds = Joi.array()
  .items(whole(1, 2 ** 31 - 1))
  .max(200)
  .unique();
const newAccount = Joi.object<Credentials>({ name: accountName, password: newPassword });
export const accessRequests = {
  'POST /first-account': newAccount.append<FirstAccount>({ code: words(80) }),
  'POST /sessions': Joi.object<SignIn>({
    name: words(60).required(),
    password: anyPassword,
    school: words(40),
  }),
  'POST /sessions/mine/proofs': Joi.object<{ password: string }>({ password: anyPassword }),
  'PUT /me/password': Joi.object<{ old: string; password: string }>({
    // A demo's account has none at first.
    old: anyPassword.allow(''),
    password: newPassword,
  }),
  'PATCH /accounts/:id': Joi.object<AccountChange>({
    role: oneOf(...accountRoles) as Joi.Schema<AccountRole>,
    classes: classIds,
  }).min(1),
  'POST /invitations': Joi.object<NewInvitation>({ role, classes: classIds }),
  'POST /invitations/:token/acceptance': newAccount,
  'POST /doors': Joi.object<{ code: string }>({ code: words(40).required() }),
  'POST /doors/teams': Joi.object<{ code: string; team: number; picture: TeamPicture }>({
    code: words(40).required(),
    team: whole(1, 2 ** 31 - 1).required(),
    picture,
  }),
  'POST /doors/cards': Joi.object<{ card: string }>({ card: token }),
  'POST /doors/boards': Joi.object<{ board: string }>({ board: token }),
};

const me = Joi.object<Me>({
  role: oneOf(...roles).required() as Joi.Schema<Role>,
  name: text.required(),
  school: text.required(),
  account: maybe(count),
  team: maybe(Joi.object({ id: count.required(), class: text.required() })),
  office: Joi.boolean().required(),
  several: Joi.boolean().required(),
  first: Joi.boolean().required(),
  demo: Joi.boolean().required(),
  diskFull: Joi.boolean().required(),
});
export const accessReplies = {
  'GET /me': me,
  'POST /first-account': me,
  'POST /sessions': me,
  'DELETE /sessions/mine': null,
  'DELETE /sessions': null,
  'POST /sessions/mine/proofs': null,
  'PUT /me/password': null,
  'GET /accounts': Joi.object<Accounts>({
    now: moment.required(),
    accounts: Joi.array()
      .items(
        named.keys({
          role,
          seenAt: maybe(moment),
          sessions: count.required(),
          classes: Joi.array().items(count).required(),
        }),
      )
      .required(),
    invitations: Joi.array()
      .items(id.keys({ role, by: text.required(), until: moment.required() }))
      .required(),
    firstCode: maybe(text),
  }),
  'PATCH /accounts/:id': null,
  'DELETE /accounts/:id': null,
  'POST /accounts/:id/restoration': null,
  'POST /accounts/:id/recoveries': Joi.object({ name: text.required(), password: text.required() }),
  'POST /invitations': id.keys({ token: text.required(), until: moment.required() }),
  'DELETE /invitations/:id': null,
  'GET /invitations/:token': Joi.object({ role, by: text.required(), school: text.required() }),
  'POST /invitations/:token/acceptance': me,
  'POST /doors': Joi.object<OpenDoor>({
    school: text.required(),
    class: text.required(),
    teams: Joi.array().items(named).required(),
  }),
  'POST /doors/teams': me,
  'POST /doors/cards': me,
  'POST /doors/boards': me,
  'GET /classes/:id/doors': Joi.object<Doors>({
    now: moment.required(),
    school: text.required(),
    class: text.required(),
    code: text.required(),
    board: text.required(),
    boards: count.required(),
    teams: Joi.array()
      .items(
        named.keys({
          picture,
          card: text.required(),
          tablets: Joi.array()
            .items(id.keys({ seenAt: moment.required(), since: moment.required() }))
            .required(),
        }),
      )
      .required(),
    addresses: Joi.array().items(text).required(),
  }),
  'POST /classes/:id/codes': Joi.object({ code: text.required() }),
  'POST /classes/:id/board-links': Joi.object({ board: text.required() }),
  'POST /teams/:id/cards': Joi.object({ card: text.required(), picture }),
  'DELETE /teams/:id/tablets': null,
  'DELETE /teams/:id/tablets/:tablet': null,
};
