import type { Overruling, Standing } from '@vigilum/core/year';
import { ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';

interface OverrulingRow {
  team_id: number;
  skill: string;
  standing: Standing;
  reason: string;
  said_by: string;
  said_at: Date;
}

/** What teachers say against what was computed, by team and skill: the newest that was not withdrawn. */
export async function overrulingsOf(
  db: Queries,
  teams: readonly number[],
): Promise<Map<number, Record<string, Overruling>>> {
  const rows = await db.query<OverrulingRow>(
    `select distinct on (team_id, skill) team_id, skill, standing, reason, said_by, said_at from skill_overrulings
      where team_id = any($1::int[]) and removed_at is null order by team_id, skill, id desc`,
    [[...teams]],
  );
  const by = new Map<number, Record<string, Overruling>>();
  for (const { team_id, skill, standing, reason, said_by, said_at } of rows)
    by.set(team_id, { ...by.get(team_id), [skill]: { standing, reason, by: said_by, at: ms(said_at) } });
  return by;
}
