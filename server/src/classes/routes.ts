import type { Router } from 'express';
import { currentStage, helpFor, lastActivity, stagesOf, type TeamInLesson } from '@vigilum/core/classroom';
import type { BoardTeam } from '@vigilum/contract/types';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { roomShown } from '../robots/store.ts';
import { teamInLesson } from './lookup.ts';
import { periodById, selectPeriods, teamsOf, type PeriodRow } from './periods.ts';
import { loadTeams } from './records.ts';

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
  return contractRouter(services, (serve) => {
    serve('GET /today', async () => {
      const at = now().getTime();
      const periods = await db.query<PeriodRow>(
        `${selectPeriods}
          where p.starts_at > $1::timestamptz - interval '18 hours' and p.starts_at < $1::timestamptz + interval '18 hours'
          order by p.starts_at limit 12`,
        [now().toISOString()],
      );
      const boards = [];
      for (const period of periods) {
        const teams = await teamsOf(db, period);
        boards.push({
          id: period.id,
          startsAt: period.starts_at.getTime(),
          minutes: period.minutes,
          class: { id: period.class_id, name: period.class, school: period.school },
          lesson: {
            slug: period.definition.slug,
            title: period.definition.title,
            aim: period.definition.aim,
          },
          teams: teams.map((team) => rowOf(team, at)),
        });
      }
      return { now: at, periods: boards };
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

    serve('GET /teams/:id/lessons/:slug', async ({ params }) => {
      // The record is derived by whoever needs it: everything is sent once.
      const at = now();
      const {
        record: _record,
        lessonRow: _row,
        work: _work,
        ...evidence
      } = await teamInLesson(db, params, at);
      return { ...evidence, room: await roomShown(db, evidence.robot.standIn), now: at.getTime() };
    });
  });
}
