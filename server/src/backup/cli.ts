// npm run backup -- --to file, npm run restore -- --from file: everything in one file, and back into an empty folder or database.
import { createWriteStream, existsSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { parseArgs } from 'node:util';
import { LOCAL_KEY_HEADER } from '../access/localKey.ts';
import { FolderInUse } from '../db/lock.ts';
import { inSchool } from '../db/reach.ts';
import { schoolMeant } from '../schools/schools.ts';
import { closeStore, openStore, type StoreOptions } from '../db/store.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { checkBackup, restoreBackup, type Checked } from './read.ts';
import { writeBackup } from './write.ts';

const USAGE = `Use: npm run backup -- --to <file> [--from <data folder>] [--school <short name>, of several in a database]
     npm run restore -- --from <file> [--to <empty data folder>]
     Where no folder is named and DATABASE_URL is set, that database is meant.`;

type Place = Pick<StoreOptions, 'database' | 'folder'>;

const told = ({ head, tables }: Checked): string =>
  `${tables.reduce((sum, { rows }) => sum + rows, 0)} rows of ${tables.length} tables, taken ${head.made}`;

/** Asks the server that has the folder open for a backup, and takes it over. */
async function fromServer(folder: string, file: string): Promise<Checked> {
  const { url, key } = JSON.parse(readFileSync(join(folder, 'lock'), 'utf8')) as {
    url?: string;
    key?: string;
  };
  if (!url) throw new FolderTrouble(`The Vigilum that has ${folder} open is still starting. Try again.`);
  // Whoever can read the folder may back it up.
  const own = { [LOCAL_KEY_HEADER]: key ?? '' };
  const made = await fetch(`${url}/api/backups`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...own },
    body: '{}',
  });
  if (!made.ok) throw new FolderTrouble(`The server at ${url} made no backup: ${await made.text()}`);
  const { name } = (await made.json()) as { name: string };
  const answer = await fetch(`${url}/api/backups/${name}`, { headers: own });
  if (!answer.ok || !answer.body) throw new FolderTrouble(`The server at ${url} did not hand over ${name}.`);
  const half = `${file}.half`;
  try {
    await pipeline(Readable.fromWeb(answer.body as never), createWriteStream(half));
    const checked = await checkBackup(half);
    renameSync(half, file);
    return checked;
  } finally {
    rmSync(half, { force: true });
  }
}

async function backup(from: Place, file: string, school: string | undefined): Promise<Checked> {
  if (existsSync(file)) throw new FolderTrouble(`There is a file ${file} already. Give another name.`);
  if (!from.database && !existsSync(from.folder))
    throw new FolderTrouble(`There is no data folder ${from.folder}.`);
  try {
    const store = await openStore(from);
    try {
      if (store.isNew) throw new FolderTrouble(`${store.where} holds nothing: there is nothing to back up.`);
      const head = { vigilum: await store.identity(), now: new Date() };
      const write = () => writeBackup(store.db, file, head);
      return await (school === undefined ? write() : inSchool(await schoolMeant(store.db, school), write));
    } finally {
      await closeStore(store, { keep: false });
    }
  } catch (error) {
    if (error instanceof FolderInUse) return fromServer(from.folder, file);
    throw error;
  }
}

async function restore(file: string, to: Place): Promise<Checked & { where: string }> {
  const known = await checkBackup(file);
  const schools = known.tables.find(({ name }) => name === 'schools')?.rows ?? 1;
  if (!to.database && schools > 1)
    throw new FolderTrouble(
      `${file} holds ${schools} schools, and a data folder holds one. Restore it into a PostgreSQL database, or back up one school of it by --school. Nothing was changed.`,
    );
  const store = await openStore(to);
  let done = false;
  try {
    if (!store.isNew)
      throw new FolderTrouble(
        `${store.where} is not empty: nothing was put into it. ${to.database ? 'Name an empty database in DATABASE_URL.' : 'Name an empty folder with --to, then start Vigilum with DATA_DIR set to it.'}`,
      );
    await restoreBackup(store.db, file);
    done = true;
    return { ...known, where: store.where };
  } finally {
    await closeStore(store, { keep: done });
  }
}

async function main([what, ...rest]: string[]): Promise<void> {
  const { values } = parseArgs({
    args: rest,
    options: { to: { type: 'string' }, from: { type: 'string' }, school: { type: 'string' } },
  });
  // A folder that is named is meant, though DATABASE_URL is set: that is how a school moves from one to the other.
  const place = (named: string | undefined): Place => ({
    database: named === undefined ? process.env.DATABASE_URL : undefined,
    folder: resolve(named ?? process.env.DATA_DIR ?? 'data/own'),
  });
  if (what === 'backup' && values.to) {
    const file = resolve(values.to);
    const done = await backup(place(values.from), file, values.school);
    process.stdout.write(`Backed up and read back: ${told(done)}, in ${file}\n`);
  } else if (what === 'restore' && values.from) {
    const done = await restore(resolve(values.from), place(values.to));
    process.stdout.write(`Restored and compared: ${told(done)}, into ${done.where}\n`);
  } else {
    process.stderr.write(`${USAGE}\n`);
    process.exitCode = 1;
  }
}

main(process.argv.slice(2)).catch((error: unknown) => {
  process.stderr.write(
    `${error instanceof FolderTrouble ? error.message : `It failed: ${error instanceof Error ? error.message : String(error)}\n${USAGE}`}\n`,
  );
  process.exit(1);
});
