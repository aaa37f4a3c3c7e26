import type { Database } from '../db/database.ts';
import type { Bench } from '../devices/bench.ts';
import type { Simulations } from '../jobs/simulations.ts';
import type { ChangeFeed } from './events.ts';

/** What routes work with; made once at the start and handed in. */
export interface Services {
  db: Database;
  bench: Bench;
  simulations: Simulations;
  changes: ChangeFeed;
  /** The clock, so that tests can hold it. */
  now: () => Date;
}
