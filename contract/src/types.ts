// What goes over the wire, as types alone.
export type * from './routes.ts';
export type * from './changes.ts';
export type * from './live.ts';
export type * from './roles.ts';
export type * from './wire/access.ts';
export type * from './wire/classes.ts';
export type * from './wire/hour.ts';
export type * from './wire/lessons.ts';
export type * from './wire/plan.ts';
export type * from './wire/robots.ts';
export type * from './wire/robotTrials.ts';
export type * from './wire/setup.ts';
export type * from './wire/storage.ts';
export type * from './wire/teams.ts';
export type * from './wire/things.ts';
export type * from './wire/year.ts';
export type { RunLog } from './files/runLog.ts';
