import type { TeamMember } from '@vigilum/contract/types';
import { ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';

/** Who is or was in some teams, in the order in which they came. */
export async function membersOf(
  db: Queries,
  teams: readonly number[],
): Promise<(TeamMember & { team: number })[]> {
  const rows = await db.query<{
    id: number;
    team_id: number;
    nickname: string;
    came_at: Date;
    left_at: Date | null;
  }>(
    'select id, team_id, nickname, came_at, left_at from team_members where team_id = any($1::int[]) order by came_at, id',
    [[...teams]],
  );
  return rows.map(({ id, team_id, nickname, came_at, left_at }) => ({
    id,
    team: team_id,
    nickname,
    cameAt: ms(came_at),
    leftAt: left_at && ms(left_at),
  }));
}
