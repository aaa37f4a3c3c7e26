import { count, moment } from '../basics.ts';
import { list, maybe, shape, type RouteShapes, type Typed } from '../shape.ts';
import { flag, text } from './shared.ts';

const storedBackup = shape({ name: text, at: moment, bytes: count });
export type StoredBackup = Typed<typeof storedBackup>;

const storage = shape({
  now: moment,
  folder: text,
  /** It is a database that several servers may share, and no folder. */
  shared: flag,
  /** Free space there, MB; null where the system does not tell. */
  freeMb: maybe(count),
  /** Why nothing can be written now; null where it can. */
  refusal: maybe(text),
  /** Where backups go. */
  backupFolder: text,
  /** Backups hold all schools: only their office has them. */
  office: flag,
  /** Newest first. */
  backups: list(storedBackup),
  /** Addresses at which other machines reach the server; none where it answers this machine alone. */
  addresses: list(text),
});
/** Where everything is kept, whether there is room, and what backups there are. */
export type Storage = Typed<typeof storage>;

export const storageRoutes = {
  'GET /storage': { reply: storage },
  'POST /backups': { reply: storedBackup },
} satisfies RouteShapes;
