import type Joi from 'joi';
import type { Route } from './routes.ts';
import type { RouteShape, RouteShapes } from './shape.ts';
import { accessRoutes } from './wire/access.ts';
import { classRoutes } from './wire/classes.ts';
import { hourRoutes } from './wire/hour.ts';
import { lessonRoutes } from './wire/lessons.ts';
import { planRoutes } from './wire/plan.ts';
import { recordRoutes } from './wire/record.ts';
import { robotRoutes } from './wire/robots.ts';
import { schoolRoutes } from './wire/schools.ts';
import { setupRoutes } from './wire/setup.ts';
import { storageRoutes } from './wire/storage.ts';
import { teamRoutes } from './wire/teams.ts';
import { thingRoutes } from './wire/things.ts';
import { yearRoutes } from './wire/year.ts';

/** Every route of the API, with what it takes and what it answers. */
export const allRoutes = {
  ...accessRoutes,
  ...schoolRoutes,
  ...classRoutes,
  ...hourRoutes,
  ...setupRoutes,
  ...storageRoutes,
  ...robotRoutes,
  ...teamRoutes,
  ...yearRoutes,
  ...planRoutes,
  ...recordRoutes,
  ...lessonRoutes,
  ...thingRoutes,
};

const shapes: RouteShapes = allRoutes;
/** What a route takes and answers; nothing for what is streamed or saved as a file. */
export const shapeOfRoute = (route: string): RouteShape | undefined => shapes[route];

/** What is wrong with a reply, in words; null for nothing. Undefined values count as absent, as they do in JSON. */
export function replyFault(route: Route, reply: unknown): string | null {
  const schema: Joi.AnySchema | null = shapes[route]!.reply;
  if (schema === null) return reply === undefined ? null : 'nothing was to be answered';
  const plain: unknown = reply === undefined ? undefined : JSON.parse(JSON.stringify(reply));
  const { error } = schema.required().validate(plain, { convert: false });
  return error ? error.message : null;
}
