import type { Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';

/** A field that is wrong in a way that no schema can tell. */
export const wrong = (field: string, says: string, told: string) =>
  new Problem(422, 'Check these fields', `Nothing was saved: ${says}`, [{ field, says: told }]);

export async function classOf(db: Queries, text: string): Promise<number> {
  const [klass] = await db.query<{ id: number }>(
    'select id from classes where id = $1 and removed_at is null',
    [idFrom(text)],
  );
  if (!klass) throw notFound('such class');
  return klass.id;
}

/** Tables of the plan whose rows are hidden and brought back. */
export type Removable = 'terms' | 'days_off' | 'meetings' | 'things' | 'series' | 'own_skills';

/** Hides a row, or brings it back where `at` is null; a 404 that names what is not there. */
export async function setRemoved(
  db: Queries,
  table: Removable,
  id: number | string,
  at: Date | null,
  what: string,
): Promise<void> {
  const rows = await db.query(`update ${table} set removed_at = $2 where id = $1 returning 1`, [
    id,
    at?.toISOString() ?? null,
  ]);
  if (rows.length === 0) throw notFound(what);
}

/** How rows of the plan are taken away and brought back, each told to whoever shows it. */
export function removals({ db, changes, now }: Services) {
  const set = async (table: Removable, id: string, at: Date | null, what: string) => {
    await setRemoved(db, table, idFrom(id), at, what);
    changes.tell({ what: 'plan' });
    return undefined;
  };
  return {
    away: (table: Removable, id: string, what: string) => set(table, id, now(), what),
    back: (table: Removable, id: string, what: string) => set(table, id, null, what),
  };
}
