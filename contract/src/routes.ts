import type { AccessRoutes } from './wire/access.ts';
import type { ClassRoutes } from './wire/classes.ts';
import type { HourRoutes } from './wire/hour.ts';
import type { LessonRoutes } from './wire/lessons.ts';
import type { PlanRoutes } from './wire/plan.ts';
import type { RecordRoutes } from './wire/record.ts';
import type { RobotRoutes } from './wire/robots.ts';
import type { SchoolRoutes } from './wire/schools.ts';
import type { SetupRoutes } from './wire/setup.ts';
import type { StorageRoutes } from './wire/storage.ts';
import type { TeamRoutes } from './wire/teams.ts';
import type { ThingRoutes } from './wire/things.ts';
import type { YearRoutes } from './wire/year.ts';

/** Every route of the API: its query and body, where it takes any, and its reply. What is streamed stands in `live.ts`. */
export interface Routes
  extends
    AccessRoutes,
    ClassRoutes,
    HourRoutes,
    SetupRoutes,
    StorageRoutes,
    RobotRoutes,
    SchoolRoutes,
    TeamRoutes,
    LessonRoutes,
    PlanRoutes,
    RecordRoutes,
    ThingRoutes,
    YearRoutes {}
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
