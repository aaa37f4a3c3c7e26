import type { allRoutes } from './allRoutes.ts';
import type { TypedRoute } from './shape.ts';

/** Every route of the API: its query and body, where it takes any, and its reply. What is streamed stands in `live.ts`. */
export type Routes = { [R in keyof typeof allRoutes]: TypedRoute<(typeof allRoutes)[R]> };
export type Route = keyof Routes;

export type Reply<R extends Route> = Routes[R]['reply'];
export type Body<R extends Route> = Routes[R] extends { body: infer B } ? B : undefined;
export type Query<R extends Route> = Routes[R] extends { query: infer Q } ? Q : undefined;
/** Routes that take a body. */
export type Filled = { [R in Route]: Routes[R] extends { body: unknown } ? R : never }[Route];

type Names<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Names<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never;
/** The names in the path of a route, such as `id` and `slug`. */
export type Params<R extends Route> = Names<R>;
