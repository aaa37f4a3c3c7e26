// npm run backup -- --to file, npm run restore -- --from file: everything in one file, and back into an empty folder.
import { createWriteStream, existsSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { parseArgs } from 'node:util';
import { LOCAL_KEY_HEADER } from '../access/localKey.ts';
import { openDataFolder, unmake } from '../db/dataFolder.ts';
import { FolderInUse } from '../db/lock.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { checkBackup, restoreBackup, type Checked } from './read.ts';
import { writeBackup } from './write.ts';

const USAGE = `Use: npm run backup -- --to <file> [--from <data folder>]
     npm run restore -- --from <file> [--to <empty data folder>]`;

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

async function backup(folder: string, file: string): Promise<Checked> {
  if (existsSync(file)) throw new FolderTrouble(`There is a file ${file} already. Give another name.`);
  if (!existsSync(folder)) throw new FolderTrouble(`There is no data folder ${folder}.`);
  try {
    const opened = await openDataFolder(folder);
    try {
      if (opened.isNew)
        throw new FolderTrouble(`The data folder ${folder} is empty: there is nothing to back up.`);
      return await writeBackup(opened.db, file, { vigilum: opened.identity.vigilum, now: new Date() });
    } finally {
      await opened.db.close();
      if (opened.isNew) unmake(opened.folder);
      opened.lock.release();
    }
  } catch (error) {
    if (error instanceof FolderInUse) return fromServer(folder, file);
    throw error;
  }
}

async function restore(file: string, folder: string): Promise<Checked> {
  const known = await checkBackup(file);
  const opened = await openDataFolder(folder);
  let done = false;
  try {
    if (!opened.isNew)
      throw new FolderTrouble(
        `The data folder ${folder} is not empty: nothing was put into it. Name an empty one with --to, then start Vigilum with DATA_DIR set to it.`,
      );
    await restoreBackup(opened.db, file);
    done = true;
    return known;
  } finally {
    await opened.db.close();
    // What was made for it and did not come about is taken away again: the folder is as empty as before.
    if (opened.isNew && !done) unmake(opened.folder);
    opened.lock.release();
  }
}

async function main([what, ...rest]: string[]): Promise<void> {
  const { values } = parseArgs({
    args: rest,
    options: { to: { type: 'string' }, from: { type: 'string' } },
  });
  const usual = process.env.DATA_DIR ?? 'data/own';
  if (what === 'backup' && values.to) {
    const file = resolve(values.to);
    const done = await backup(resolve(values.from ?? usual), file);
    process.stdout.write(`Backed up and read back: ${told(done)}, in ${file}\n`);
  } else if (what === 'restore' && values.from) {
    const folder = resolve(values.to ?? usual);
    const done = await restore(resolve(values.from), folder);
    process.stdout.write(`Restored and compared: ${told(done)}, into ${folder}\n`);
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
