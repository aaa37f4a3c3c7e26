import { hourState } from '@vigilum/core/classroom';
import { arrangementTo, loseSlot, type Slot } from '@vigilum/core/year';
import type { Arrangement } from '@vigilum/contract/types';
import { timesOf, type TimesRow } from '../classes/periods.ts';
import type { Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { planHour } from './meetings.ts';

interface MeetingRow {
  id: number;
  starts_at: Date;
  minutes: number;
  lost: string | null;
}

interface PlannedRow extends TimesRow {
  id: number;
  meeting_id: number | null;
  removed_at: Date | null;
}

const refuse = (says: string, field: string, told: string) =>
  new Problem(409, 'Not as it was', `Nothing was changed: ${says}`, [{ field, says: told }]);

const STALE = 'the plan was changed meanwhile. Look at it as it is now, and do it again.';

/**
 * Puts hours of a class into its meetings, takes some off the plan and marks meetings that do not take place: all of it or nothing. An
 * hour that has begun stays where it is; a meeting holds one hour. Gives the ids of the hours in the order in which they were named.
 */
export async function arrange(
  tx: Queries,
  klass: number,
  { hours, lost = [], seen }: Arrangement,
  now: Date,
): Promise<number[]> {
  const meetings = await tx.query<MeetingRow>(
    'select id, starts_at, minutes, lost from meetings where class_id = $1 and removed_at is null for update',
    [klass],
  );
  const byId = new Map(meetings.map((meeting) => [meeting.id, meeting]));
  const rows = await tx.query<PlannedRow>(
    `select p.id, p.starts_at, p.minutes, p.began_at, p.paused_at, p.paused_s, p.ended_at, p.meeting_id, p.removed_at
       from periods p where p.class_id = $1 for update`,
    [klass],
  );
  const hourById = new Map(rows.map((row) => [row.id, row]));
  for (const { hour, meeting } of seen) {
    const row = hourById.get(hour);
    const at = row && row.removed_at === null ? row.meeting_id : null;
    if (!row || at !== meeting) throw refuse(STALE, 'seen', `hour ${hour} is elsewhere`);
  }
  for (const { meeting, lost: why } of lost) {
    if (!byId.has(meeting)) throw refuse(STALE, 'lost', `meeting ${meeting} is not there`);
    byId.set(meeting, { ...byId.get(meeting)!, lost: why });
  }
  await tx.query(
    `update meetings m set lost = u.lost, off_id = null from unnest($1::int[], $2::text[]) as u (id, lost) where m.id = u.id`,
    [lost.map(({ meeting }) => meeting), lost.map(({ lost: why }) => why)],
  );
  const named = hours.flatMap(({ what }) => ('hour' in what ? [what.hour] : []));
  for (const hour of named) {
    const row = hourById.get(hour);
    if (!row) throw refuse(STALE, 'hours', `hour ${hour} is not there`);
    if (row.removed_at === null && hourState(timesOf(row), now.getTime()) !== 'planned')
      throw refuse('an hour that has begun stays where it is.', 'hours', `hour ${hour} has begun`);
  }
  const taken = new Set(
    rows
      .filter(({ id, removed_at }) => removed_at === null && !named.includes(id))
      .map(({ meeting_id }) => meeting_id),
  );
  const places = hours.map((place) => {
    const at = place.meeting === null ? null : byId.get(place.meeting);
    if (at === undefined) throw refuse(STALE, 'hours', `meeting ${place.meeting} is not there`);
    if (at && (at.lost !== null || taken.has(at.id)))
      throw refuse(
        STALE,
        'hours',
        `meeting ${at.id} ${at.lost !== null ? 'does not take place' : 'has an hour'}`,
      );
    if (at) taken.add(at.id);
    if ('lesson' in place.what && !at)
      throw new Problem(422, 'Check these fields', 'Nothing was saved: a new hour needs a meeting.', [
        { field: 'hours', says: 'must name a meeting where the hour is new' },
      ]);
    return { ...place, at };
  });
  // What leaves its meeting leaves it first: no meeting holds two hours at any moment.
  await tx.query('update periods set meeting_id = null where id = any($1::int[])', [named]);
  const there = places.flatMap(({ what, at }) => ('hour' in what ? [{ hour: what.hour, at }] : []));
  const moved = there.flatMap(({ hour, at }) => (at === null ? [] : [{ hour, at }]));
  await tx.query(
    `update periods p set meeting_id = m.id, starts_at = m.starts_at, minutes = m.minutes, removed_at = null
       from unnest($1::int[], $2::int[]) as u (hour, meeting) join meetings m on m.id = u.meeting where p.id = u.hour`,
    [moved.map(({ hour }) => hour), moved.map(({ at }) => at.id)],
  );
  await tx.query('update periods set removed_at = $2 where id = any($1::int[])', [
    there.flatMap(({ hour, at }) => (at === null ? [hour] : [])),
    now.toISOString(),
  ]);
  const ids: number[] = [];
  // A new hour looks for the one that it goes on from: each after the one before.
  for (const { what, at } of places)
    ids.push('hour' in what ? what.hour : await plannedHour(tx, klass, what.lesson, at!));
  const shared = places.flatMap((place, i) =>
    place.shared === undefined ? [] : [{ id: ids[i], shared: place.shared }],
  );
  await tx.query(
    `update periods p set shared = u.shared from unnest($1::int[], $2::boolean[]) as u (id, shared) where p.id = u.id`,
    [shared.map(({ id }) => id), shared.map((one) => one.shared)],
  );
  return ids;
}

async function plannedHour(tx: Queries, klass: number, slug: string, at: MeetingRow): Promise<number> {
  const [lesson] = await tx.query<{ id: number }>(
    'select id from lessons where slug = $1 and removed_at is null',
    [slug],
  );
  if (!lesson)
    throw new Problem(422, 'No such lesson', `Nothing was saved: there is no lesson “${slug}”.`, [
      { field: 'hours', says: 'must name lessons that are here' },
    ]);
  return planHour(tx, klass, lesson.id, at);
}

/**
 * Open meetings of some days do not take place, for a reason; their lessons move on. Gives how many, and titles of lessons for which no
 * meeting is left: these are off the plan.
 */
export async function loseDays(
  tx: Queries,
  off: { id: number; name: string; from: Date; until: Date },
  now: Date,
): Promise<{ moved: number; over: string[] }> {
  const hit = await tx.query<{ id: number; class_id: number }>(
    `select m.id, m.class_id from meetings m
      where m.removed_at is null and m.lost is null and m.starts_at >= $1 and m.starts_at < $2
        and not exists (select 1 from periods p where p.meeting_id = m.id and p.removed_at is null and p.began_at is not null)
      order by m.class_id, m.starts_at, m.id`,
    [off.from.toISOString(), off.until.toISOString()],
  );
  const over: string[] = [];
  for (const klass of new Set(hit.map(({ class_id }) => class_id))) {
    const rows = await tx.query<{
      id: number;
      lost: string | null;
      hour: number | null;
      began: boolean;
      title: string | null;
    }>(
      `select m.id, m.lost, p.id as hour, p.began_at is not null as began, l.title
         from meetings m left join periods p on p.meeting_id = m.id and p.removed_at is null
         left join lessons l on l.id = p.lesson_id
        where m.class_id = $1 and m.removed_at is null order by m.starts_at, m.id`,
      [klass],
    );
    const before: Slot[] = rows.map(({ id, lost, hour, began }) => ({
      id,
      holds: hour === null ? null : { hour },
      fixed: began,
      lost: lost !== null,
    }));
    let slots = before;
    const gone: number[] = [];
    for (const { id } of hit.filter(({ class_id }) => class_id === klass)) {
      const after = loseSlot(slots, id);
      if (!after) continue;
      slots = after.slots;
      gone.push(...after.over.flatMap((what) => ('hour' in what ? [what.hour] : [])));
    }
    const reordered = { slots, over: gone.map((hour) => ({ hour })) };
    await arrange(tx, klass, { ...arrangementTo(before, reordered, off.name.slice(0, 120)), seen: [] }, now);
    over.push(...gone.map((hour) => rows.find((row) => row.hour === hour)!.title!));
  }
  await tx.query('update meetings set off_id = $2 where id = any($1::int[])', [
    hit.map(({ id }) => id),
    off.id,
  ]);
  return { moved: hit.length, over };
}
