import type { Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';

/** An hour that nobody ended is over after so long. */
const LONGEST_HOUR = `interval '18 hours'`;

/**
 * When the hour began in which a team has its robot; null where it has not. Classes share robots: one belongs to the class whose hour is
 * going on, and of two to the one that began later.
 */
export async function hasRobotSince(
  db: Queries,
  team: number,
  robot: number,
  at: Date,
): Promise<Date | null> {
  const [row] = await db.query<{ mine: boolean; began_at: Date }>(
    `select p.began_at, exists (
              select 1 from teams t where t.id = $1 and t.class_id = p.class_id and t.robot_id = $2 and t.removed_at is null) as mine
       from periods p
      where p.class_id in (select class_id from teams where robot_id = $2 and removed_at is null)
        and p.removed_at is null and p.began_at is not null and p.ended_at is null
        and p.starts_at <= $3::timestamptz and p.starts_at > $3::timestamptz - ${LONGEST_HOUR}
      order by p.began_at desc, p.id desc limit 1`,
    [team, robot, at.toISOString()],
  );
  return row?.mine ? row.began_at : null;
}

/** Whether a team drives a robot, in its hour or not. */
export async function drives(db: Queries, team: number, robot: number): Promise<boolean> {
  const rows = await db.query('select 1 from teams where id = $1 and robot_id = $2 and removed_at is null', [
    team,
    robot,
  ]);
  return rows.length > 0;
}

export const notYourHour = () =>
  new Problem(
    403,
    'Not your hour',
    'Nothing was changed: the robot is yours while your lesson hour is going on. Your teacher begins it.',
    [],
    { hour: 'over' },
  );
