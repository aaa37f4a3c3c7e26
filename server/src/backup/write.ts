import { createHash } from 'node:crypto';
import { createWriteStream, mkdirSync, openSync, closeSync, fsyncSync, renameSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import type { Database, Queries } from '../db/database.ts';
import { BACKUP_FORMAT, type BackupHead } from './form.ts';
import { checkBackup, type Checked } from './read.ts';
import { rowsOf, tablesOf } from './tables.ts';

/** The lines of a backup: a head, every table with its rows and what they add up to, and an end. */
async function* linesOf(db: Queries, vigilum: string, now: Date): AsyncGenerator<string> {
  const [row] = await db.query<{ form: number | null }>('select max(number) as form from migrations');
  const head: BackupHead = {
    format: 'vigilum-backup',
    version: BACKUP_FORMAT,
    form: row?.form ?? 0,
    made: now.toISOString(),
    vigilum,
  };
  yield `${JSON.stringify(head)}\n`;
  let tables = 0;
  for (const table of await tablesOf(db)) {
    yield `${JSON.stringify({ table: table.name })}\n`;
    const hash = createHash('sha256');
    let rows = 0;
    for await (const text of rowsOf(db, table)) {
      hash.update(text);
      rows++;
      yield `${text}\n`;
    }
    yield `${JSON.stringify({ end: table.name, rows, sha256: hash.digest('hex') })}\n`;
    tables++;
  }
  yield `${JSON.stringify({ done: true, tables })}\n`;
}

/**
 * Writes everything into one file, as it was at one moment, and reads it back. The file has its name only when it is whole and
 * found good.
 */
export async function writeBackup(
  db: Database,
  file: string,
  { vigilum, now }: { vigilum: string; now: Date },
): Promise<Checked> {
  mkdirSync(dirname(file), { recursive: true });
  const half = `${file}.half`;
  try {
    await db.transaction(async (tx) => {
      await tx.query('set transaction isolation level repeatable read');
      await pipeline(Readable.from(linesOf(tx, vigilum, now)), createGzip(), createWriteStream(half));
    });
    const handle = openSync(half, 'r+');
    fsyncSync(handle);
    closeSync(handle);
    const checked = await checkBackup(half);
    renameSync(half, file);
    return checked;
  } finally {
    rmSync(half, { force: true });
  }
}
