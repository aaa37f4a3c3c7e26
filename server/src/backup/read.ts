import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { createGunzip } from 'node:zlib';
import type { Database } from '../db/database.ts';
import { formOf, migrate, migrations, newestMigration } from '../db/migrate.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { BACKUP_FORMAT, type BackupHead } from './form.ts';
import { quoted, rowsOf, tablesOf } from './tables.ts';

/** What a backup holds, once it was read through and found good. */
export interface Checked {
  head: BackupHead;
  tables: { name: string; rows: number; sha256: string }[];
}

const bad = (file: string, what: string) =>
  new FolderTrouble(`${file} is no whole backup of Vigilum: ${what}. Nothing was changed; take another one.`);

interface Takes {
  head?: (head: BackupHead) => Promise<void>;
  table?: (name: string) => Promise<void>;
  row?: (name: string, text: string) => Promise<void>;
}

/** Reads a backup line by line and checks its counts and checksums. Throws a sentence where it is not whole. */
export async function checkBackup(file: string, takes: Takes = {}): Promise<Checked> {
  const source = createReadStream(file);
  const plain = source.pipe(createGunzip());
  const failed = new Promise<never>((_, reject) => {
    source.on('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'ENOENT' ? new FolderTrouble(`There is no file ${file}.`) : error),
    );
    plain.on('error', () => reject(bad(file, 'it is cut off, or no backup at all')));
  });
  const read = readLines(file, createInterface({ input: plain, crlfDelay: Infinity }), takes);
  failed.catch(() => undefined);
  try {
    return await Promise.race([read, failed]);
  } finally {
    source.destroy();
    read.catch(() => undefined);
  }
}

async function readLines(file: string, lines: AsyncIterable<string>, takes: Takes): Promise<Checked> {
  let head: BackupHead | null = null;
  const tables: Checked['tables'] = [];
  let now: { name: string; rows: number; hash: ReturnType<typeof createHash> } | null = null;
  let done = false;
  for await (const line of lines) {
    if (done) throw bad(file, 'something stands after its end');
    if (!head) {
      head = headOf(file, line);
      await takes.head?.(head);
      continue;
    }
    if (now && line.startsWith('{"end":"')) {
      const end = objectOf(file, line) as { end?: unknown; rows?: unknown; sha256?: unknown };
      const found: { name: string; rows: number; sha256: string } = {
        name: now.name,
        rows: now.rows,
        sha256: now.hash.digest('hex'),
      };
      if (end.end !== found.name || end.rows !== found.rows || end.sha256 !== found.sha256)
        throw bad(file, `its table ${found.name} does not add up`);
      tables.push(found);
      now = null;
    } else if (now) {
      now.hash.update(line);
      now.rows++;
      await takes.row?.(now.name, line);
    } else {
      const next = objectOf(file, line) as { table?: unknown; done?: unknown; tables?: unknown };
      if (next.done === true) {
        if (next.tables !== tables.length) throw bad(file, 'tables are missing');
        done = true;
      } else if (typeof next.table === 'string') {
        now = { name: next.table, rows: 0, hash: createHash('sha256') };
        await takes.table?.(next.table);
      } else throw bad(file, 'a line is none of its own');
    }
  }
  if (!head || !done) throw bad(file, 'its end is missing');
  return { head, tables };
}

function objectOf(file: string, line: string): object {
  try {
    const value: unknown = JSON.parse(line);
    if (typeof value === 'object' && value !== null) return value;
  } catch {
    // Said below.
  }
  throw bad(file, 'a line is no JSON object');
}

function headOf(file: string, line: string): BackupHead {
  const head = objectOf(file, line) as Partial<BackupHead>;
  if (head.format !== 'vigilum-backup' || !Number.isInteger(head.form) || typeof head.made !== 'string')
    throw bad(file, 'it does not begin as one');
  if ((head.version ?? 0) > BACKUP_FORMAT || head.form! > newestMigration())
    throw new FolderTrouble(
      `${file} was written by a newer Vigilum. Restore it with that program. Nothing was changed.`,
    );
  return head as BackupHead;
}

/** Puts a backup into a database that holds nothing yet, brings it up to this program’s form, and compares what was stored with the file. */
export async function restoreBackup(db: Database, file: string): Promise<Checked> {
  // Whole and good first: half of a backup is never put anywhere.
  const known = await checkBackup(file);
  if ((await formOf(db)) > 0)
    throw new FolderTrouble(
      `Nothing was restored: the database holds something already. Restore into an empty folder.`,
    );
  await migrate(
    db,
    migrations().filter(({ number }) => number <= known.head.form),
  );
  const there = new Set((await tablesOf(db)).map(({ name }) => name));
  const missing = known.tables.find(({ name }) => !there.has(name));
  if (missing) throw bad(file, `this program knows no table ${missing.name}`);
  await db.transaction(async (tx) => {
    // What migrations put in is in the backup as well.
    for (const { name } of [...(await tablesOf(tx))].reverse()) await tx.query(`delete from ${quoted(name)}`);
    await checkBackup(file, {
      row: async (name, text) => {
        await tx.query(
          `insert into ${quoted(name)} overriding system value select * from jsonb_populate_record(null::${quoted(name)}, $1::jsonb)`,
          [text],
        );
      },
    });
    // New rows go on after the highest number.
    const counted = await tx.query<{ table: string; column: string; sequence: string }>(
      `select c.table_name as table, c.column_name as column,
              pg_get_serial_sequence(quote_ident(c.table_name), c.column_name) as sequence
         from information_schema.columns c where c.table_schema = 'public' and c.is_identity = 'YES'`,
    );
    for (const { table, column, sequence } of counted)
      await tx.query(
        `select setval('${sequence}', greatest((select max(${quoted(column)}) from ${quoted(table)}), 1), (select max(${quoted(column)}) from ${quoted(table)}) is not null)`,
      );
    const again = new Map((await tablesOf(tx)).map((table) => [table.name, table]));
    for (const { name, rows, sha256 } of known.tables) {
      const hash = createHash('sha256');
      let n = 0;
      for await (const text of rowsOf(tx, again.get(name)!)) {
        hash.update(text);
        n++;
      }
      if (n !== rows || hash.digest('hex') !== sha256)
        throw bad(file, `what was stored of its table ${name} is not what it holds`);
    }
  });
  await migrate(db);
  return known;
}
