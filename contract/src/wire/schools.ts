import Joi from 'joi';
import { count, moment, nameWords, whole } from '../basics.ts';
import { limited, type Limited } from '../roles.ts';
import { maybe, text } from './shared.ts';

/** How much a school may have; what is not named has no limit. */
export type SchoolLimits = Partial<Record<Limited, number>>;

/** One of several schools, as the office that looks after them sees it: its name and how much it holds, nothing of what. */
export interface SchoolEntry {
  id: number;
  /** By this short name its people sign in. */
  slug: string;
  name: string;
  office: boolean;
  has: Record<Limited, number>;
  most: SchoolLimits;
  /** When somebody of it was last seen; null for never. */
  seenAt: number | null;
  /** An invitation of an owner that nobody has taken up yet: until when. */
  invitedUntil: number | null;
  removed: boolean;
}
/** A link by which somebody becomes owner of a school; told once. */
export interface OwnerLink {
  token: string;
  until: number;
}

export interface NewSchool {
  slug: string;
  name: string;
  most?: SchoolLimits;
}

export interface SchoolRoutes {
  'GET /schools': { reply: { now: number; schools: SchoolEntry[] } };
  'POST /schools': {
    body: NewSchool;
    reply: OwnerLink & { id: number };
  };
  'PATCH /schools/:id': { body: Partial<NewSchool>; reply: undefined };
  'DELETE /schools/:id': { reply: undefined };
  'POST /schools/:id/restoration': { reply: undefined };
  'POST /schools/:id/invitations': { reply: OwnerLink };
}

const most = Joi.object<SchoolLimits>(Object.fromEntries(limited.map((what) => [what, whole(0, 100_000)])));
/** A short name: what stands in addresses and is typed to sign in. */
export const SCHOOL_SLUG = /^[a-z0-9]+(-[a-z0-9]+)*$/;

const slug = Joi.string().max(40).pattern(SCHOOL_SLUG).messages({
  'string.pattern.base': 'must be small letters, digits and single dashes, such as east-brook',
});

export const schoolRequests = {
  'POST /schools': Joi.object<NewSchool>({ slug: slug.required(), name: nameWords(120).required(), most }),
  'PATCH /schools/:id': Joi.object<Partial<NewSchool>>({ slug, name: nameWords(120), most }).min(1),
};

const link = { token: text.required(), until: moment.required() };
export const schoolReplies = {
  'GET /schools': Joi.object<{ now: number; schools: SchoolEntry[] }>({
    now: moment.required(),
    schools: Joi.array()
      .items(
        Joi.object<SchoolEntry>({
          id: count.required(),
          slug: text.required(),
          name: text.required(),
          office: Joi.boolean().required(),
          has: Joi.object(Object.fromEntries(limited.map((what) => [what, count.required()]))).required(),
          most: most.required(),
          seenAt: maybe(moment),
          invitedUntil: maybe(moment),
          removed: Joi.boolean().required(),
        }),
      )
      .required(),
  }),
  'POST /schools': Joi.object({ id: count.required(), ...link }),
  'PATCH /schools/:id': null,
  'DELETE /schools/:id': null,
  'POST /schools/:id/restoration': null,
  'POST /schools/:id/invitations': Joi.object<OwnerLink>(link),
};
