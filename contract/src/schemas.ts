import type Joi from 'joi';
import type { Route } from './routes.ts';
import type { RouteShape, RouteShapes } from './shape.ts';
import { allRoutes } from './allRoutes.ts';

export { allRoutes };

const shapes: RouteShapes = allRoutes;
/** Schemas of a route; undefined for streams and file downloads. */
export const shapeOfRoute = (route: string): RouteShape | undefined => shapes[route];

/** What is wrong with a reply, in words; null for nothing. Undefined values count as absent, as they do in JSON. */
export function replyFault(route: Route, reply: unknown): string | null {
  const schema: Joi.AnySchema | null = shapes[route]!.reply;
  if (schema === null) return reply === undefined ? null : 'nothing was to be answered';
  const plain: unknown = reply === undefined ? undefined : JSON.parse(JSON.stringify(reply));
  const { error } = schema.required().validate(plain, { convert: false });
  return error ? error.message : null;
}
