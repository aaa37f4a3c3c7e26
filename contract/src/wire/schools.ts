import Joi from 'joi';
import { count, moment, nameWords, whole } from '../basics.ts';
import { limited, type Limited } from '../roles.ts';
import { list, maybe, optional, shape, type RouteShapes, type Typed } from '../shape.ts';
import { flag, text } from './shared.ts';

/** How much a school may have; what is not named has no limit. */
const most = Joi.object<Partial<Record<Limited, number>>>(
  Object.fromEntries(limited.map((what) => [what, whole(0, 100_000)])),
);
export type SchoolLimits = Typed<typeof most>;

const schoolEntry = shape({
  id: count,
  /** By this short name its people sign in. */
  slug: text,
  name: text,
  office: flag,
  has: Joi.object<Record<Limited, number>>(
    Object.fromEntries(limited.map((what) => [what, count.required()])),
  ),
  most,
  /** When somebody of it was last seen; null for never. */
  seenAt: maybe(moment),
  /** An invitation of an owner that nobody has taken up yet: until when. */
  invitedUntil: maybe(moment),
  removed: flag,
});
/** One of several schools, as the office that looks after them sees it: its name and how much it holds, nothing of what. */
export type SchoolEntry = Typed<typeof schoolEntry>;

const link = { token: text, until: moment };
const ownerLink = shape(link);
/** A link by which somebody becomes owner of a school; told once. */
export type OwnerLink = Typed<typeof ownerLink>;

/** A short name: what stands in addresses and is typed to sign in. */
export const SCHOOL_SLUG = /^[a-z0-9]+(-[a-z0-9]+)*$/;
const slug = Joi.string().max(40).pattern(SCHOOL_SLUG).messages({
  'string.pattern.base': 'must be small letters, digits and single dashes, such as east-brook',
});
const newSchool = shape({ slug, name: nameWords(120), most: optional(most) });
export type NewSchool = Typed<typeof newSchool>;
const schoolChange = shape({
  slug: optional(slug),
  name: optional(nameWords(120)),
  most: optional(most),
}).min(1);

export const schoolRoutes = {
  'GET /schools': { reply: shape({ now: moment, schools: list(schoolEntry) }) },
  'POST /schools': { body: newSchool, reply: shape({ id: count, ...link }) },
  'PATCH /schools/:id': { body: schoolChange, reply: null },
  'DELETE /schools/:id': { reply: null },
  'POST /schools/:id/restoration': { reply: null },
  'POST /schools/:id/invitations': { reply: ownerLink },
} satisfies RouteShapes;
