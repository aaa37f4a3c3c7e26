import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Database } from './database.ts';
import { migrate, migrations } from './migrate.ts';
import { openPglite } from './pglite.ts';

/**
 * A filled database as one file, built once and kept under `cache` until the migrations or `version`
 * change. Opening from it takes a second where filling takes many.
 */
export async function snapshot(
  name: string,
  version: string,
  cache: string,
  fill: (db: Database) => Promise<void> = async () => {},
): Promise<Blob> {
  const hash = createHash('sha256').update(version);
  for (const step of migrations()) hash.update(step.sql);
  const file = join(cache, `${name}-${hash.digest('hex').slice(0, 16)}.tar.gz`);
  if (!existsSync(file)) {
    const db = await openPglite(null);
    try {
      await migrate(db);
      await fill(db);
      mkdirSync(cache, { recursive: true });
      const half = `${file}.${process.pid}`;
      writeFileSync(half, Buffer.from(await (await db.dump()).arrayBuffer()));
      renameSync(half, file);
    } finally {
      await db.close();
    }
  }
  return new Blob([readFileSync(file)]);
}
