import { Router } from 'express';
import Joi from 'joi';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import { teamInLesson } from '../classes/lookup.ts';
import { Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';

interface NewVersion {
  text: string;
  /** The version this text was made from; 0 for the first. */
  basedOn: number;
}

const newVersion = Joi.object<NewVersion>({
  text: Joi.string().allow('').max(SCRIPT_LIMIT.characters).required(),
  basedOn: Joi.number().integer().min(0).required(),
});

/** Script versions of a team in a lesson. Every save is a version; none is ever overwritten. */
export function scriptRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.post('/teams/:id/lessons/:slug/script-versions', async (req, res) => {
    const { team, lessonRow } = await teamInLesson(db, req.params);
    const body = validate(newVersion, req.body);
    const [row] = await db.query<{ version: number }>(
      `insert into script_versions (team_id, lesson_id, version, text, saved_at)
       select $1, $2, $3::int + 1, $4, $5
        where $3::int = (select coalesce(max(version), 0) from script_versions where team_id = $1 and lesson_id = $2)
       on conflict do nothing returning version`,
      [team.id, lessonRow.id, body.basedOn, body.text, now().toISOString()],
    );
    if (!row) {
      const [newest] = await db.query<{ version: number; text: string }>(
        'select version, text from script_versions where team_id = $1 and lesson_id = $2 order by version desc limit 1',
        [team.id, lessonRow.id],
      );
      throw new Problem(
        409,
        'Changed meanwhile',
        'Somebody else saved this script meanwhile. Yours is still on this page; choose which one to keep.',
        [],
        { newest: newest ?? { version: 0, text: '' } },
      );
    }
    changes.tell({ what: 'team', id: team.id });
    res.status(201).json({ version: row.version });
  });

  router.get('/teams/:id/lessons/:slug/script-versions', async (req, res) => {
    const { team, lessonRow } = await teamInLesson(db, req.params);
    const rows = await db.query<{ version: number; text: string; saved_at: Date }>(
      `select version, text, saved_at from script_versions where team_id = $1 and lesson_id = $2
        order by version desc limit 50`,
      [team.id, lessonRow.id],
    );
    res.json({
      versions: rows.map(({ version, text, saved_at }) => ({ version, text, at: saved_at.getTime() })),
    });
  });

  return router;
}
