import type Joi from 'joi';
import type { Body, Filled, Route } from './routes.ts';
import { accessReplies, accessRequests } from './wire/access.ts';
import { classReplies, classRequests } from './wire/classes.ts';
import { hourReplies, hourRequests } from './wire/hour.ts';
import { lessonReplies, lessonRequests } from './wire/lessons.ts';
import { robotReplies, robotRequests } from './wire/robots.ts';
import { schoolReplies, schoolRequests } from './wire/schools.ts';
import { setupReplies, setupRequests } from './wire/setup.ts';
import { storageReplies } from './wire/storage.ts';
import { teamReplies, teamRequests } from './wire/teams.ts';
import { planReplies, planRequests } from './wire/plan.ts';
import { recordReplies, recordRequests } from './wire/record.ts';
import { yearReplies, yearRequests } from './wire/year.ts';
import { thingReplies, thingRequests } from './wire/things.ts';

/** What each route takes. */
export const requests: { [R in Filled]: Joi.Schema<Body<R>> } = {
  ...accessRequests,
  ...schoolRequests,
  ...classRequests,
  ...hourRequests,
  ...setupRequests,
  ...robotRequests,
  ...teamRequests,
  ...yearRequests,
  ...planRequests,
  ...recordRequests,
  ...lessonRequests,
  ...thingRequests,
};

/** What each route answers; null where it answers without a body. */
export const replies: { [R in Route]: Joi.Schema | null } = {
  ...accessReplies,
  ...schoolReplies,
  ...classReplies,
  ...hourReplies,
  ...setupReplies,
  ...storageReplies,
  ...robotReplies,
  ...teamReplies,
  ...yearReplies,
  ...planReplies,
  ...recordReplies,
  ...lessonReplies,
  ...thingReplies,
};

/** What is wrong with a reply, in words; null for nothing. Undefined values count as absent, as they do in JSON. */
export function replyFault(route: Route, reply: unknown): string | null {
  const schema = replies[route];
  if (schema === null) return reply === undefined ? null : 'nothing was to be answered';
  const plain: unknown = reply === undefined ? undefined : JSON.parse(JSON.stringify(reply));
  const { error } = schema.required().validate(plain, { convert: false });
  return error ? error.message : null;
}
