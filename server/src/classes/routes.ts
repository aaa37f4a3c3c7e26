import type { Router } from 'express';
import {
  currentStage,
  helpFor,
  hourState,
  lastActivity,
  stagesOf,
  type TeamInLesson,
} from '@vigilum/core/classroom';
import { forTeams } from '@vigilum/core/lesson';
import type { BoardTeam, Period } from '@vigilum/contract/types';
import { one } from '../db/database.ts';
import { seesOf } from '../access/guests.ts';
import { notFound } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { olderSets } from '../readings/carryOver.ts';
import { roomShown } from '../robots/store.ts';
import { teamInLesson } from './lookup.ts';
import { hourOf, periodById, selectPeriods, teamsOf, type PeriodRow } from './periods.ts';
import { loadTeams } from './records.ts';
import { firstHour } from './works.ts';

/** A team’s row of the board: where it stands at every stage, and whether it needs help. */
function rowOf({ team, robot, record }: TeamInLesson, now: number): BoardTeam {
  const stages = stagesOf(record);
  return {
    id: team.id,
    name: team.name,
    robot: robot.name,
    stages,
    current: currentStage(stages).stage,
    help: helpFor(record, stages, now),
    lastAt: lastActivity(record),
  };
}

/** Most teams asked for at once. */
const MOST_TEAMS = 40;

/** Today's board and a team's workspace. */
export function classRoutes(services: Services): Router {
  const { db, now } = services;
  const boardOf = async (row: PeriodRow, at: number): Promise<Period> => ({
    ...hourOf(row),
    current:
      (
        await one<{ first: number | null }>(
          db,
          `select ${firstHour('$1::int', '$2::int', '$3::timestamptz')} as first`,
          [row.class_id, row.lesson_id, new Date(at).toISOString()],
        )
      ).first === row.first_id,
    teams: (await teamsOf(db, row)).map((team) => rowOf(team, at)),
  });
  /** The hours that are going on, latest first. */
  const goingNow = async (): Promise<PeriodRow[]> => {
    const at = now().getTime();
    // Begun and not ended: the last ones, for of those that nobody ended most are long over.
    const begun = await db.query<PeriodRow>(
      `${selectPeriods}
        where p.removed_at is null and c.removed_at is null and p.began_at is not null and p.ended_at is null
          and p.starts_at > $1::timestamptz - interval '30 days'
        order by p.starts_at desc, p.id desc limit 60`,
      [now().toISOString()],
    );
    return begun.filter((row) => hourState(hourOf(row), at) !== 'ended').slice(0, 12);
  };
  return contractRouter(services, (serve) => {
    serve('GET /running-hours', async ({ who }) => {
      const sees = await seesOf(db, who);
      return {
        now: now().getTime(),
        hours: (await goingNow()).filter((row) => sees(row.class_id)).map(hourOf),
      };
    });

    serve('GET /today', async ({ who }) => {
      const at = now().getTime();
      const sees = await seesOf(db, who);
      const seen = (rows: PeriodRow[]) => rows.filter((row) => sees(row.class_id));
      const going = seen(await goingNow());
      const next = await db.query<PeriodRow>(
        `${selectPeriods}
          where p.removed_at is null and c.removed_at is null and c.archived_at is null and p.began_at is null
            and p.starts_at > $1::timestamptz - interval '1 day'
            -- A whole term that is planned is not for today: its coming week, and in any case its next two hours.
            and (p.meeting_id is null or p.starts_at < $1::timestamptz + interval '8 days' or p.id in (
              select q.id from periods q where q.removed_at is null and q.began_at is null and q.starts_at > $1
               order by q.starts_at, q.id limit 2))
          order by p.starts_at, p.id limit 8`,
        [now().toISOString()],
      );
      const past = await db.query<PeriodRow>(
        `${selectPeriods}
          where p.removed_at is null and c.removed_at is null and c.archived_at is null and p.began_at is not null
            and not p.id = any($1::int[])
          order by p.starts_at desc, p.id desc limit 8`,
        [going.map(({ id }) => id)],
      );
      const periods: Period[] = [];
      for (const row of going.reverse()) periods.push(await boardOf(row, at));
      return { now: at, periods, next: seen(next).map(hourOf), past: seen(past).map(hourOf) };
    });

    serve('GET /periods/:id', async ({ params }) => {
      const at = now().getTime();
      return { now: at, period: await boardOf(await periodById(db, params.id), at) };
    });

    serve('GET /periods/:id/teams/:team', async ({ params }) => {
      const row = await periodById(db, params.id);
      const [own] = await db.query<{ id: number }>('select id from teams where class_id = $1 and id = $2', [
        row.class_id,
        idFrom(params.team),
      ]);
      const [found] = own
        ? await loadTeams(
            db,
            [own.id],
            { id: row.lesson_id, lesson: row.definition },
            { first: row.first_id },
          )
        : [];
      if (!found) throw notFound('such team in this hour');
      const { record: _record, work: _work, ...evidence } = found;
      return { now: now().getTime(), hour: hourOf(row), evidence };
    });

    // Some rows of a board: what a page asks for when it has heard of a change.
    serve('GET /periods/:id/board', async ({ params, query }) => {
      const { class_id, lesson_id, definition, first_id } = await periodById(db, params.id);
      const asked = String(query.teams ?? '')
        .split(',')
        .map(Number)
        .filter((id) => Number.isInteger(id) && id > 0)
        .slice(0, MOST_TEAMS);
      const own = await db.query<{ id: number }>(
        'select id from teams where class_id = $1 and id = any($2::int[]) order by id',
        [class_id, asked],
      );
      const teams = await loadTeams(
        db,
        own.map(({ id }) => id),
        { id: lesson_id, lesson: definition },
        { first: first_id },
      );
      const at = now().getTime();
      return { now: at, teams: teams.map((team) => rowOf(team, at)) };
    });

    serve('GET /teams/:id/lessons/:slug', async ({ params, who }) => {
      // The record is derived by whoever needs it: everything is sent once.
      const at = now();
      const found = await teamInLesson(db, params, at);
      const { record: _record, lessonRow: _row, work: _work, ...evidence } = found;
      return {
        ...evidence,
        lesson: who.role === 'team' ? forTeams(evidence.lesson) : evidence.lesson,
        older: await olderSets(db, found),
        room: await roomShown(db, evidence.robot.standIn),
        now: at.getTime(),
      };
    });
  });
}
