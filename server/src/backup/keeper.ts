import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { Database } from '../db/database.ts';
import { writeBackup } from './write.ts';

/** One backup of the folder. */
export interface Kept {
  name: string;
  /** When it was made, ms since the epoch. */
  at: number;
  bytes: number;
}

/** So many are kept; the oldest goes when one more is made. */
export const KEPT = 7;
const DAY_MS = 24 * 3_600_000;
/** Whether a day has gone by is looked at so often, ms. */
const LOOK_MS = 15 * 60_000;
/** The ending of backup files. */
const ENDING = '.vigilum';
const NAME = /^(\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2}Z)(-[a-z0-9-]+)?\.vigilum$/;

/** Whether a name is one of a backup: nothing else is ever read from or removed out of the folder. */
export const isBackupName = (name: string): boolean => NAME.test(name);

export interface KeeperOptions {
  db: Database;
  /** Where backups go. */
  dir: string;
  /** Who it is that is backed up. */
  vigilum: () => Promise<string>;
  now: () => Date;
  log: (error: unknown) => void;
}

/** Keeps the newest backups of a data folder: one a day by itself, and whenever somebody asks. */
export class BackupKeeper {
  private readonly options: KeeperOptions;
  private running: Promise<unknown> = Promise.resolve();
  private timer: NodeJS.Timeout | null = null;

  constructor(options: KeeperOptions) {
    this.options = options;
  }

  get dir(): string {
    return this.options.dir;
  }

  /** All that are kept, newest first. */
  list(): Kept[] {
    const { dir } = this.options;
    if (!existsSync(dir)) return [];
    return readdirSync(dir)
      .filter(isBackupName)
      .sort()
      .reverse()
      .map((name) => {
        const { size, mtimeMs } = statSync(join(dir, name));
        const told = NAME.exec(name)![1]!.replace(/T(\d\d)-(\d\d)-(\d\d)Z/, 'T$1:$2:$3Z');
        const at = Date.parse(told);
        return { name, at: Number.isNaN(at) ? mtimeMs : at, bytes: size };
      });
  }

  /** Makes one now, after any that is under way; `why` becomes part of its name. */
  save(why = ''): Promise<Kept> {
    const next = this.running.then(() => this.make(why));
    this.running = next.catch(() => undefined);
    return next;
  }

  /** Makes one a day from now on. One that fails is logged, and tried again a little later. */
  start(): void {
    const { db, now, log } = this.options;
    const isDue = () => {
      const [newest] = this.list();
      return !newest || now().getTime() - newest.at >= DAY_MS;
    };
    const look = () => {
      // Of servers with one folder for backups one makes it.
      if (isDue()) db.alone('backup', async () => (isDue() ? this.save() : undefined)).catch(log);
    };
    // Not while the first pages are fetched.
    this.timer = setInterval(look, LOOK_MS);
    this.timer.unref();
    setTimeout(look, 60_000).unref();
  }

  /** Ends once what is under way is done. */
  async close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  private async make(why: string): Promise<Kept> {
    const { db, dir, vigilum, now } = this.options;
    mkdirSync(dir, { recursive: true });
    const at = now();
    const stamp = at.toISOString().slice(0, 19).replaceAll(':', '-');
    const name = `${stamp}Z${why ? `-${why}` : ''}${ENDING}`;
    await writeBackup(db, join(dir, name), { vigilum: await vigilum(), now: at });
    for (const { name: old } of this.list().slice(KEPT)) rmSync(join(dir, old), { force: true });
    return { name, at: Math.floor(at.getTime() / 1000) * 1000, bytes: statSync(join(dir, name)).size };
  }
}
