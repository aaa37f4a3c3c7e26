import { timingSafeEqual } from 'node:crypto';
import { one, type Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { hasAccounts } from './accounts.ts';
import { hashOf, spokenPassword } from './secrets.ts';

const KEY = 'first code';

/**
 * The code that makes the first account of a school, the same one until it is used; null once somebody has an account. It is kept as it is:
 * it is printed at every start, and whoever can read the database has everything anyway.
 */
export async function firstCode(db: Queries): Promise<string | null> {
  if (await hasAccounts(db)) return null;
  // Two servers that start together print the same code.
  await db.query(
    `insert into meta (key, value) values ('${KEY}', to_jsonb($1::text)) on conflict (key, school_id) do nothing`,
    [spokenPassword()],
  );
  const row = await one<{ code: string }>(db, `select value #>> '{}' as code from meta where key = '${KEY}'`);
  return row.code;
}

/** How a code may be typed: in capitals, with blanks for dashes. */
const plain = (code: string): string =>
  code
    .trim()
    .toLowerCase()
    .replace(/[\s-]+/g, '-');

/** Uses up the code. Throws a 403 where it is not the right one, and changes nothing then. */
export async function useFirstCode(tx: Queries, typed: string): Promise<void> {
  const code = await firstCode(tx);
  const [given, wanted] = [typed, code ?? ''].map((text) => Buffer.from(hashOf(plain(text))));
  if (code === null || !timingSafeEqual(given!, wanted!))
    throw new Problem(
      403,
      'Wrong code',
      'Nothing was saved: this isn’t the code for the first account. Vigilum prints the code when it starts.',
      [{ field: 'code', says: 'is not the code that was printed at the start' }],
    );
  await tx.query(`delete from meta where key = '${KEY}'`);
}
