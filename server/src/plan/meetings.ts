import { addHour } from '../classes/hours.ts';
import type { Queries } from '../db/database.ts';

export interface NewMeeting {
  startsAt: number;
  minutes: number;
  /** Row of its room. */
  room: number | null;
}

/** Adds meetings of a class, but for times at which it meets already; those that were added, in order of time. */
export function addMeetings(
  db: Queries,
  klass: number,
  term: number | null,
  meetings: readonly NewMeeting[],
): Promise<{ id: number; starts_at: Date; minutes: number }[]> {
  return db.query<{ id: number; starts_at: Date; minutes: number }>(
    `insert into meetings (class_id, term_id, starts_at, minutes, room_id)
     select $1, $2, u.starts_at, u.minutes, u.room_id
       from unnest($3::timestamptz[], $4::int[], $5::int[]) as u (starts_at, minutes, room_id)
      where not exists (select 1 from meetings m
                         where m.class_id = $1 and m.starts_at = u.starts_at and m.removed_at is null)
      order by u.starts_at returning id, starts_at, minutes`,
    [
      klass,
      term,
      meetings.map(({ startsAt }) => new Date(startsAt).toISOString()),
      meetings.map(({ minutes }) => minutes),
      meetings.map(({ room }) => room),
    ],
  );
}

/** Plans a lesson for a meeting; the hour goes on from the last one of that lesson, as every hour does. */
export async function planHour(
  db: Queries,
  klass: number,
  lesson: number,
  meeting: { id: number; starts_at: Date; minutes: number },
): Promise<number> {
  const { id } = await addHour(db, {
    classId: klass,
    lessonId: lesson,
    startsAt: new Date(meeting.starts_at),
    minutes: meeting.minutes,
    began: false,
    anew: false,
  });
  await db.query('update periods set meeting_id = $2 where id = $1', [id, meeting.id]);
  return id;
}
