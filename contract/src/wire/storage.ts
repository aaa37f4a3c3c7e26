import Joi from 'joi';
import { count, moment } from '../basics.ts';
import { maybe, text } from './shared.ts';

export interface StoredBackup {
  name: string;
  at: number;
  bytes: number;
}
/** Where everything is kept, whether there is room, and what backups there are. */
export interface Storage {
  now: number;
  folder: string;
  /** It is a database that several servers may share, and no folder. */
  shared: boolean;
  /** Free space there, MB; null where the system does not tell. */
  freeMb: number | null;
  /** Why nothing can be written now; null where it can. */
  refusal: string | null;
  /** Where backups go. */
  backupFolder: string;
  /** Backups hold all schools: only their office has them. */
  office: boolean;
  /** Newest first. */
  backups: StoredBackup[];
  /** Addresses at which other machines reach the server; none where it answers this machine alone. */
  addresses: string[];
}

export interface StorageRoutes {
  'GET /storage': { reply: Storage };
  'POST /backups': { reply: StoredBackup };
}

const backup = Joi.object<StoredBackup>({
  name: text.required(),
  at: moment.required(),
  bytes: count.required(),
});
export const storageReplies = {
  'GET /storage': Joi.object<Storage>({
    now: moment.required(),
    folder: text.required(),
    shared: Joi.boolean().required(),
    freeMb: maybe(count),
    refusal: maybe(text),
    backupFolder: text.required(),
    office: Joi.boolean().required(),
    backups: Joi.array().items(backup).required(),
    addresses: Joi.array().items(text).required(),
  }),
  'POST /backups': backup,
};
