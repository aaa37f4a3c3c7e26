import { Router } from 'express';
import Joi from 'joi';
import { teamInLesson } from '../classes/lookup.ts';
import { one } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, validate } from '../http/validate.ts';

interface NewTrial {
  pastMm: number;
  rested: boolean;
  tookS: number | null;
  note?: string;
}

const newTrial = Joi.object<NewTrial>({
  pastMm: Joi.number().min(-10_000).max(10_000).required(),
  rested: Joi.boolean().required(),
  tookS: Joi.number().min(0).max(3600).allow(null).required(),
  note: Joi.string().max(200).allow(''),
});

/** Trials of the real robot, measured by hand. */
export function floorRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.post('/teams/:id/lessons/:slug/floor-trials', async (req, res) => {
    const found = await teamInLesson(db, req.params);
    const body = validate(newTrial, req.body);
    const row = await one<{ id: number }>(
      db,
      `insert into floor_trials (team_id, lesson_id, script_version, past_mm, rested, took_s, note, tried_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8) returning id`,
      [
        found.team.id,
        found.lessonRow.id,
        found.record.script?.version ?? null,
        body.pastMm,
        body.rested,
        body.tookS,
        body.note ?? '',
        now().toISOString(),
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
