import type { Queries } from './database.ts';

/** A clock that was this far ahead is not followed, ms: somebody set a wrong day, and the record cannot wait for it. */
const MOST_AHEAD_MS = 26 * 3_600_000;

/** Columns that tell when something was recorded. */
const recorded = [
  ['sample_sets', 'taken_at'],
  ['quick_looks', 'taken_at'],
  ['recordings', 'taken_at'],
  ['thresholds', 'decided_at'],
  ['script_versions', 'saved_at'],
  ['tries', 'tried_at'],
  ['proofs', 'proved_at'],
  ['wire_checks', 'checked_at'],
  ['floor_trials', 'tried_at'],
] as const;

/** The newest moment in the record, ms since the epoch; 0 for none. */
export async function newestRecorded(db: Queries): Promise<number> {
  const newest = recorded.map(([table, column]) => `(select max(${column}) from ${table})`).join(', ');
  const [row] = await db.query<{ at: Date | null }>(`select greatest(${newest}) as at`);
  return row?.at?.getTime() ?? 0;
}

/**
 * A clock that never goes back behind what it told before, nor behind the record: what is new is also the newest, though
 * somebody sets the machine's clock back. It goes on from there by the steady clock of the machine until the other has caught up.
 */
export function steadyClock(
  newest: number,
  wall: () => number = Date.now,
  steady: () => number = () => performance.now(),
): () => Date {
  const ahead = newest - wall();
  let told = ahead > 0 && ahead <= MOST_AHEAD_MS ? newest : wall();
  let at = steady();
  return () => {
    const now = steady();
    told = Math.max(told + (now - at), wall());
    at = now;
    return new Date(told);
  };
}
