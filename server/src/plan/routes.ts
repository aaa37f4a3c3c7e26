import { Router } from 'express';
import { isDay, isZone, meetingTimes, momentOf, type MeetingTime } from '@vigilum/core/year';
import type { NewMeetings } from '@vigilum/contract/types';
import { mustBeAllowed } from '../access/guard.ts';
import { seesOf } from '../access/guests.ts';
import { shareOf, whoOf } from '../access/who.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { arrange, loseDays } from './arrange.ts';
import { classOf, removals, wrong } from './common.ts';
import { spanOf } from './days.ts';
import { calendarOf } from './ics.ts';
import { addMeetings } from './meetings.ts';
import { nextOf } from './next.ts';
import { planOf, planSeen, rowOfThing, settingsOf } from './state.ts';

function mustBeDays({ from, to }: { from: string; to: string }, field: string): void {
  if (!isDay(from) || !isDay(to)) throw wrong(field, 'there is no such day.', 'must be days of the calendar');
  if (to < from) throw wrong(field, 'it ends before it begins.', 'must end on the day it begins, or later');
}

/** A room of the plan as its row; null where none is meant. */
async function roomRow(db: Queries, room: string | null): Promise<number | null> {
  if (room === null) return null;
  const [row] = await db.query<{ id: number }>(
    `select id from things where id = $1 and kind = 'room' and removed_at is null`,
    [rowOfThing(room) ?? 0],
  );
  if (!row) throw wrong('room', 'there is no such room.', 'must be a room of the cupboard page');
  return row.id;
}

/** The year laid out: terms, days off, meetings and the hours in them, as pages and as a calendar. */
export function planRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  const tell = () => changes.tell({ what: 'plan' });
  const router = Router();

  router.use(
    contractRouter(services, (serve) => {
      serve('GET /plan', async ({ who }) =>
        planSeen(await planOf(db, now().getTime()), await seesOf(db, who)),
      );
      serve('GET /periods/:id/next', ({ params }) => nextOf(db, params.id, now()), { long: true });

      serve('PATCH /plan', async ({ body }) => {
        const { zone, robotTimes } = body;
        if (zone !== undefined && !isZone(zone))
          throw wrong('zone', `${zone} is no time zone.`, 'must be a time zone such as Europe/London');
        const put = (key: string, value: unknown) =>
          db.query(
            `insert into meta (key, value) values ($1, $2::jsonb) on conflict (school_id, key) do update set value = excluded.value`,
            [key, JSON.stringify(value)],
          );
        if (zone !== undefined) await put('zone', zone);
        if (robotTimes) await put('robot times', robotTimes);
        tell();
        return undefined;
      });

      const { away, back } = removals(services);
      serve('POST /terms', async ({ body }) => {
        mustBeDays(body, 'to');
        const made = await one<{ id: number }>(
          db,
          'insert into terms (name, from_day, to_day) values ($1, $2, $3) returning id',
          [body.name, body.from, body.to],
        );
        tell();
        return made;
      });
      serve('PUT /terms/:id', async ({ params, body }) => {
        mustBeDays(body, 'to');
        const rows = await db.query(
          'update terms set name = $2, from_day = $3, to_day = $4 where id = $1 and removed_at is null returning 1',
          [idFrom(params.id), body.name, body.from, body.to],
        );
        if (rows.length === 0) throw notFound('such term');
        tell();
        return undefined;
      });
      serve('DELETE /terms/:id', ({ params }) => away('terms', params.id, 'such term'));
      serve('POST /terms/:id/restoration', ({ params }) => back('terms', params.id, 'such term'));

      serve('POST /days-off', async ({ body }) => {
        for (const [i, day] of body.days.entries()) mustBeDays(day, `days.${i}.to`);
        const { zone } = await settingsOf(db);
        const done = await db.transaction(async (tx) => {
          const ids: number[] = [];
          let moved = 0;
          const over: string[] = [];
          for (const { name, from, to } of body.days) {
            const [there] = await tx.query<{ id: number }>(
              'select id from days_off where name = $1 and from_day = $2 and to_day = $3 and removed_at is null',
              [name, from, to],
            );
            if (there) {
              ids.push(there.id);
              continue;
            }
            const { id } = await one<{ id: number }>(
              tx,
              'insert into days_off (name, from_day, to_day) values ($1, $2, $3) returning id',
              [name, from, to],
            );
            ids.push(id);
            const lost = await loseDays(tx, { id, name, ...spanOf({ from, to }, zone) }, now());
            moved += lost.moved;
            over.push(...lost.over);
          }
          return { ids, moved, over };
        });
        tell();
        return done;
      });
      // Meetings that were lost for it take place again; what is planned stays where it is by now.
      serve('DELETE /days-off/:id', async ({ params }) => {
        await db.query('update meetings set lost = null, off_id = null where off_id = $1', [
          idFrom(params.id),
        ]);
        return away('days_off', params.id, 'such day off');
      });
      serve('POST /days-off/:id/restoration', async ({ params }) => {
        const { zone } = await settingsOf(db);
        await db.transaction(async (tx) => {
          const [row] = await tx.query<{ id: number; name: string; from: string; to: string }>(
            'update days_off set removed_at = null where id = $1 returning id, name, from_day as "from", to_day as "to"',
            [idFrom(params.id)],
          );
          if (!row) throw notFound('such day off');
          await loseDays(tx, { id: row.id, name: row.name, ...spanOf(row, zone) }, now());
        });
        tell();
        return undefined;
      });
      // It stores nothing: no transaction waits for the thread that reads.
      serve(
        'POST /days-off/readings',
        async ({ body: { text }, who }) =>
          simulations.inspect(
            'calendar',
            { text, now: now().getTime(), zone: (await settingsOf(db)).zone },
            shareOf(who),
          ),
        { long: true },
      );

      serve('POST /classes/:id/meetings', async ({ params, body }) => {
        const klass = await classOf(db, params.id);
        const room = await roomRow(db, body.room);
        const { meetings, off } = await wanted(db, body);
        // Those that are there already stay as they are.
        const made = await addMeetings(
          db,
          klass,
          body.term,
          meetings.map(({ startsAt, minutes }) => ({ startsAt, minutes, room })),
        );
        tell();
        return { ids: made.map(({ id }) => id), off, there: meetings.length - made.length };
      });

      serve('PATCH /meetings/:id', async ({ params, body }) => {
        const { zone } = await settingsOf(db);
        await db.transaction(async (tx) => {
          const [row] = await tx.query<{
            id: number;
            starts_at: Date;
            minutes: number;
            room_id: number | null;
            began: boolean;
          }>(
            `select m.id, m.starts_at, m.minutes, m.room_id,
                    exists (select 1 from periods p where p.meeting_id = m.id and p.removed_at is null and p.began_at is not null) as began
               from meetings m where m.id = $1 and m.removed_at is null`,
            [idFrom(params.id)],
          );
          if (!row) throw notFound('such meeting');
          if (row.began)
            throw new Problem(
              409,
              'Has begun',
              'Nothing was changed: an hour that has begun cannot be moved.',
            );
          const local = new Intl.DateTimeFormat('sv-SE', {
            timeZone: zone,
            dateStyle: 'short',
            timeStyle: 'short',
          })
            .format(new Date(row.starts_at))
            .split(' ');
          const day = body.day ?? local[0]!;
          if (!isDay(day)) throw wrong('day', 'there is no such day.', 'must be a day of the calendar');
          const at = new Date(momentOf(day, body.at ?? local[1]!, zone)).toISOString();
          const minutes = body.minutes ?? row.minutes;
          const room = body.room === undefined ? row.room_id : await roomRow(tx, body.room);
          await tx.query('update meetings set starts_at = $2, minutes = $3, room_id = $4 where id = $1', [
            row.id,
            at,
            minutes,
            room,
          ]);
          await tx.query(
            'update periods set starts_at = $2, minutes = $3 where meeting_id = $1 and removed_at is null',
            [row.id, at, minutes],
          );
        });
        tell();
        return undefined;
      });
      serve('DELETE /meetings/:id', async ({ params }) => {
        const [hour] = await db.query('select 1 from periods where meeting_id = $1 and removed_at is null', [
          idFrom(params.id),
        ]);
        if (hour)
          throw new Problem(
            409,
            'Has a lesson',
            'Nothing was removed: the meeting has a lesson. Move that first, or say that the hour is lost.',
          );
        return away('meetings', params.id, 'such meeting');
      });
      serve('POST /meetings/:id/restoration', ({ params }) => back('meetings', params.id, 'such meeting'));

      serve('PUT /classes/:id/arrangement', async ({ params, body }) => {
        const klass = await classOf(db, params.id);
        const hours = await db.transaction((tx) => arrange(tx, klass, body, now()));
        tell();
        changes.tell({ what: 'class', class: klass, part: 'period' });
        return { hours };
      });
    }),
  );

  // A calendar program reads it; the ending of its name says what it is.
  router.get('/calendars/:class', async (req, res) => {
    await mustBeAllowed(db, whoOf(res), 'GET /calendars/:class', req.params, {
      query: {},
      body: undefined,
      at: now(),
    });
    const name = /^(all|\d{1,9})\.ics$/.exec(req.params.class)?.[1];
    if (name === undefined) throw notFound('such calendar');
    const klass = name === 'all' ? null : await classOf(db, name);
    const plan = planSeen(await planOf(db, now().getTime()), await seesOf(db, whoOf(res)));
    const [school] = await db.query<{ name: string | null }>(
      `select coalesce((select value #>> '{}' from meta where key = 'school'),
                       (select school from classes where removed_at is null order by id limit 1)) as name`,
    );
    const { id: mark } = await one<{ id: string }>(
      db,
      `insert into meta (key, value) values ('calendar', to_jsonb(gen_random_uuid()::text))
       on conflict (school_id, key) do update set value = meta.value returning value #>> '{}' as id`,
    );
    res.setHeader('content-type', 'text/calendar; charset=utf-8');
    res.setHeader('content-disposition', `attachment; filename="vigilum-${name}.ics"`);
    res.send(calendarOf(plan, klass, school?.name ?? 'Vigilum', `${mark}.vigilum`));
  });
  return router;
}

/** The meetings that are asked for, with the days of the rule that are off. */
async function wanted(
  db: Queries,
  { term: id, rule, days }: NewMeetings,
): Promise<{ meetings: MeetingTime[]; off: { day: string; name: string }[] }> {
  const { zone } = await settingsOf(db);
  const [term] =
    id === null
      ? []
      : await db.query<{ from: string; to: string }>(
          'select from_day as "from", to_day as "to" from terms where id = $1 and removed_at is null',
          [id],
        );
  if (id !== null && !term) throw wrong('term', 'there is no such term.', 'must be a term that is here');
  if (days) {
    for (const { day } of days)
      if (!isDay(day)) throw wrong('days', `there is no day ${day}.`, 'must be days of the calendar');
    return {
      meetings: days.map(({ day, at, minutes }) => ({ day, minutes, startsAt: momentOf(day, at, zone) })),
      off: [],
    };
  }
  if (!term || !rule) throw wrong('term', 'meetings by weekday need a term.', 'is needed with a rule');
  const daysOff = await db.query<{ name: string; from: string; to: string }>(
    'select name, from_day as "from", to_day as "to" from days_off where removed_at is null order by from_day',
  );
  try {
    return meetingTimes(rule, term, daysOff, zone);
  } catch (error) {
    if (error instanceof RangeError) throw wrong('rule', `${error.message}.`, 'cannot be laid out');
    throw error;
  }
}
