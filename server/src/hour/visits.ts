import type { Took } from '@vigilum/core/hour';
import type { PeriodRow } from '../classes/periods.ts';
import type { Queries } from '../db/database.ts';

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
