import { Router } from 'express';
import Joi from 'joi';
import { stepsOf, type Lesson } from '@vigilum/core/lesson';
import { teamInLesson } from '../classes/lookup.ts';
import { Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';

const place = Joi.object<{ step: string }>({ step: Joi.string().min(1).max(40).required() });

/** A step that the lesson no longer has holds nothing. */
function mustHave(lesson: Lesson, step: string): void {
  if (!stepsOf(lesson).some(({ id }) => id === step))
    throw new Problem(422, 'No such step', 'The lesson has no such step any more. Open it again.');
}

const note = Joi.object<{ step: string; text: string }>({
  step: Joi.string().min(1).max(40).required(),
  text: Joi.string().max(2000).allow('').required(),
});

/** Where a team is in its lesson, so that it comes back where it left; and what it wrote down on the way. */
export function placeRoutes({ db, changes, now }: Services): Router {
  const router = Router();
  router.put('/teams/:id/lessons/:slug/place', async (req, res) => {
    const { step } = validate(place, req.body);
    const { team, lessonRow, record } = await teamInLesson(db, req.params);
    mustHave(record.lesson, step);
    await db.query(
      `insert into lesson_places (team_id, lesson_id, step_id, at) values ($1, $2, $3, $4)
       on conflict (team_id, lesson_id) do update set step_id = excluded.step_id, at = excluded.at`,
      [team.id, lessonRow.id, step, now().toISOString()],
    );
    res.status(204).end();
  });

  router.put('/teams/:id/lessons/:slug/notes', async (req, res) => {
    const { step, text } = validate(note, req.body);
    const { team, lessonRow, record } = await teamInLesson(db, req.params);
    mustHave(record.lesson, step);
    await db.query(
      `insert into step_notes (team_id, lesson_id, step_id, text, at) values ($1, $2, $3, $4, $5)
       on conflict (team_id, lesson_id, step_id) do update set text = excluded.text, at = excluded.at`,
      [team.id, lessonRow.id, step, text, now().toISOString()],
    );
    changes.tell({ what: 'team', id: team.id });
    res.status(204).end();
  });
  return router;
}
