import type { Queries } from '../db/database.ts';

/** A table as a backup keeps it. */
export interface Table {
  name: string;
  /** Columns of its primary key, in their order, as they are compared: texts by their bytes, in whatever order a database has its letters. */
  key: { column: string; collate: string }[];
}

/** Tables that a backup leaves out: what restoring makes itself, and what is only kept for tablets and servers on their way. */
const LEFT_OUT = ['migrations', 'writes', 'changes', 'robot_seats', 'wrong_tries'];

/** A name as SQL may use it. */
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** All tables of the record, those that others point to before them. */
export async function tablesOf(db: Queries): Promise<Table[]> {
  const tables = await db.query<Table>(
    `select c.relname as name, array(
              select jsonb_build_object('column', a.attname::text,
                       'collate', case when a.attcollation <> 0 then ' collate "C"' else '' end)
                from pg_index i
                join unnest(i.indkey) with ordinality as k(attnum, place) on true
                join pg_attribute a on a.attrelid = c.oid and a.attnum = k.attnum
               where i.indrelid = c.oid and i.indisprimary order by k.place) as key
       from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname = 'public' and c.relkind = 'r' order by c.relname`,
  );
  const links = await db.query<{ from: string; to: string }>(
    `select f.relname as from, t.relname as to from pg_constraint k
       join pg_class f on f.oid = k.conrelid join pg_class t on t.oid = k.confrelid
      where k.contype = 'f' and k.conrelid <> k.confrelid`,
  );
  const open = new Map(
    tables.filter(({ name }) => !LEFT_OUT.includes(name)).map((table) => [table.name, table]),
  );
  const ordered: Table[] = [];
  while (open.size > 0) {
    const ready = [...open.keys()].filter(
      (name) => !links.some(({ from, to }) => from === name && open.has(to)),
    );
    if (ready.length === 0) throw new Error(`Tables point to each other: ${[...open.keys()].join(', ')}.`);
    for (const name of ready) {
      ordered.push(open.get(name)!);
      open.delete(name);
    }
  }
  return ordered;
}

/** Rows that are read at once: some hold hundreds of thousands of readings. */
const PAGE = 40;

/** Every row of a table as the text of a JSON object, in the order of its key. */
export async function* rowsOf(db: Queries, { name, key }: Table): AsyncGenerator<string> {
  if (key.length === 0) throw new Error(`The table ${name} has no key.`);
  const columnsOf = (of: string) =>
    key.map(({ column, collate }) => `${of}.${quoted(column)}${collate}`).join(', ');
  const columns = columnsOf('t');
  // The last row that was read, as a row of the table itself: keys are compared as what they are.
  const from = `where (${columns}) > (select ${columnsOf('k')} from jsonb_populate_record(null::${quoted(name)}, $1::jsonb) k)`;
  let last: string | null = null;
  for (;;) {
    const rows: { row: string }[] = await db.query(
      `select to_jsonb(t)::text as row from ${quoted(name)} t ${last === null ? '' : from} order by ${columns} limit ${PAGE}`,
      last === null ? [] : [last],
    );
    for (const { row } of rows) yield row;
    if (rows.length < PAGE) return;
    last = rows.at(-1)!.row;
  }
}
