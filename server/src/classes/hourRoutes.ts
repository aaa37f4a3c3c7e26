import type { Router } from 'express';
import { afterAction, hourState, stagesOf, type HourTimes } from '@vigilum/core/classroom';
import { stepsOf } from '@vigilum/core/lesson';
import type { ClassEntry, TeamGoes } from '@vigilum/contract/types';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { hourOf, periodById, selectPeriods, type PeriodRow } from './periods.ts';
import { teacherOf } from './membership.ts';
import { loadTeams } from './records.ts';

const isoOf = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());

/** What a refused action says: what the hour is, and what can be done. */
const refusals = {
  planned: 'It has not begun yet. Begin it first.',
  running: 'It is going on already.',
  over: 'It is going on already. Give it more minutes, or end it.',
  paused: 'It is paused. Resume it, or end it.',
  ended: 'It has ended. Reopen it first.',
} as const;

/** Lesson hours: begun, paused, made longer, ended, reopened, removed and brought back; a class’s hours for ever; where a team is to go. */
export function hourRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('PATCH /periods/:id', async ({ params, body }) =>
      db.transaction(async (tx) => {
        const row = await periodById(tx, params.id);
        const at = now().getTime();
        const before = hourOf(row);
        const state = hourState(before, at);
        let times: HourTimes = before;
        if (body.startsAt !== undefined) {
          if (state !== 'planned')
            throw new Problem(
              409,
              'Has begun',
              'Nothing was changed: an hour that has begun cannot be moved.',
              [{ field: 'startsAt', says: 'is of an hour that has begun' }],
            );
          times = { ...times, startsAt: body.startsAt };
        }
        if (body.minutes !== undefined) times = { ...times, minutes: body.minutes };
        if (body.action !== undefined) {
          const after = afterAction(times, body.action, at);
          if (!after) throw new Problem(409, 'Not now', `Nothing was changed. ${refusals[state]}`);
          times = after;
        }
        await tx.query(
          `update periods set starts_at = $2, minutes = $3, began_at = $4, paused_at = $5, paused_s = $6, ended_at = $7,
                  -- An hour that has ended stops nobody any more.
                  stopped = case when $7::timestamptz is null then stopped end
            where id = $1`,
          [
            row.id,
            isoOf(times.startsAt),
            times.minutes,
            isoOf(times.beganAt),
            isoOf(times.pausedAt),
            times.pausedS,
            isoOf(times.endedAt),
          ],
        );
        // An hour that is moved by itself leaves the meeting that it was planned for.
        if (body.startsAt !== undefined)
          await tx.query('update periods set meeting_id = null where id = $1', [row.id]);
        changes.tell({ what: 'class', class: row.class_id, part: 'period' });
        changes.tell({ what: 'plan' });
        return { ...before, ...times };
      }),
    );

    const mark = async (id: string, removedAt: string | null) => {
      // Its meeting may have another hour by now: then it comes back without one.
      const [row] = await db.query<{ class_id: number }>(
        `update periods p set removed_at = $2, meeting_id = case when $2::timestamptz is null and exists (
            select 1 from periods q where q.meeting_id = p.meeting_id and q.id <> p.id and q.removed_at is null)
            then null else p.meeting_id end
          where p.id = $1 returning class_id`,
        [idFrom(id), removedAt],
      );
      if (!row) throw notFound('such period');
      changes.tell({ what: 'class', class: row.class_id, part: 'period' });
      changes.tell({ what: 'plan' });
      return undefined;
    };
    serve('DELETE /periods/:id', ({ params }) => mark(params.id, now().toISOString()));
    serve('POST /periods/:id/restoration', ({ params }) => mark(params.id, null));

    serve('GET /classes/:id/hours', async ({ params }) => {
      const id = idFrom(params.id);
      const [klass] = await db.query<ClassEntry>(
        `select c.id, c.school, c.name, c.archived_at is not null as archived, ${teacherOf} as teacher,
                (select count(*)::int from teams t where t.class_id = c.id and t.removed_at is null) as teams
           from classes c where c.id = $1 and c.removed_at is null`,
        [id],
      );
      if (!klass) throw notFound('such class');
      const rows = await db.query<PeriodRow>(
        `${selectPeriods} where p.class_id = $1 and p.removed_at is null order by p.starts_at desc, p.id desc limit 500`,
        [id],
      );
      return { now: now().getTime(), class: klass, hours: rows.map(hourOf) };
    });

    // A team's own link: into the hour that is going on, else on with what it left, else to its homework.
    serve('GET /teams/:id', async ({ params }): Promise<TeamGoes> => {
      const [team] = await db.query<{ id: number; name: string; class: string; class_id: number }>(
        'select t.id, t.name, c.name as class, c.id as class_id from teams t join classes c on c.id = t.class_id where t.id = $1',
        [idFrom(params.id)],
      );
      if (!team) throw notFound('such team');
      const { class_id, ...named } = team;
      const rows = await db.query<PeriodRow>(
        `${selectPeriods} where p.class_id = $1 and p.removed_at is null and p.began_at is not null
          order by p.starts_at desc, p.id desc limit 20`,
        [class_id],
      );
      const at = now().getTime();
      const going = rows.find((row) => hourState(hourOf(row), at) !== 'ended');
      if (going) return { team: named, why: 'running', lesson: going.definition.slug, step: null };
      const [last] = rows;
      if (!last) return { team: named, why: 'nothing', lesson: null, step: null };
      const lesson = last.definition.slug;
      const [own] = await loadTeams(
        db,
        [team.id],
        { id: last.lesson_id, lesson: last.definition },
        { first: last.first_id },
      );
      const done = own && stagesOf(own.record).every(({ state }) => state === 'done' || state === 'risk');
      const homework = done ? stepsOf(own.lesson).find(({ kind }) => kind === 'homework') : undefined;
      return { team: named, why: homework ? 'homework' : 'left', lesson, step: homework?.id ?? null };
    });
  });
}
