import express, { type Router } from 'express';
import { knownRobotOf } from '@vigilum/core/classroom';
import { knobFactsOf, lessonOnFloor, seenFaults } from '@vigilum/core/lesson';
import { floorKnobs, knobFault } from '@vigilum/core/tuning';
import { shareOf } from '../access/who.ts';
import type { KeptLog } from '@vigilum/contract/types';
import { teamInLesson } from '../classes/lookup.ts';
import { workFor } from '../classes/works.ts';
import { trialColumns, trialOf, type TrialRow } from '../classes/records.ts';
import { one } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { floorBefore } from '../tuning/walk.ts';

/** A trial that waited for the network is dated when it was driven, but for clocks that are wrong by more than a day. */
const DAY_MS = 24 * 3600_000;

/** Trials of the real robot, measured by hand; its logs; and what they say about its braking. */
export function floorRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    serve('POST /teams/:id/lessons/:slug/floor-trials', async ({ params, body }) => {
      const from = now().getTime();
      const driven = body.at !== undefined && body.at <= from && from - body.at < DAY_MS ? body.at : from;
      // A trial that waited for the network belongs to the hour in which it was driven.
      const at = new Date(driven);
      const { work } = await workFor(db, params, at);
      const { team, record } = await teamInLesson(db, params, at);
      const measured = [body.pastMm, body.gapMm, body.turnedDeg, body.counted, body.tookS];
      const seen = body.seen ?? {};
      const onFloor = lessonOnFloor(record.lesson, body.step ?? null);
      const faults = seenFaults(onFloor, seen);
      if (faults.length > 0)
        throw new Problem(422, 'Check the trial', `Nothing was saved: ${faults[0]!.says}`, faults);
      if (
        Object.keys(seen).length === 0 &&
        measured.every((value) => value === undefined || value === null)
      ) {
        throw new Problem(
          422,
          'Nothing measured',
          'Nothing was saved: log at least one number, by ruler, protractor, count or stopwatch, or what was seen.',
          [{ field: 'pastMm', says: 'must be there, or another measure' }],
        );
      }
      const text = record.script?.text ?? '';
      const tuned = knobFactsOf(knownRobotOf(record));
      const fault = knobFault(text, tuned, body.knobs ?? {});
      if (fault)
        throw new Problem(422, 'Check the trial', `Nothing was saved: ${fault}`, [
          { field: 'knobs', says: fault },
        ]);
      const before = await floorBefore(db, work, record.script?.version ?? null);
      const knobs = floorKnobs(text, tuned, before, body.knobs ?? {}, body.changed ?? '');
      const { id } = await one<{ id: number }>(
        db,
        `insert into floor_trials (work_id, script_version, past_mm, rested, took_s, note, tried_at,
                                   gap_mm, turned_deg, counted, changed, seen, step_id, knobs)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12::jsonb, $13, $14::jsonb) returning id`,
        [
          work,
          record.script?.version ?? null,
          body.pastMm ?? null,
          body.rested,
          body.tookS,
          body.note ?? '',
          at.toISOString(),
          body.gapMm ?? null,
          body.turnedDeg ?? null,
          body.counted ?? null,
          body.changed ?? '',
          JSON.stringify(seen),
          body.step ?? null,
          JSON.stringify(knobs),
        ],
      );
      const row = await one<TrialRow>(db, `select ${trialColumns} where f.id = $1`, [id]);
      changes.tell({ what: 'evidence', team: team.id, lesson: params.slug, part: 'trial' });
      return { id, trial: trialOf(row, record.lesson) };
    });

    for (const [path, table, part, word] of [
      ['floor-trials', 'floor_trials', 'trial', 'trial'],
      ['run-logs', 'run_logs', 'log', 'log'],
    ] as const) {
      const mark = async (id: number, removedAt: string | null) => {
        const [row] = await db.query<{ team_id: number; slug: string }>(
          `update ${table} t set removed_at = $2 from works w join lessons l on l.id = w.lesson_id
            where t.id = $1 and w.id = t.work_id returning w.team_id, l.slug`,
          [id, removedAt],
        );
        if (!row) throw notFound(`such ${word}`);
        changes.tell({ what: 'evidence', team: row.team_id, lesson: row.slug, part });
        return undefined;
      };
      serve(`DELETE /${path}/:id`, ({ params }) => mark(idFrom(params.id), now().toISOString()));
      serve(`POST /${path}/:id/restoration`, ({ params }) => mark(idFrom(params.id), null));
    }

    // Logs of the real robot: kept as signals over time, judged by the page with the lesson's own sentences.
    serve('GET /teams/:id/lessons/:slug/logs', async ({ params }) => {
      const { work } = await workFor(db, params, now());
      const rows = await db.query<Omit<KeptLog, 'at'> & { imported_at: Date }>(
        `select id, name, trace, imported_at from run_logs
          where work_id = $1 and removed_at is null order by imported_at desc, id desc limit 12`,
        [work],
      );
      return { logs: rows.map(({ imported_at, ...log }) => ({ ...log, at: imported_at.getTime() })) };
    });

    serve(
      'POST /teams/:id/lessons/:slug/logs/imports',
      async ({ params, body }) => {
        const { team, work } = await workFor(db, params, now());
        const { name, times, signals } = body;
        const { id } = await one<{ id: number }>(
          db,
          `insert into run_logs (work_id, name, trace, imported_at) values ($1, $2, $3::jsonb, $4) returning id`,
          [work, name, JSON.stringify({ times, signals }), now().toISOString()],
        );
        changes.tell({ what: 'evidence', team, lesson: params.slug, part: 'log' });
        return { id };
      },
      {
        reads: express.json({ limit: '6mb' }),
        first: ({ body, who }) => simulations.inspect('log', body, shareOf(who)),
      },
    );

    serve('PUT /robots/:id/braking', async ({ params, body: { braking } }) => {
      const [row] = await db.query<{ id: number; teams: number[] }>(
        `update robots set braking = $2::jsonb where id = $1 and removed_at is null
         returning id, array(select t.id from teams t where t.robot_id = robots.id) as teams`,
        [idFrom(params.id), braking ? JSON.stringify(braking) : null],
      );
      if (!row) throw notFound('such robot');
      changes.tell({ what: 'robot', robot: row.id, teams: row.teams, part: 'braking' });
      return { braking };
    });
  });
}
