import type { Database, Queries } from '../db/database.ts';

/** What was measured of one statement, whatever its parameters were. */
export interface StatementTimes {
  sql: string;
  times: number;
  /** All together, and the longest, ms. */
  totalMs: number;
  mostMs: number;
}

/** So many different statements are told apart; the program has a few hundred. */
const MOST = 1000;

/** How long statements take. Their texts hold no data: values come as parameters, which are never kept. */
export class Statements {
  private readonly known = new Map<string, StatementTimes>();
  private readonly slowMs: number;
  private readonly slow: (sql: string, ms: number) => void;
  private readonly each: (ms: number) => void;

  /** `slow` is told of every one that takes at least `slowMs`, and `each` of all. */
  constructor(
    slowMs: number,
    slow: (sql: string, ms: number) => void,
    each: (ms: number) => void = () => {},
  ) {
    this.slowMs = slowMs;
    this.slow = slow;
    this.each = each;
  }

  /** Those that took longest all together, and those with the longest single time. */
  slowest(n = 30): StatementTimes[] {
    const all = [...this.known.values()];
    const by = (of: (one: StatementTimes) => number) => [...all].sort((a, b) => of(b) - of(a)).slice(0, n);
    return [...new Set([...by(({ totalMs }) => totalMs), ...by(({ mostMs }) => mostMs)])];
  }

  private took(sql: string, ms: number): void {
    const text = sql.replaceAll(/\s+/g, ' ').trim();
    const one = this.known.get(text) ?? { sql: text, times: 0, totalMs: 0, mostMs: 0 };
    one.times++;
    one.totalMs += ms;
    one.mostMs = Math.max(one.mostMs, ms);
    if (this.known.size < MOST || this.known.has(text)) this.known.set(text, one);
    this.each(ms);
    if (ms >= this.slowMs) this.slow(text, ms);
  }

  private timed = (from: Queries): Queries => ({
    query: async <Row>(sql: string, params?: readonly unknown[]) => {
      const began = performance.now();
      try {
        return await from.query<Row>(sql, params);
      } finally {
        this.took(sql, performance.now() - began);
      }
    },
  });

  /** The same database, each of its statements timed. */
  over = (db: Database): Database => ({
    ...db,
    ...this.timed(db),
    transaction: (work) => db.transaction((tx) => work(this.timed(tx))),
  });
}
