import type { KeptKind } from '@vigilum/contract/types';
import { one, type Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { scopeNow } from '../http/scope.ts';

/** Saves of one page that follow each other this closely are one earlier state, but for those with a note. */
export const SAME_SITTING = '3 minutes';

export interface Kept {
  kind: KeptKind;
  key: string;
  revision: number;
  value: unknown;
  note: string;
  at: Date;
}

/** Keeps a state of a thing, so that it can be brought back: one statement. Saves of one sitting are one state. */
export async function keepVersion(
  db: Queries,
  { kind, key, revision, value, note, at }: Kept,
): Promise<void> {
  await db.query(
    `with last as (
       select id, note, saved_by, saved_at from kept_versions where kind = $1 and key = $2 order by revision desc, id desc limit 1
     ), moved as (
       update kept_versions v set revision = $3, value = $4::jsonb, saved_at = $7::timestamptz from last
        where v.id = last.id and last.note = '' and $5 = '' and last.saved_by = $6
          and last.saved_at > $7::timestamptz - interval '${SAME_SITTING}'
       returning v.id
     )
     insert into kept_versions (kind, key, revision, value, note, saved_by, saved_at)
     select $1, $2, $3, $4::jsonb, $5, $6, $7::timestamptz where not exists (select 1 from moved)`,
    [kind, key, revision, JSON.stringify(value), note, scopeNow()?.by ?? '', at.toISOString()],
  );
}

/** Keeps what was there before the first save, under its own revision. */
export async function keepFirst(db: Queries, kept: Omit<Kept, 'note'>): Promise<void> {
  await db.query(
    `insert into kept_versions (kind, key, revision, value, note, saved_by, saved_at)
     select $1, $2, $3, $4::jsonb, 'as it was', '', $5
      where not exists (select 1 from kept_versions where kind = $1 and key = $2)`,
    [kept.kind, kept.key, kept.revision, JSON.stringify(kept.value), kept.at.toISOString()],
  );
}

/** Earlier states, newest first. */
export async function keptVersions(db: Queries, kind: KeptKind, key: string) {
  const rows = await db.query<{ revision: number; value: unknown; note: string; saved_at: Date }>(
    `select revision, value, note, saved_at from kept_versions
      where kind = $1 and key = $2 order by revision desc, id desc limit 100`,
    [kind, key],
  );
  return rows.map(({ revision, value, note, saved_at }) => ({
    revision,
    value,
    note,
    at: saved_at.getTime(),
  }));
}

/** A save that was made from another revision than the newest: both sides are told, nothing is changed. */
export const changedMeanwhile = (what: string, theirs: { revision: number; value: unknown }): Problem =>
  new Problem(
    409,
    'Changed meanwhile',
    `Somebody else saved ${what} meanwhile. Yours is still on this page; choose which one to keep.`,
    [],
    { theirs },
  );

interface Saved {
  kind: KeptKind;
  /** Table and column that name the thing. */
  table: 'kits' | 'courses' | 'phrasebooks';
  id: number;
  key: string;
  /** How people call it: “this kit”. */
  what: string;
  before: { revision: number; value: unknown };
  from: number;
  value: unknown;
  note: string;
  at: Date;
}

/**
 * Refuses a save from an older revision, keeps what was there and what comes, and gives the new revision. The thing
 * itself is stored by whoever calls, in the same transaction.
 */
export async function nextRevision(tx: Queries, save: Saved): Promise<number> {
  const { kind, key, before, from, value, note, at } = save;
  if (before.revision !== from) throw changedMeanwhile(save.what, before);
  await keepFirst(tx, { kind, key, ...before, at });
  const { revision } = await one<{ revision: number }>(
    tx,
    `update ${save.table} set revision = revision + 1 where id = $1 returning revision`,
    [save.id],
  );
  await keepVersion(tx, { kind, key, revision, value, note, at });
  return revision;
}
