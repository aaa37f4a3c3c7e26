import { Router } from 'express';
import Joi from 'joi';
import { sensorKindWords } from '@vigilum/core/script';
import type { Reading } from '@vigilum/core/sensing';
import { robotId } from '../classes/lookup.ts';
import { one } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, socketName, validate } from '../http/validate.ts';

interface NewSet {
  socket: string;
  kind: string;
  surface: string;
  values: Reading[];
  lightNote?: string;
}

const newSet = Joi.object<NewSet>({
  socket: socketName.required(),
  kind: Joi.string()
    .valid(...sensorKindWords)
    .required(),
  surface: Joi.string().trim().min(1).max(60).required(),
  values: Joi.array()
    .items(Joi.number().min(-100_000).max(100_000), Joi.valid(null))
    .min(1)
    .max(500)
    .required(),
  lightNote: Joi.string().max(120).allow(''),
});

/** Sample sets of a robot: taken, removed, restored. */
export function readingRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.post('/robots/:id/sample-sets', async (req, res) => {
    const robot = await robotId(db, req.params.id);
    const body = validate(newSet, req.body);
    if (body.values.every((value) => value === null)) {
      throw new Problem(
        422,
        'No reading',
        'Nothing was saved: the set holds no reading. Check the plug, then read again.',
      );
    }
    const row = await one<{ id: number }>(
      db,
      `insert into sample_sets (robot_id, socket, kind, surface, readings, light_note, taken_at)
       values ($1, $2, $3, $4, $5::double precision[], $6, $7) returning id`,
      [robot, body.socket, body.kind, body.surface, body.values, body.lightNote ?? '', now().toISOString()],
    );
    changes.tell({ what: 'robot', id: robot });
    res.status(201).json({ id: row.id });
  });

  const mark = (removed: boolean) => async (id: number) => {
    const [row] = await db.query<{ robot_id: number }>(
      'update sample_sets set removed_at = $2 where id = $1 returning robot_id',
      [id, removed ? now().toISOString() : null],
    );
    if (!row) throw notFound('such set of readings');
    changes.tell({ what: 'robot', id: row.robot_id });
  };

  router.delete('/sample-sets/:id', async (req, res) => {
    await mark(true)(idFrom(req.params.id));
    res.status(204).end();
  });

  router.post('/sample-sets/:id/restoration', async (req, res) => {
    await mark(false)(idFrom(req.params.id));
    res.status(204).end();
  });

  return router;
}
