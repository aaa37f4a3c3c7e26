import express, { Router } from 'express';
import Joi from 'joi';
import { LOG_COLUMNS, LOG_ROWS } from '@vigilum/core/formats';
import { teamInLesson } from '../classes/lookup.ts';
import { one } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, looks, validate } from '../http/validate.ts';

interface NewTrial {
  pastMm?: number | null;
  gapMm?: number | null;
  turnedDeg?: number | null;
  counted?: number | null;
  changed?: string;
  rested: boolean;
  tookS: number | null;
  note?: string;
}
interface NewLog {
  name: string;
  times: number[];
  signals: Record<string, { unit: string; values: (number | null)[] }>;
}
interface Braking {
  braking: { commandDelayMs: number; tauBrakeS: number } | null;
}

const newTrial = Joi.object<NewTrial>({
  pastMm: Joi.number().min(-10_000).max(10_000).allow(null),
  gapMm: Joi.number().min(0).max(20_000).allow(null),
  turnedDeg: Joi.number().min(-3600).max(3600).allow(null),
  counted: Joi.number().min(-10_000).max(10_000).allow(null),
  changed: Joi.string().max(120).allow(''),
  rested: Joi.boolean().required(),
  tookS: Joi.number().min(0).max(3600).allow(null).required(),
  note: Joi.string().max(200).allow(''),
});

const newLog = Joi.object<NewLog>({
  name: Joi.string().trim().min(1).max(120).required(),
  times: looks(LOG_ROWS).required(),
  signals: Joi.object()
    .pattern(
      Joi.string().max(60),
      Joi.object({
        unit: Joi.string().max(10).allow('').required(),
        values: looks(LOG_ROWS).required(),
      }),
    )
    .min(1)
    .max(LOG_COLUMNS)
    .required(),
})
  .custom((log: NewLog, helpers) => {
    const uneven = Object.entries(log.signals).find(([, { values }]) => values.length !== log.times.length);
    const back = log.times.findIndex(
      (t, i) => typeof t !== 'number' || t < 0 || (i > 0 && t <= log.times[i - 1]!),
    );
    if (back >= 0)
      return helpers.message({ custom: `times must go forward from 0: number ${back + 1} does not` });
    return uneven
      ? helpers.message({ custom: `“${uneven[0]}” must have as many values as there are times` })
      : log;
  })
  .label('the log');
const newBraking = Joi.object<Braking>({
  braking: Joi.object({
    commandDelayMs: Joi.number().min(0).max(1000).required(),
    tauBrakeS: Joi.number().min(0.005).max(2).required(),
  })
    .allow(null)
    .required(),
});

/** Trials of the real robot, measured by hand; its logs; and what they say about its braking. */
export function floorRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.post('/teams/:id/lessons/:slug/floor-trials', async (req, res) => {
    const found = await teamInLesson(db, req.params);
    const body = validate(newTrial, req.body);
    const measured = [body.pastMm, body.gapMm, body.turnedDeg, body.counted, body.tookS];
    if (measured.every((value) => value === undefined || value === null)) {
      throw new Problem(
        422,
        'Nothing measured',
        'Nothing was saved: log at least one number, by ruler, protractor, count or stopwatch.',
        [{ field: 'pastMm', says: 'must be there, or another measure' }],
      );
    }
    const row = await one<{ id: number }>(
      db,
      `insert into floor_trials (team_id, lesson_id, script_version, past_mm, rested, took_s, note, tried_at,
                                 gap_mm, turned_deg, counted, changed)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12) returning id`,
      [
        found.team.id,
        found.lessonRow.id,
        found.record.script?.version ?? null,
        body.pastMm ?? null,
        body.rested,
        body.tookS,
        body.note ?? '',
        now().toISOString(),
        body.gapMm ?? null,
        body.turnedDeg ?? null,
        body.counted ?? null,
        body.changed ?? '',
      ],
    );
    changes.tell({ what: 'team', id: found.team.id });
    res.status(201).json({ id: row.id });
  });

  const mark = async (id: number, removedAt: string | null) => {
    const [row] = await db.query<{ team_id: number }>(
      'update floor_trials set removed_at = $2 where id = $1 returning team_id',
      [id, removedAt],
    );
    if (!row) throw notFound('such trial');
    changes.tell({ what: 'team', id: row.team_id });
  };

  // Logs of the real robot: kept as signals over time, judged by the page with the lesson's own sentences.
  router.get('/teams/:id/lessons/:slug/logs', async (req, res) => {
    const found = await teamInLesson(db, req.params);
    const rows = await db.query<{ id: number; name: string; trace: unknown; imported_at: Date }>(
      `select id, name, trace, imported_at from run_logs
        where team_id = $1 and lesson_id = $2 and removed_at is null order by imported_at desc, id desc limit 12`,
      [found.team.id, found.lessonRow.id],
    );
    res.json({ logs: rows.map(({ imported_at, ...log }) => ({ ...log, at: imported_at.getTime() })) });
  });
  router.post('/teams/:id/lessons/:slug/logs/imports', express.json({ limit: '6mb' }), async (req, res) => {
    const found = await teamInLesson(db, req.params);
    const { name, times, signals } = validate(newLog, req.body);
    const row = await one<{ id: number }>(
      db,
      `insert into run_logs (team_id, lesson_id, name, trace, imported_at) values ($1, $2, $3, $4::jsonb, $5) returning id`,
      [found.team.id, found.lessonRow.id, name, JSON.stringify({ times, signals }), now().toISOString()],
    );
    changes.tell({ what: 'team', id: found.team.id });
    res.status(201).json({ id: row.id });
  });
  const markLog = async (id: number, removedAt: string | null) => {
    const [row] = await db.query<{ team_id: number }>(
      'update run_logs set removed_at = $2 where id = $1 returning team_id',
      [id, removedAt],
    );
    if (!row) throw notFound('such log');
    changes.tell({ what: 'team', id: row.team_id });
  };
  router.delete('/run-logs/:id', async (req, res) => {
    await markLog(idFrom(req.params.id), now().toISOString());
    res.status(204).end();
  });
  router.post('/run-logs/:id/restoration', async (req, res) => {
    await markLog(idFrom(req.params.id), null);
    res.status(204).end();
  });

  router.put('/robots/:id/braking', async (req, res) => {
    const { braking } = validate(newBraking, req.body);
    const [row] = await db.query<{ id: number }>(
      'update robots set braking = $2::jsonb where id = $1 and removed_at is null returning id',
      [idFrom(req.params.id), braking ? JSON.stringify(braking) : null],
    );
    if (!row) throw notFound('such robot');
    changes.tell({ what: 'robot', id: row.id });
    res.json({ braking });
  });

  router.delete('/floor-trials/:id', async (req, res) => {
    await mark(idFrom(req.params.id), now().toISOString());
    res.status(204).end();
  });

  router.post('/floor-trials/:id/restoration', async (req, res) => {
    await mark(idFrom(req.params.id), null);
    res.status(204).end();
  });

  return router;
}
