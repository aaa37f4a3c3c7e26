import { randomUUID } from 'node:crypto';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  statfsSync,
  writeFileSync,
} from 'node:fs';
import { join, resolve } from 'node:path';
import type { Database } from './database.ts';
import { FolderInUse, lockFolder, type Lock } from './lock.ts';
import { formOf, newestMigration } from './migrate.ts';
import { openPglite } from './pglite.ts';
import { asTrouble, FolderTrouble } from './trouble.ts';

/** What marks a folder as Vigilum's: who it is, and when it was made. */
export interface Identity {
  vigilum: string;
  made: string;
}

/** The parts of a data folder. */
const MARK = 'vigilum.json';
const BASE = 'db';
/** A database that is being made, and one that is being moved to its place: neither counts before it has its own name. */
const MAKING = 'db.making';
const MOVING = 'db.moving';
const BACKUPS = 'backups';
const OURS = new Set([MARK, BASE, MAKING, MOVING, BACKUPS, 'lock', 'lock.socket']);
/** What a system leaves in every folder. */
const STRAY = /^(\.DS_Store|\.directory|lost\+found|Thumbs\.db|desktop\.ini|lock\..*)$/;

/** So much must be free to open a folder, bytes: the database writes while it opens. */
const LEAST_TO_OPEN = 24 * 2 ** 20;

export const backupsIn = (folder: string): string => join(folder, BACKUPS);

/** Free space where a folder lies, bytes; Infinity where the system does not tell. */
export function freeBytes(folder: string): number {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    return Infinity;
  }
}

/** The newest backups of a folder, as a hint to whoever cannot open it. */
function backupHint(folder: string): string {
  const kept = existsSync(backupsIn(folder)) ? readdirSync(backupsIn(folder)).sort() : [];
  const newest = kept.filter((name) => name.endsWith('.vigilum')).at(-1);
  return newest
    ? `The newest backup is ${join(backupsIn(folder), newest)}; into an empty folder: npm run restore -- --from that file.`
    : 'If there is a backup, restore it into an empty folder: npm run restore -- --from the file.';
}

/** The folder itself, by whatever links it is reached; made where it is not there. */
function reach(path: string): string {
  const folder = resolve(path);
  const link = lstatSync(folder, { throwIfNoEntry: false });
  if (link?.isSymbolicLink() && !existsSync(folder))
    throw new FolderTrouble(
      `The data folder ${folder} is a link that leads nowhere. Mend the link, or set DATA_DIR to another folder.`,
    );
  if (link && !link.isSymbolicLink() && !link.isDirectory())
    throw new FolderTrouble(
      `DATA_DIR names ${folder}, which is a file. Set it to a folder, new or Vigilum’s own.`,
    );
  mkdirSync(folder, { recursive: true });
  return realpathSync(folder);
}

/** Files of a database that stands in the folder itself, as it did before it had a place of its own. */
const rootBase = (folder: string): string[] =>
  readdirSync(folder).filter((name) => !OURS.has(name) && !STRAY.test(name));

/** Moves a database that stands in the folder itself to its place; goes on where a move was cut off. The file that tells its version goes last. */
function moveBase(folder: string): void {
  const moving = join(folder, MOVING);
  mkdirSync(moving, { recursive: true });
  const last = (name: string) => Number(name === 'PG_VERSION');
  for (const name of rootBase(folder).sort((a, b) => last(a) - last(b)))
    renameSync(join(folder, name), join(moving, name));
  renameSync(moving, join(folder, BASE));
}

export interface Opened {
  folder: string;
  db: Database;
  lock: Lock;
  identity: Identity;
  /** Made just now. */
  isNew: boolean;
}

function readMark(folder: string): Identity | null {
  try {
    const mark = JSON.parse(readFileSync(join(folder, MARK), 'utf8')) as Identity;
    return typeof mark.vigilum === 'string' ? mark : null;
  } catch {
    return null;
  }
}

function writeMark(folder: string, mark: Identity): void {
  const half = join(folder, `${MARK}.half`);
  writeFileSync(half, `${JSON.stringify(mark, null, 2)}\n`);
  renameSync(half, join(folder, MARK));
}

/** What a damaged database says: its own words go into the sentence, as far as they are short. */
const damaged = (folder: string, what: string) =>
  new FolderTrouble(
    `The data folder ${folder} is Vigilum’s, but its database does not open: ${what}. It was left as it is. ${backupHint(folder)}`,
  );

/** Opens the database that stands in its place, or says that it does not open. */
async function openBase(folder: string): Promise<Database> {
  const base = join(folder, BASE);
  if (!existsSync(join(base, 'PG_VERSION'))) throw damaged(folder, `${join(base, 'PG_VERSION')} is missing`);
  try {
    const db = await openPglite(base);
    await db.query('select 1');
    return db;
  } catch (error) {
    const says = (error instanceof Error ? error.message : String(error)).split('\n')[0]!.slice(0, 160);
    throw damaged(folder, says.replace(/[.\s]+$/, '') || 'its files are damaged');
  }
}

/** Refuses a database that a newer Vigilum has written. */
async function notNewer(folder: string, db: Database): Promise<void> {
  const form = await formOf(db);
  if (form <= newestMigration()) return;
  await db.close();
  throw new FolderTrouble(
    `The data folder ${folder} was written by a newer Vigilum (its data has form ${form}, this program knows ${newestMigration()}). It was left as it is. Start the newer program, or restore a backup from before.`,
  );
}

/** Makes the database of a new folder whole before it gets its name: cut off, it is begun again. */
async function makeBase(folder: string, filled: Blob | undefined): Promise<void> {
  const making = join(folder, MAKING);
  rmSync(making, { recursive: true, force: true });
  const db = await openPglite(making, filled);
  await db.close();
  renameSync(making, join(folder, BASE));
}

/**
 * Opens a data folder, or makes one where nothing of ours ever stood. A folder that is marked and does not open is left as it is.
 * Everything that can be wrong comes as FolderTrouble, a sentence. `fill` gives the contents of a new one.
 */
export async function openDataFolder(path: string, fill?: () => Promise<Blob>): Promise<Opened> {
  let lock: Lock | null = null;
  try {
    const folder = reach(path);
    const free = freeBytes(folder);
    if (free < LEAST_TO_OPEN)
      throw new FolderTrouble(
        `The disk of the data folder ${folder} is full: ${Math.floor(free / 2 ** 20)} MB are free, ${LEAST_TO_OPEN / 2 ** 20} MB are needed to open it. Make room, then start again.`,
      );
    lock = await lockFolder(folder);
    const mark = readMark(folder);
    const has = (name: string) => existsSync(join(folder, name));
    const others = rootBase(folder);
    const stood = mark !== null || has(MARK) || has(BASE) || has(MOVING) || others.includes('PG_VERSION');
    if (!stood && others.length > 0) {
      const base = others.some((name) => ['base', 'global', 'pg_wal', 'pg_xact'].includes(name));
      if (base) throw damaged(folder, `${join(folder, 'PG_VERSION')} is missing`);
      throw new FolderTrouble(
        `The data folder ${folder} holds other things (${others.slice(0, 3).join(', ')}). Set DATA_DIR to an empty folder, or to one that Vigilum made.`,
      );
    }
    if (!has(BASE) && (has(MOVING) || others.includes('PG_VERSION'))) moveBase(folder);
    const isNew = !stood;
    if (isNew) await makeBase(folder, fill ? await fill() : undefined);
    const identity = mark ?? { vigilum: randomUUID(), made: new Date().toISOString() };
    if (!mark) writeMark(folder, identity);
    const db = await openBase(folder);
    await notNewer(folder, db);
    return { folder, db, lock, identity, isNew };
  } catch (error) {
    if (!(error instanceof FolderInUse)) lock?.release();
    throw asTrouble(error, resolve(path));
  }
}

/** Takes away what was made just now in a folder that was empty. */
export function unmake(folder: string): void {
  for (const name of [MARK, BASE]) rmSync(join(folder, name), { recursive: true, force: true });
}
