import type { AccessNote } from '../access/accessLog.ts';
import type { Identities } from '../access/identify.ts';
import type { Database } from '../db/database.ts';
import type { Bench } from '../devices/bench.ts';
import type { Seats } from '../devices/seats.ts';
import type { Simulations } from '../jobs/simulations.ts';
import type { BackupKeeper } from '../backup/keeper.ts';
import type { Room } from '../db/room.ts';
import type { ChangeFeed } from './events.ts';

/** The data folder as routes know it. */
export interface Storage {
  folder: string;
  room: Room;
  keeper: BackupKeeper;
  /** Addresses at which other machines reach the server. */
  addresses: () => string[];
  /** Whether the folder is still held by this process. */
  isOurs: () => boolean;
}

/** What routes work with; made once at the start and handed in. */
export interface Services {
  db: Database;
  bench: Bench;
  simulations: Simulations;
  /** Which server a robot is with, where several share a database. */
  seats?: Seats;
  changes: ChangeFeed;
  /** Who comes in, and how. */
  access: Identities;
  /** Where everything is kept; without it, as in most tests, nothing is asked about room and backups. */
  storage?: Storage;
  /** Hears who comes in, is refused, or changes who may. */
  note?: AccessNote;
  /** The clock, so that tests can hold it. */
  now: () => Date;
}
