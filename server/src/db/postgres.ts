import pg from 'pg';
import { DatabaseAway, stateOf, type Database, type Queries } from './database.ts';
import { reachNow } from './reach.ts';
import { wireOf } from './wire.ts';

/** A statement that runs longer is ended by the server, ms. */
const STATEMENT_MS = 60_000;
/** A transaction that does nothing is ended, ms: others may wait for it. */
const IDLE_MS = 30_000;
/** So long a connection may take to come up, or to become free, ms. */
const CONNECT_MS = 10_000;
/** A transaction is begun so often at most, with growing random pauses between, ms. */
const TRIES = 12;
const PAUSE_MS = 8;
/** After this many tries, transactions that keep failing run one at a time. */
const TRIES_AT_ONCE = 4;

/** Counts of 64 bits are numbers here, as PGlite gives them; ids never come near 2⁵³. */
const types = {
  getTypeParser: ((oid: number, format?: 'text' | 'binary') =>
    oid === Number(pg.types.builtins.INT8)
      ? (text: string) => Number(text)
      : (pg.types.getTypeParser(oid, format) as unknown)) as typeof pg.types.getTypeParser,
};

/** The connection was lost, could not be had, or the server is going down or coming up (classes 08 and 57P of SQLSTATE). */
function isAway(error: unknown): boolean {
  if (error instanceof DatabaseAway) return true;
  if (/^(08|57P)/.test(stateOf(error))) return true;
  if (!(error instanceof Error)) return false;
  return (
    /^(ECONN|ETIMEDOUT|EPIPE|ENOTFOUND|EAI_AGAIN|EHOSTUNREACH)/.test(
      (error as { code?: string }).code ?? '',
    ) ||
    /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
      error.message,
    )
  );
}

const asAway = (error: unknown): unknown =>
  isAway(error) && !(error instanceof DatabaseAway) ? new DatabaseAway(error) : error;

/**
 * Two transactions stood in each other's way: done once more, the later one sees what the earlier one did. A value that has to
 * be the only one of its kind (23505) is among them: the second time the look for it finds it, and says so in a sentence.
 */
const mayTryAgain = (error: unknown): boolean => ['40001', '40P01', '23505'].includes(stateOf(error));

/** The reach that each connection was told last; what a transaction told and took back is not known. */
const reaches = new WeakMap<pg.PoolClient, string>();

/** Lets a connection see the rows that what is being done may see, and no others. */
async function reaching(client: pg.PoolClient): Promise<pg.PoolClient> {
  const reach = reachNow();
  const said = reach === 'none' ? '' : String(reach);
  if (reaches.get(client) === said) return client;
  reaches.delete(client);
  await client.query(`select set_config('vigilum.school', $1, false)`, [said]);
  reaches.set(client, said);
  return client;
}

const reader = (client: pg.PoolClient): Queries => ({
  async query<Row>(sql: string, params: readonly unknown[] = []) {
    try {
      return (await (await reaching(client)).query(sql, [...params])).rows as Row[];
    } catch (error) {
      throw asAway(error);
    }
  },
});

/** A number for the name of something that only one may do: locks of PostgreSQL have numbers. FNV-1a, 32 bit. */
const numberOf = (name: string): number =>
  [...name].reduce((hash, letter) => Math.imul(hash ^ letter.codePointAt(0)!, 0x01000193), 0x811c9dc5) | 0;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

export interface PostgresOptions {
  /** Connections at a time. */
  most?: number;
  /** What went wrong beside a request: a connection lost while nobody used it. */
  log?: (error: unknown) => void;
  /** Told whenever a transaction is begun once more. */
  again?: () => void;
}

/**
 * Opens a PostgreSQL database by its address, with a pool of connections. Transactions are serializable: what is true on the one
 * connection of the embedded database stays true here.
 */
export async function openPostgres(
  url: string,
  { most = 10, log, again = () => undefined }: PostgresOptions = {},
): Promise<Database> {
  const pool = new pg.Pool({
    connectionString: url,
    max: most,
    types,
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: STATEMENT_MS,
    idle_in_transaction_session_timeout: IDLE_MS,
    application_name: 'vigilum',
    options: '-c timezone=UTC',
    keepAlive: true,
  });
  // A connection that is lost while nobody uses it ends nothing: the next statement opens another.
  pool.on('error', (error) => log?.(error));

  /** Work on a connection of its own; one that broke is not given back. */
  async function connected<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
    const client = await pool.connect().catch((error: unknown) => {
      throw asAway(error);
    });
    let broken = false;
    const lost = () => {
      broken = true;
    };
    client.on('error', lost);
    try {
      return await work(client);
    } catch (error) {
      broken ||= isAway(error);
      throw asAway(error);
    } finally {
      client.off('error', lost);
      client.release(broken);
    }
  }

  /** Runs work while holding the lock of a name. */
  async function held<T>(client: pg.PoolClient, what: string, work: () => Promise<T>): Promise<T> {
    const key = [numberOf('vigilum'), numberOf(what)];
    await client.query('select pg_advisory_lock($1, $2)', key);
    try {
      return await work();
    } finally {
      await client.query('select pg_advisory_unlock($1, $2)', key).catch(() => undefined);
    }
  }

  const inTransaction = <T>(work: (tx: Queries) => Promise<T>, inTurn: boolean): Promise<T> =>
    connected(async (client) => {
      const once = async () => {
        await reaching(client);
        await client.query('begin isolation level serializable');
        try {
          const done = await work(reader(client));
          await client.query('commit');
          return done;
        } catch (error) {
          reaches.delete(client);
          if (!isAway(error)) await client.query('rollback');
          throw error;
        }
      };
      return inTurn ? held(client, 'begun often', once) : once();
    });

  try {
    await pool.query('select 1');
  } catch (error) {
    await pool.end();
    throw asAway(error);
  }
  return {
    query: (sql, params) => connected((client) => reader(client).query(sql, params)),
    // Without parameters several statements go at once, on one connection; what fails leaves no transaction open on it.
    exec: (sql) =>
      connected(async (client) => {
        try {
          await (await reaching(client)).query(sql);
        } catch (error) {
          reaches.delete(client);
          if (!isAway(error)) await client.query('rollback');
          throw error;
        }
      }),
    async transaction(work) {
      for (let tries = 1; ; tries++) {
        try {
          return await inTransaction(work, tries > TRIES_AT_ONCE);
        } catch (error) {
          if (tries >= TRIES || !mayTryAgain(error)) throw error;
          again();
          await pause(Math.random() * PAUSE_MS * 2 ** Math.min(tries, 6));
        }
      }
    },
    alone: (what, work) =>
      connected(async (client) => {
        // Whoever brings the tables up to date may take longer than a statement may.
        await client.query('set statement_timeout = 0');
        try {
          return await held(client, what, work);
        } finally {
          await client.query(`set statement_timeout = ${STATEMENT_MS}`).catch(() => undefined);
        }
      }),
    wire: wireOf(url, log),
    close: () => pool.end(),
  };
}
