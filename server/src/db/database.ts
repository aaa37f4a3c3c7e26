/** What the routes may ask of a database. The same SQL serves PGlite and PostgreSQL. */
export interface Queries {
  /** Runs one statement with parameters and gives its rows. */
  query<Row>(sql: string, params?: readonly unknown[]): Promise<Row[]>;
}

export interface Database extends Queries {
  /** Runs several statements without parameters: migrations only. */
  exec(sql: string): Promise<void>;
  /** All or nothing. Inside, use only the handle passed in. */
  transaction<T>(work: (tx: Queries) => Promise<T>): Promise<T>;
  /** The whole data folder as one compressed file, for a snapshot. */
  dump(): Promise<Blob>;
  close(): Promise<void>;
}

/** The single row of a statement that surely gives one. */
export async function one<Row>(db: Queries, sql: string, params: readonly unknown[] = []): Promise<Row> {
  const [row] = await db.query<Row>(sql, params);
  if (row === undefined) throw new Error(`No row: ${sql.slice(0, 60)}`);
  return row;
}
