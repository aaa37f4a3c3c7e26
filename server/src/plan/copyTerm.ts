import { dayOf, isDay, momentOf, offOn } from '@vigilum/core/year';
import type { TermCopy } from '@vigilum/contract/types';
import { ms } from '../classes/rows.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { dayAfter } from './days.ts';
import { addMeetings, planHour } from './meetings.ts';

const weekdayOf = (day: string): number => (new Date(`${day}T00:00Z`).getUTCDay() + 6) % 7;
const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);

/**
 * A term again on other days: the same weekdays and times by the school's clock, whole weeks later; the lessons of each class in their
 * order for the class that takes them over. Days off of the new term are left out and the lessons follow; what then has no meeting is told.
 */
export async function copyTerm(
  tx: Queries,
  id: number,
  { name, from, classes }: TermCopy,
  zone: string,
  now: Date,
): Promise<{ id: number; meetings: number; hours: number; over: string[] }> {
  const [term] = await tx.query<{ from: string; to: string }>(
    'select from_day as "from", to_day as "to" from terms where id = $1 and removed_at is null',
    [id],
  );
  if (!term) throw notFound('such term');
  if (!isDay(from))
    throw new Problem(422, 'Check these fields', 'Nothing was saved: there is no such day.', [
      { field: 'from', says: 'must be a day of the calendar' },
    ]);
  // From Monday to Monday, so that weekdays stay weekdays.
  const shift = daysBetween(dayAfter(term.from, -weekdayOf(term.from)), dayAfter(from, -weekdayOf(from)));
  const length = daysBetween(term.from, term.to);
  const made = await one<{ id: number }>(
    tx,
    'insert into terms (name, from_day, to_day) values ($1, $2, $3) returning id',
    [name, from, dayAfter(from, length)],
  );
  const daysOff = await tx.query<{ name: string; from: string; to: string }>(
    'select name, from_day as "from", to_day as "to" from days_off where removed_at is null',
  );
  const clock = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, timeStyle: 'short' });
  const done = { id: made.id, meetings: 0, hours: 0, over: [] as string[] };
  for (const { from: old, to } of classes) {
    const [klass] = await tx.query('select 1 from classes where id = $1 and removed_at is null', [to]);
    if (!klass) throw notFound('such class');
    const rows = await tx.query<{
      starts_at: Date;
      minutes: number;
      room_id: number | null;
      lesson_id: number | null;
      title: string | null;
    }>(
      `select m.starts_at, m.minutes, m.room_id, p.lesson_id, l.title
         from meetings m left join periods p on p.meeting_id = m.id and p.removed_at is null
         left join lessons l on l.id = p.lesson_id and l.removed_at is null
        where m.term_id = $1 and m.class_id = $2 and m.removed_at is null order by m.starts_at, m.id`,
      [id, old],
    );
    const lessons = rows.flatMap(({ lesson_id, title }) =>
      lesson_id === null || title === null ? [] : [{ lesson_id, title }],
    );
    const meetings = await addMeetings(
      tx,
      to,
      made.id,
      rows.flatMap(({ starts_at, minutes, room_id }) => {
        const day = dayAfter(dayOf(ms(starts_at), zone), shift);
        return offOn(day, daysOff)
          ? []
          : [{ startsAt: momentOf(day, clock.format(starts_at), zone), minutes, room: room_id }];
      }),
    );
    done.meetings += meetings.length;
    for (const meeting of meetings.filter((one) => ms(one.starts_at) > now.getTime())) {
      const lesson = lessons.shift();
      if (!lesson) break;
      await planHour(tx, to, lesson.lesson_id, meeting);
      done.hours++;
    }
    done.over.push(...lessons.map(({ title }) => title));
  }
  return done;
}
