import { createHash, randomBytes } from 'node:crypto';
import { join } from 'node:path';
import pg from 'pg';
import type { Database } from '../db/database.ts';
import { migrate, migrations } from '../db/migrate.ts';
import { openPglite } from '../db/pglite.ts';
import { openPostgres } from '../db/postgres.ts';
import { snapshot } from '../db/snapshot.ts';
import { seedDemo } from '../demo/seed.ts';
import { demoVersion } from '../demo/version.ts';

/** The moment at which the tests' class is in the middle of its lesson. */
export const NOW = new Date('2026-03-10T10:28:00Z');
const cache = join(import.meta.dirname, '../../../.cache');

/** A PostgreSQL server in which the tests may make databases: `npm run test:postgres` starts one and says where. */
const server = process.env.TEST_POSTGRES;

const addressOf = (name: string): string => {
  const url = new URL(server!);
  url.pathname = `/${name}`;
  return url.href;
};

/** Does something in the server's own database, one test at a time. */
async function asAdmin<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** A database with the demo school that others are copied from; made by whoever comes first. */
const template = async (): Promise<string> => {
  const hash = createHash('sha256').update(demoVersion());
  for (const step of migrations()) hash.update(step.sql);
  const name = `demo_${hash.digest('hex').slice(0, 16)}`;
  await asAdmin(async (client) => {
    await client.query('select pg_advisory_lock(1)');
    const { rows } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (rows.length > 0) return;
    await client.query(`drop database if exists making`);
    await client.query(`create database making`);
    const db = await openPostgres(addressOf('making'));
    await migrate(db);
    await seedDemo(db, NOW);
    await db.close();
    await client.query(`alter database making rename to ${name}`);
  });
  return name;
};

/** An address of a PostgreSQL database of its own, a copy of another, and how to take it away. */
async function ownDatabase(from = 'template1'): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  await asAdmin((client) => client.query(`create database ${name} template ${from}`));
  return {
    url: addressOf(name),
    drop: () => asAdmin(async (client) => void (await client.query(`drop database ${name} with (force)`))),
  };
}

/** Whether the tests run on PostgreSQL. */
export const onPostgres = server !== undefined;

/** An address of a PostgreSQL database that holds nothing. */
export const ownEmpty = () => ownDatabase();

/** An address of a PostgreSQL database with the demo school. */
export const ownDemo = async () => ownDatabase(await template());

async function opened(from?: string): Promise<Database> {
  const { url, drop } = await ownDatabase(from);
  const db = await openPostgres(url, { most: 4 });
  return { ...db, close: () => db.close().then(drop) };
}

/** A database without a table. */
export const emptyDatabase = (): Promise<Database> => (server ? opened() : openPglite(null));

/** A database with the demo school: a copy of one that is filled once. */
export const demoDatabase = async (): Promise<Database> =>
  server
    ? opened(await template())
    : openPglite(null, await snapshot('test', demoVersion(), cache, (db) => seedDemo(db, NOW)));
