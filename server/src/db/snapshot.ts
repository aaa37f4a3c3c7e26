import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Database } from './database.ts';
import { migrate, migrations } from './migrate.ts';
import { openPglite } from './pglite.ts';

/** So many snapshots of a name stay: two versions that are worked on by turns need not be filled anew each time. */
const KEPT = 4;

/** Removes the oldest snapshots of a name. */
function prune(name: string, cache: string): void {
  const age = (file: string) => statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  readdirSync(cache)
    .filter((file) => file.startsWith(`${name}-`) && /-[0-9a-f]{16}\.tar\.gz$/.test(file))
    .map((file) => join(cache, file))
    .sort((a, b) => age(b) - age(a))
    .slice(KEPT)
    .forEach((file) => rmSync(file, { force: true }));
}

/**
 * A filled database as one file, built once and kept under `cache` until the migrations or `version`
 * change. Opening from it takes a second where filling takes many. Of older ones only the last few stay.
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
      prune(name, cache);
    } finally {
      await db.close();
    }
  }
  return new Blob([readFileSync(file)]);
}
