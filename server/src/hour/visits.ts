import { hourSpent, hourState } from '@vigilum/core/classroom';
import type { Took } from '@vigilum/core/hour';
import { hourOf, selectPeriods, type PeriodRow } from '../classes/periods.ts';
import type { Queries } from '../db/database.ts';

/** Notes that a team came to a step, where an hour of its work is going on and it was at another step before. */
export async function visited(
  db: Queries,
  { work, first, step }: { work: number; first: number; step: string },
  at: Date,
): Promise<void> {
  const [row] = await db.query<PeriodRow>(
    `${selectPeriods} where p.first_id = $1 and p.removed_at is null and p.began_at is not null and p.ended_at is null
      order by p.starts_at desc, p.id desc limit 1`,
    [first],
  );
  if (!row || hourState(hourOf(row), at.getTime()) === 'ended') return;
  await db.query(
    `insert into step_visits (work_id, period_id, step_id, hour_s)
     select $1, $2, $3, $4 where $3 is distinct from
       (select step_id from step_visits where work_id = $1 and period_id = $2 order by id desc limit 1)`,
    [work, row.id, step, 60 * hourSpent(hourOf(row), at.getTime())],
  );
}

/** Earlier hours that times are learnt from, and times at most. */
const MOST = { hours: 12, times: 2000 };

/** What teams took for the steps of a lesson in earlier hours, those of the class itself first. Stays that nothing came after are not over, and do not count. */
export async function tookBefore(db: Queries, { id, class_id, lesson_id }: PeriodRow): Promise<Took[]> {
  return db.query<Took>(
    `with hours as (
       select p.id from periods p where p.lesson_id = $2 and p.id <> $3 and p.removed_at is null and p.began_at is not null
        order by p.class_id = $1 desc, p.starts_at desc limit ${MOST.hours}
     ), stays as (
       select v.work_id, v.period_id, v.step_id, v.hour_s,
              lead(v.hour_s) over (partition by v.period_id, v.work_id order by v.id) as until
         from step_visits v join hours h on h.id = v.period_id
     )
     select w.team_id as team, s.step_id as step, greatest(0.25, sum(s.until - s.hour_s) / 60) as minutes
       from stays s join works w on w.id = s.work_id
      where s.until is not null group by s.period_id, w.team_id, s.step_id
      order by 1, 2 limit ${MOST.times}`,
    [class_id, lesson_id, id],
  );
}
