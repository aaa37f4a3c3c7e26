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
