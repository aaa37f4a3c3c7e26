import { one, type Queries } from '../db/database.ts';

/** A lesson that was left less than so many days ago goes on where it stood. */
const GOES_ON_DAYS = 28;

export interface NewHour {
  classId: number;
  lessonId: number;
  startsAt: Date;
  minutes: number;
  /** It begins now; otherwise it is planned. */
  began: boolean;
  /** Begins with nothing, though the class had the lesson a little while ago. */
  anew: boolean;
}

/** Adds an hour of a class. It goes on from the last one of the same lesson, unless that is long ago or it shall begin anew. */
export function addHour(db: Queries, hour: NewHour): Promise<{ id: number; first_id: number }> {
  return one<{ id: number; first_id: number }>(
    db,
    `with made as (select nextval(pg_get_serial_sequence('periods', 'id'))::int as id),
          before as (select first_id from periods
                      where class_id = $1 and lesson_id = $2 and removed_at is null and not $6
                        and starts_at <= $3::timestamptz
                        and starts_at > $3::timestamptz - interval '${GOES_ON_DAYS} days'
                      order by starts_at desc, id desc limit 1)
     insert into periods (id, first_id, class_id, lesson_id, starts_at, minutes, began_at)
     overriding system value
     select made.id, coalesce((select first_id from before), made.id), $1, $2, $3, $4,
            case when $5 then $3::timestamptz end from made
     returning id, first_id`,
    [hour.classId, hour.lessonId, hour.startsAt.toISOString(), hour.minutes, hour.began, hour.anew],
  );
}
