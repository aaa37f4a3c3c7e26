import type { Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { hashOf } from './secrets.ts';

/** After so long all wrong attempts are forgotten, ms. */
const FORGOTTEN_MS = 3600_000;
/** Wrong attempts that cost nothing where each costs more than the one before: people mistype. */
const FREE = 4;
const LONGEST_S = 300;

/** Seconds to wait after so many wrong attempts in a row: doubled each time from the fifth on, five minutes at most. */
export const waitAfter = (wrong: number): number =>
  wrong <= FREE ? 0 : Math.min(LONGEST_S, 2 ** (wrong - FREE));

/**
 * How wrong attempts are counted under a key. `slower`: each wait is longer than the one before, and a right attempt ends it, for
 * passwords. A budget allows so many wrong attempts an hour, and a right one gives none back, for codes that a class shares.
 */
export interface Rule {
  key: string;
  most: 'slower' | number;
}

interface Count {
  wrong: number;
  /** Nothing is looked at before this moment, ms. */
  until: number;
  /** When it was first wrong, for a budget; else when it was last, ms. */
  at: number;
}

/** A key's count after one more wrong attempt. */
function afterWrong({ most }: Rule, before: Count | undefined, now: number): Count {
  const known = before && now - before.at < FORGOTTEN_MS ? before : { wrong: 0, until: 0, at: now };
  const wrong = known.wrong + 1;
  if (most === 'slower') return { wrong, until: now + 1000 * waitAfter(wrong), at: now };
  return { wrong, until: wrong >= most ? known.at + FORGOTTEN_MS : 0, at: known.at };
}

interface BrakeOptions {
  now?: () => number;
  /** Whether wrong attempts can be stored. */
  hasRoom?: () => boolean;
}

/** Slows down whoever guesses passwords, codes or pictures; on all servers of a database together. */
export class Brake {
  private readonly db: Queries;
  private readonly now: () => number;
  private readonly hasRoom: () => boolean;
  /** What is counted while the disk is full. */
  private readonly here = new Map<string, Count>();
  private readonly turns = new Map<string, Promise<unknown>>();

  constructor(db: Queries, { now = Date.now, hasRoom = () => true }: BrakeOptions = {}) {
    this.db = db;
    this.now = now;
    this.hasRoom = hasRoom;
  }

  /**
   * Looks whether something is right; `look` throws where it is not. Attempts under one key are looked at one after the other, so that many
   * at once get no further, and right ones are never counted. Throws a 429 while one of the keys has to wait.
   */
  async attempt<T>(rules: readonly Rule[], look: () => Promise<T>): Promise<T> {
    // Nobody's name or address is kept.
    const hashed = rules.map((rule) => ({ ...rule, key: hashOf(rule.key) }));
    return this.inTurn(
      hashed.map(({ key }) => key),
      async () => {
        await this.mustNotWait(hashed);
        let found: T;
        try {
          found = await look();
        } catch (error) {
          if (error instanceof Problem && error.status < 500) await this.count(hashed);
          throw error;
        }
        await this.forget(hashed.filter(({ most }) => most === 'slower'));
        return found;
      },
    );
  }

  /** Waits until nobody else here looks under any of the keys. */
  private async inTurn<T>(keys: readonly string[], work: () => Promise<T>): Promise<T> {
    const before = keys.flatMap((key) => this.turns.get(key) ?? []);
    const mine = Promise.all(before).then(work);
    const over = mine.catch(() => undefined);
    for (const key of keys) this.turns.set(key, over);
    try {
      return await mine;
    } finally {
      for (const key of keys) if (this.turns.get(key) === over) this.turns.delete(key);
    }
  }

  private async mustNotWait(rules: readonly Rule[]): Promise<void> {
    const now = this.now();
    const keys = rules.map(({ key }) => key);
    const [row] = await this.db.query<{ until: Date | null }>(
      'select max(until) as until from wrong_tries where key = any($1::text[])',
      [keys],
    );
    const until = Math.max(row?.until?.getTime() ?? 0, ...keys.map((key) => this.here.get(key)?.until ?? 0));
    if (until <= now) return;
    const seconds = Math.max(1, Math.ceil((until - now) / 1000));
    throw new Problem(
      429,
      'Wait a little',
      `Too many wrong attempts. Wait ${seconds < 120 ? `${seconds} s` : `${Math.ceil(seconds / 60)} minutes`}, then try again.`,
      [],
      { waitS: seconds },
    );
  }

  private async count(rules: readonly Rule[]): Promise<void> {
    const now = this.now();
    if (!this.hasRoom()) {
      if (this.here.size > 10_000) this.here.clear();
      for (const rule of rules) this.here.set(rule.key, afterWrong(rule, this.here.get(rule.key), now));
      return;
    }
    const rows = await this.db.query<{ key: string; wrong: number; until: Date; at: Date }>(
      'select key, wrong, until, at from wrong_tries where key = any($1::text[])',
      [rules.map(({ key }) => key)],
    );
    const known = new Map(
      rows.map(({ key, wrong, until, at }) => [
        key,
        { wrong, until: until.getTime(), at: at.getTime() } satisfies Count,
      ]),
    );
    // In one order, so that no two servers wait for each other.
    const after = rules
      .map((rule) => ({ key: rule.key, ...afterWrong(rule, known.get(rule.key), now) }))
      .sort((a, b) => (a.key < b.key ? -1 : 1));
    await this.db.query(
      `insert into wrong_tries as t (key, wrong, until, at)
       select * from unnest($1::text[], $2::int[], $3::timestamptz[], $4::timestamptz[])
       on conflict (key) do update set
         wrong = case when t.at < $5::timestamptz then excluded.wrong else greatest(t.wrong + 1, excluded.wrong) end, until = greatest(t.until, excluded.until), at = excluded.at`,
      [
        after.map(({ key }) => key),
        after.map(({ wrong }) => wrong),
        after.map(({ until }) => new Date(until).toISOString()),
        after.map(({ at }) => new Date(at).toISOString()),
        new Date(now - FORGOTTEN_MS).toISOString(),
      ],
    );
    await this.db.query('delete from wrong_tries where at < $1', [
      new Date(now - FORGOTTEN_MS).toISOString(),
    ]);
  }

  private async forget(rules: readonly Rule[]): Promise<void> {
    for (const { key } of rules) this.here.delete(key);
    if (rules.length === 0 || !this.hasRoom()) return;
    await this.db.query('delete from wrong_tries where key = any($1::text[])', [rules.map(({ key }) => key)]);
  }
}
