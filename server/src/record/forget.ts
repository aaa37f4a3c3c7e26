import { quoted } from '../backup/tables.ts';
import type { Queries } from '../db/database.ts';

interface Link {
  child: string;
  columns: string[];
  parent: string;
  of: string[];
}

/** What points to rows of other tables, by one column or several. */
const linksOf = (db: Queries): Promise<Link[]> =>
  db.query<Link>(
    `select c.relname as child, p.relname as parent,
            array(select a.attname::text from unnest(k.conkey) with ordinality as u(num, place)
                    join pg_attribute a on a.attrelid = k.conrelid and a.attnum = u.num order by u.place) as columns,
            array(select a.attname::text from unnest(k.confkey) with ordinality as u(num, place)
                    join pg_attribute a on a.attrelid = k.confrelid and a.attnum = u.num order by u.place) as of
       from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_class p on p.oid = k.confrelid
      where k.contype = 'f' and c.relname <> p.relname order by c.relname, k.conname`,
  );

const list = (columns: readonly string[]): string => columns.map(quoted).join(', ');

/** SQL for the rows of a table that hang on a team, by whatever way of links. */
interface Held {
  table: string;
  where: string;
}

/**
 * All that hangs on a team, what hangs on it farthest first, so that it can be deleted in this order. Found from the links of the tables
 * themselves: a table that is added later is found too.
 */
async function heldTables(db: Queries): Promise<Held[]> {
  const links = await linksOf(db);
  const conditions = new Map<string, Set<string>>([['teams', new Set(['id = $1'])]]);
  const depth = new Map([['teams', 0]]);
  const visit = (parent: string, path: readonly string[]) => {
    for (const link of links.filter((one) => one.parent === parent)) {
      if (path.includes(link.child)) continue;
      const inner = [...conditions.get(parent)!].join(' or ');
      const own = conditions.get(link.child) ?? new Set<string>();
      own.add(`(${list(link.columns)}) in (select ${list(link.of)} from ${quoted(parent)} where ${inner})`);
      conditions.set(link.child, own);
      depth.set(link.child, Math.max(depth.get(link.child) ?? 0, path.length));
      visit(link.child, [...path, link.child]);
    }
  };
  visit('teams', ['teams']);
  return [...conditions]
    .sort(([a], [b]) => depth.get(b)! - depth.get(a)! || (a < b ? -1 : 1))
    .map(([table, all]) => ({ table, where: [...all].join(' or ') }));
}

/** Earlier states of notes are kept by a key that begins with the team. */
const NOTES: Held = {
  table: 'kept_versions',
  where: `kind = 'note' and starts_with(key, $1::int::text || '/')`,
};

/** How many rows each table holds of a team; tables without any are left out. */
export async function heldOf(db: Queries, team: number): Promise<{ table: string; rows: number }[]> {
  const found: { table: string; rows: number }[] = [];
  for (const { table, where } of [...(await heldTables(db)), NOTES]) {
    const [row] = await db.query<{ n: number }>(
      `select count(*)::int as n from ${quoted(table)} where ${where}`,
      [team],
    );
    if (row!.n > 0) found.push({ table, rows: row!.n });
  }
  return found.sort((a, b) => (a.table < b.table ? -1 : 1));
}

/** Deletes a team and all that hangs on it, for good; keeps that something was deleted, and how much. Gives what it was. */
export async function forget(
  tx: Queries,
  team: number,
  at: Date,
  by: string,
): Promise<{ table: string; rows: number }[]> {
  const deleted: { table: string; rows: number }[] = [];
  for (const { table, where } of [NOTES, ...(await heldTables(tx))]) {
    const rows = await tx.query(`delete from ${quoted(table)} where ${where} returning 1`, [team]);
    if (rows.length > 0) deleted.push({ table, rows: rows.length });
  }
  // Answers that are kept for tablets on their way may hold something of it.
  await tx.query('delete from writes');
  await tx.query('insert into forgotten (at, by, rows) values ($1, $2, $3)', [
    at.toISOString(),
    by,
    deleted.reduce((sum, { rows }) => sum + rows, 0),
  ]);
  return deleted.sort((a, b) => (a.table < b.table ? -1 : 1));
}
