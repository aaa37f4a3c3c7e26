import type { Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { hashOf } from './secrets.ts';

/** Wrong attempts that cost nothing: people mistype. */
const FREE = 4;
const LONGEST_S = 300;
/** After so long without a wrong attempt all is forgotten, ms. */
const FORGOTTEN_MS = 3600_000;
/** From so many on the wait stays the longest. */
const MOST_WRONG = 13;

/** Seconds to wait after so many wrong attempts in a row: doubled each time from the fifth on, five minutes at most. */
export const waitAfter = (wrong: number): number =>
  wrong <= FREE ? 0 : Math.min(LONGEST_S, 2 ** (wrong - FREE));

/** Slows down whoever tries passwords, codes or pictures, by what is tried and by where from; on all servers of a database together. */
export class Brake {
  private readonly db: Queries;
  private readonly now: () => number;

  constructor(db: Queries, now: () => number = Date.now) {
    this.db = db;
    this.now = now;
  }

  /**
   * Looks whether something is right; `look` throws where it is not. It counts as wrong before it is looked at, so that many tries at once
   * are no way round, and all is forgotten when it is right. Throws a 429 while one of the keys has to wait.
   */
  async attempt<T>(keys: readonly string[], look: () => Promise<T>): Promise<T> {
    // Nobody's name or address is kept; in one order, so that no two wait for each other.
    const hashes = keys.map(hashOf).sort();
    const at = new Date(this.now()).toISOString();
    const forgotten = new Date(this.now() - FORGOTTEN_MS).toISOString();
    const waits = Array.from({ length: MOST_WRONG }, (_, i) => waitAfter(i + 1));
    const counted = await this.db.query(
      `with tried as (select key from unnest($1::text[]) as k(key))
       insert into wrong_tries as t (key, wrong, until, at) select key, 1, $2::timestamptz, $2::timestamptz from tried
       on conflict (key) do update set
         wrong = case when t.at < $3 then 1 else t.wrong + 1 end,
         until = $2::timestamptz + interval '1 second'
                 * ($4::int[])[case when t.at < $3 then 1 else least(t.wrong + 1, cardinality($4::int[])) end],
         at = $2
       where t.until <= $2::timestamptz returning key`,
      [hashes, at, forgotten, waits],
    );
    if (counted.length < hashes.length) throw await this.refusal(hashes);
    const found = await look();
    await this.db.query('delete from wrong_tries where key = any($1::text[]) or at < $2', [
      hashes,
      forgotten,
    ]);
    return found;
  }

  private async refusal(hashes: readonly string[]): Promise<Problem> {
    const [row] = await this.db.query<{ until: Date | null }>(
      'select max(until) as until from wrong_tries where key = any($1::text[])',
      [hashes],
    );
    const seconds = Math.max(1, Math.ceil(((row?.until?.getTime() ?? 0) - this.now()) / 1000));
    return new Problem(
      429,
      'Wait a little',
      `Too many wrong attempts. Wait ${seconds} s, then try again.`,
      [],
      { waitS: seconds },
    );
  }
}
