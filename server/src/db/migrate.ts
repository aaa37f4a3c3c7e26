import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Database } from './database.ts';

/** Beside this file in the sources, and beside the bundle once built. */
export const migrationsFolder = join(import.meta.dirname, 'migrations');

export interface Migration {
  number: number;
  name: string;
  sql: string;
}

/** The numbered .sql files in order. */
export function migrations(folder = migrationsFolder): Migration[] {
  if (!existsSync(folder)) throw new Error(`No migrations in ${folder}.`);
  return readdirSync(folder)
    .filter((file) => /^\d{3}_.*\.sql$/.test(file))
    .sort()
    .map((file) => ({
      number: Number(file.slice(0, 3)),
      name: file,
      sql: readFileSync(join(folder, file), 'utf8'),
    }));
}

/** The form that a database has: the number of its newest migration; 0 for none. */
export async function formOf(db: Database): Promise<number> {
  const [has] = await db.query<{ there: boolean }>(`select to_regclass('migrations') is not null as there`);
  if (!has?.there) return 0;
  const [row] = await db.query<{ number: number | null }>('select max(number) as number from migrations');
  return row?.number ?? 0;
}

/** The number of the newest form that this program knows. */
export const newestMigration = (): number => Math.max(...migrations().map(({ number }) => number));

/** Brings the database up to the newest migration; each runs once, in one transaction of its own, by one server alone. */
export const migrate = (db: Database, steps = migrations()): Promise<void> =>
  db.alone('migrate', async () => {
    await db.exec('create table if not exists migrations (number integer primary key, name text not null)');
    const done = new Set(
      (await db.query<{ number: number }>('select number from migrations')).map((row) => row.number),
    );
    for (const step of steps) {
      if (done.has(step.number)) continue;
      const name = step.name.replaceAll("'", "''");
      await db.exec(`begin; ${step.sql}; insert into migrations values (${step.number}, '${name}'); commit;`);
    }
  });
