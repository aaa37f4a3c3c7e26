import { one, type Queries } from '../db/database.ts';
import { everywhere, reachNow } from '../db/reach.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { Problem } from '../http/problems.ts';
import { countOf } from '@vigilum/core/quantity';
import type { Limited } from '@vigilum/contract/roles';

/** Whether there are several schools is believed for so long, ms: every request of somebody unknown asks. */
const BELIEVED_MS = 3000;

interface Known {
  ids: readonly number[];
  at: number;
}
const known = new WeakMap<Queries, Known>();

/** The schools that are open, oldest first. */
async function openSchools(db: Queries): Promise<readonly number[]> {
  const before = known.get(db);
  if (before && performance.now() - before.at < BELIEVED_MS) return before.ids;
  const rows = await everywhere(() =>
    db.query<{ id: number }>('select id from schools where removed_at is null order by id'),
  );
  const ids = rows.map(({ id }) => id);
  known.set(db, { ids, at: performance.now() });
  return ids;
}
/** What was believed of schools is asked for again. */
export const forgetSchools = (db: Queries): void => void known.delete(db);

/** The school where there is only one; null where there are several. */
export async function onlySchool(db: Queries): Promise<number | null> {
  const ids = await openSchools(db);
  return ids.length === 1 ? ids[0]! : null;
}

/** The school that was there first: this machine's own programs work for it. */
export async function firstSchool(db: Queries): Promise<number> {
  const [first] = await openSchools(db);
  if (first === undefined) throw new Error('There is no school.');
  return first;
}

/** The school that a command is for: the one that is named, or the only one. */
export async function schoolMeant(db: Queries, slug: string | undefined): Promise<number> {
  const found = slug === undefined ? await onlySchool(db) : await schoolNamed(db, slug);
  if (found === null)
    throw new FolderTrouble(
      slug === undefined
        ? 'There are several schools in this database: say which by --school and its short name.'
        : `No school here has the short name ${slug}. The page Schools lists them.`,
    );
  return found;
}

/** The open school of a short name; upper and lower case do not matter. Null for none. */
export async function schoolNamed(db: Queries, slug: string): Promise<number | null> {
  const [row] = await everywhere(() =>
    db.query<{ id: number }>('select id from schools where slug = lower($1) and removed_at is null', [
      slug.trim(),
    ]),
  );
  return row?.id ?? null;
}

/** The rows of each that count. */
export const counted: Record<Limited, string> = {
  accounts: 'accounts where removed_at is null',
  classes: 'classes where removed_at is null and archived_at is null',
  robots: 'robots where removed_at is null',
};
const nameOf: Record<Limited, [string, string]> = {
  accounts: ['account', 'accounts'],
  classes: ['class', 'classes'],
  robots: ['robot', 'robots'],
};

/** Refuses what would give the school of the request more of something than its office allows, `more` at once. */
export async function mustHaveRoom(tx: Queries, what: Limited, more = 1): Promise<void> {
  const school = reachNow();
  // What the server does for itself, such as filling a demo, is not limited.
  if (typeof school !== 'number') return;
  const [row] = await tx.query<{ most: Partial<Record<Limited, number>> }>(
    'select most from schools where id = $1',
    [school],
  );
  const most = row?.most[what];
  if (most === undefined) return;
  const { n } = await one<{ n: number }>(tx, `select count(*)::int as n from ${counted[what]}`);
  if (n + more <= most) return;
  throw new Problem(
    409,
    'No more allowed',
    `Nothing was saved: this school may have ${countOf(most, ...nameOf[what])}, and has ${n}. Remove one that is not needed, or ask the office for more.`,
  );
}

/** Gives the school of the request its name: its own pages show it, and so does the office's. */
export async function callSchool(db: Queries, name: string): Promise<void> {
  await db.query(
    `insert into meta (key, value) values ('school', to_jsonb($1::text))
     on conflict (school_id, key) do update set value = excluded.value`,
    [name],
  );
  await db.query('update schools set name = $1 where id = school_of_new()', [name]);
}

/** Whether the server signs in to PostgreSQL as somebody who sees the rows of all schools, whatever is asked. */
export async function isAboveSchools(db: Queries): Promise<boolean> {
  const { above } = await one<{ above: boolean }>(
    db,
    'select rolsuper or rolbypassrls as above from pg_roles where rolname = current_user',
  );
  return above;
}

/** Refuses whoever is not of the office that looks after all schools. */
export async function mustBeOffice(db: Queries): Promise<void> {
  if (!(await isOffice(db)))
    throw new Problem(
      403,
      'For the office',
      'Nothing was changed: this is looked after by the office, for all schools together. Ask there.',
    );
}

/** Whether the school of the request is the office of all: where there is one alone, it looks after itself. */
export async function isOffice(db: Queries): Promise<boolean> {
  const school = reachNow();
  if (typeof school !== 'number') return false;
  // What is believed may be older than a school that was just made: it is nobody's office.
  if ((await onlySchool(db)) === school) return true;
  const rows = await db.query('select 1 from schools where office and removed_at is null and id = $1', [
    school,
  ]);
  return rows.length > 0;
}
