import { Router } from 'express';
import Joi from 'joi';
import { stepsOf } from '@vigilum/core/lesson';
import { teamInLesson } from '../classes/lookup.ts';
import { Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';

const place = Joi.object<{ step: string }>({ step: Joi.string().min(1).max(40).required() });

/** Where a team is in its lesson, so that it comes back where it left. */
export function placeRoutes({ db, now }: Services): Router {
  const router = Router();
  router.put('/teams/:id/lessons/:slug/place', async (req, res) => {
    const { step } = validate(place, req.body);
    const { team, lessonRow, record } = await teamInLesson(db, req.params);
    if (!stepsOf(record.lesson).some(({ id }) => id === step))
      throw new Problem(422, 'No such step', 'The lesson has no such step any more. Open it again.');
    await db.query(
      `insert into lesson_places (team_id, lesson_id, step_id, at) values ($1, $2, $3, $4)
       on conflict (team_id, lesson_id) do update set step_id = excluded.step_id, at = excluded.at`,
      [team.id, lessonRow.id, step, now().toISOString()],
    );
    res.status(204).end();
  });
  return router;
}
