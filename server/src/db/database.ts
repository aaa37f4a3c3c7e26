/** What the routes may ask of a database. The same SQL serves PGlite and PostgreSQL. */
export interface Queries {
  /** Runs one statement with parameters and gives its rows. */
  query<Row>(sql: string, params?: readonly unknown[]): Promise<Row[]>;
}

export interface Database extends Queries {
  /** Runs several statements without parameters: migrations only. */
  exec(sql: string): Promise<void>;
  /**
   * All or nothing, and as if nothing else were done at the same time. Inside, use only the handle passed in. Where two stand in each
   * other's way `work` is done once more from its beginning, so it must leave nothing behind but rows.
   */
  transaction<T>(work: (tx: Queries) => Promise<T>): Promise<T>;
  /** Does something that only one server at a time may do, such as bringing the tables up to date; others wait. */
  alone<T>(what: string, work: () => Promise<T>): Promise<T>;
  /** What other servers on the same database say; an embedded one has no others. */
  wire: Wire | null;
  close(): Promise<void>;
}

/** How servers on one database hear of each other. */
export interface Wire {
  /** Hears what is said on a channel with `pg_notify`; `back` whenever the connection stands anew, for what was said meanwhile is lost. */
  listen(channel: string, heard: (text: string) => void, back: () => void): Promise<() => Promise<void>>;
}

/** The database does not answer, or lost the connection before it said that a change is stored. */
export class DatabaseAway extends Error {
  constructor(cause: unknown) {
    super(`The database does not answer: ${cause instanceof Error ? cause.message : String(cause)}`, {
      cause,
    });
    this.name = 'DatabaseAway';
  }
}

/** The SQLSTATE of a failure, as PostgreSQL and PGlite both give it; '' for any other error. */
export const stateOf = (error: unknown): string => {
  const { code } = (error ?? {}) as { code?: unknown };
  return typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code) ? code : '';
};

/** The single row of a statement that surely gives one. */
export async function one<Row>(db: Queries, sql: string, params: readonly unknown[] = []): Promise<Row> {
  const [row] = await db.query<Row>(sql, params);
  if (row === undefined) throw new Error(`No row: ${sql.slice(0, 60)}`);
  return row;
}
