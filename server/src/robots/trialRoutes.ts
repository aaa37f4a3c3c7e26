import type { Router } from 'express';
import type { LoggedStop, RobotTrials, StoredRobotTrial } from '@vigilum/contract/types';
import type { RobotTrial } from '@vigilum/core/motion';
import { driveSpeed } from '@vigilum/core/script';
import { fittingOn, sensorOf } from '@vigilum/core/sensing';
import { robotAndTeams } from '../classes/lookup.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { robotRow, type RobotRow } from './store.ts';

interface Row {
  id: number;
  trial: RobotTrial;
  tried_at: Date;
}
const stored = ({ id, trial, tried_at }: Row): StoredRobotTrial => ({ id, trial, at: tried_at.getTime() });

/** More than these are no trials any more, and would make every answer long. */
const MOST = 500;

/** Stops that its teams logged in lessons, with scripts of one speed and a sensor whose period the kit knows. */
async function loggedStops(db: Queries, robot: number, { kit, build }: RobotRow): Promise<LoggedStop[]> {
  const rows = await db.query<{
    team: string;
    lesson: string;
    socket: string | null;
    past_mm: number;
    tried_at: Date;
    text: string;
  }>(
    `select t.name as team, l.definition->>'title' as lesson, l.definition->'need'->>'socket' as socket,
            f.past_mm, f.tried_at, v.text
       from floor_trials f
       join works w on w.id = f.work_id
       join teams t on t.id = w.team_id and t.robot_id = $1
       join lessons l on l.id = w.lesson_id
       join script_versions v on v.work_id = f.work_id and v.version = f.script_version
      where f.removed_at is null and f.rested and f.past_mm > 0
      order by f.tried_at desc, f.id desc limit 200`,
    [robot],
  );
  return rows.flatMap(({ team, lesson, socket, past_mm, tried_at, text }): LoggedStop[] => {
    const speedPercent = driveSpeed(text);
    const fitting = socket === null ? undefined : fittingOn(build, socket);
    const spec = fitting && sensorOf(kit, fitting);
    if (!speedPercent || speedPercent <= 0 || !spec) return [];
    const trial = {
      kind: 'stop' as const,
      speedPercent,
      pastMm: past_mm,
      samplePeriodMs: spec.samplePeriodMs,
    };
    return [{ trial, team, lesson, at: tried_at.getTime() }];
  });
}

/** Trials by which a robot itself is measured, whatever lesson it is in. */
export function robotTrialRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('GET /robots/:id/trials', async ({ params }): Promise<RobotTrials> => {
      const { robot } = await robotAndTeams(db, params.id);
      const row = await robotRow(db, robot);
      const trials = await db.query<Row>(
        `select id, trial, tried_at from robot_trials where robot_id = $1 and removed_at is null
          order by tried_at desc, id desc limit ${MOST}`,
        [robot],
      );
      const { braking } = await one<Pick<RobotTrials, 'braking'>>(
        db,
        'select braking from robots where id = $1',
        [robot],
      );
      return {
        trials: trials.map(stored),
        stops: await loggedStops(db, robot, row),
        braking,
        now: now().getTime(),
      };
    });

    serve('POST /robots/:id/trials', async ({ params, body }) => {
      const { robot, teams } = await robotAndTeams(db, params.id);
      const { n } = await one<{ n: number }>(
        db,
        'select count(*)::int as n from robot_trials where robot_id = $1 and removed_at is null',
        [robot],
      );
      if (n >= MOST)
        throw new Problem(
          422,
          'Too many trials',
          `Nothing was saved: a robot keeps ${MOST} trials. Remove old ones first.`,
        );
      const row = await one<Row>(
        db,
        'insert into robot_trials (robot_id, trial, tried_at) values ($1, $2::jsonb, $3) returning id, trial, tried_at',
        [robot, JSON.stringify(body), now().toISOString()],
      );
      changes.tell({ what: 'robot', robot, teams, part: 'trials' });
      return { id: row.id, trial: stored(row) };
    });

    const mark = async (id: number, removedAt: string | null) => {
      const [row] = await db.query<{ robot_id: number; teams: number[] }>(
        `update robot_trials set removed_at = $2 where id = $1
         returning robot_id, array(select t.id from teams t where t.robot_id = robot_trials.robot_id) as teams`,
        [id, removedAt],
      );
      if (!row) throw notFound('such trial');
      changes.tell({ what: 'robot', robot: row.robot_id, teams: row.teams, part: 'trials' });
      return undefined;
    };
    serve('DELETE /robot-trials/:id', ({ params }) => mark(idFrom(params.id), now().toISOString()));
    serve('POST /robot-trials/:id/restoration', ({ params }) => mark(idFrom(params.id), null));
  });
}
