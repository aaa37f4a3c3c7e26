import { mkdirSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import type { Database, Queries } from './database.ts';

/** Rows of small tables only: everything is held in memory while it is read. */
const reader = (from: { query: PGlite['query'] }): Queries => ({
  async query<Row>(sql: string, params: readonly unknown[] = []) {
    return (await from.query<Row>(sql, [...params])).rows;
  },
});

/** The embedded database: one process has it for itself, and one connection, so that transactions follow one another. */
export interface Embedded extends Database {
  /** The whole data folder as one compressed file, for a snapshot. */
  dump(): Promise<Blob>;
}

/** Opens the embedded database: in `folder`, or in memory when there is none, filled from `snapshot` when it is new. */
export async function openPglite(folder: string | null, snapshot?: Blob): Promise<Embedded> {
  if (folder) mkdirSync(folder, { recursive: true });
  const pg = await PGlite.create({
    ...(folder ? { dataDir: folder } : {}),
    ...(snapshot ? { loadDataDir: snapshot } : {}),
  });
  return {
    ...reader(pg),
    async exec(sql) {
      await pg.exec(sql);
    },
    transaction: (work) => pg.transaction((tx) => work(reader(tx as unknown as PGlite))),
    alone: (_, work) => work(),
    wire: null,
    dump: () => pg.dumpDataDir('gzip'),
    close: () => pg.close(),
  };
}
