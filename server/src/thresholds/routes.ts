import { Router } from 'express';
import Joi from 'joi';
import type { Reading } from '@vigilum/core/sensing';
import { pairOf } from '@vigilum/core/threshold';
import { robotId } from '../classes/lookup.ts';
import { one } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { socketName, validate } from '../http/validate.ts';

interface NewThreshold {
  socket: string;
  value: number;
  way: 'halfway' | 'fewest misreads' | 'own choice';
  setIds: [number, number];
}

const newThreshold = Joi.object<NewThreshold>({
  socket: socketName.required(),
  value: Joi.number().min(-100_000).max(100_000).required(),
  way: Joi.string().valid('halfway', 'fewest misreads', 'own choice').required(),
  setIds: Joi.array().items(Joi.number().integer().positive()).length(2).unique().required(),
});

/** Decided thresholds of a robot. Earlier ones are kept; the newest counts. */
export function thresholdRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.post('/robots/:id/thresholds', async (req, res) => {
    const robot = await robotId(db, req.params.id);
    const body = validate(newThreshold, req.body);
    const sets = await db.query<{ id: number; surface: string; readings: Reading[] }>(
      `select id, surface, readings from sample_sets
        where id = any($1::int[]) and robot_id = $2 and socket = $3 and removed_at is null`,
      [body.setIds, robot, body.socket],
    );
    if (sets.length !== 2) {
      throw new Problem(
        422,
        'Readings missing',
        'Nothing was saved: one of the two sets of readings is gone. Read the surface again.',
      );
    }
    const [a, b] = sets as [(typeof sets)[0], (typeof sets)[0]];
    const pair = pairOf(
      { name: a.surface, values: a.readings },
      { name: b.surface, values: b.readings },
      '',
      1,
    );
    if (!pair.ok) throw new Problem(422, 'No threshold', `Nothing was saved: ${pair.says} ${pair.mend}`);
    const { low, high } = pair.value;
    if (body.value <= low.mean || body.value >= high.mean) {
      throw new Problem(
        422,
        'Not between',
        `Nothing was saved: ${body.value} does not lie between the ${low.name} and the ${high.name}.`,
        [{ field: 'value', says: 'must lie between the two means' }],
      );
    }
    const lowId = low.name === a.surface ? a.id : b.id;
    const row = await one<{ id: number }>(
      db,
      `insert into thresholds (robot_id, socket, value, way, low_set_id, high_set_id, decided_at)
       values ($1, $2, $3, $4, $5, $6, $7) returning id`,
      [robot, body.socket, body.value, body.way, lowId, lowId === a.id ? b.id : a.id, now().toISOString()],
    );
    changes.tell({ what: 'robot', id: robot });
    res.status(201).json({ id: row.id });
  });

  return router;
}
