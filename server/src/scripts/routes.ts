import { Router } from 'express';
import Joi from 'joi';
import { parseScript, SCRIPT_LIMIT } from '@vigilum/core/script';
import { teamInLesson } from '../classes/lookup.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, validate } from '../http/validate.ts';

interface NewVersion {
  text: string;
  /** The version this text was made from; 0 for the first. */
  basedOn: number;
  /** Who writes, in their own words; empty when nobody says. */
  by?: string;
  /** The older version that this one brings back. */
  restoredFrom?: number;
}

const newVersion = Joi.object<NewVersion>({
  text: Joi.string().allow('').max(SCRIPT_LIMIT.characters).required(),
  basedOn: Joi.number().integer().min(0).required(),
  by: Joi.string().allow('').trim().max(40),
  restoredFrom: Joi.number().integer().min(1),
});

/** Versions listed at most; older ones can still be asked for by number. */
const LISTED = 200;

/** Script versions of a team in a lesson. Every save is a version; none is ever overwritten. */
export function scriptRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.post('/teams/:id/lessons/:slug/script-versions', async (req, res) => {
    const { team, lessonRow } = await teamInLesson(db, req.params);
    const { text, basedOn, by = '', restoredFrom = null } = validate(newVersion, req.body);
    if (restoredFrom !== null && restoredFrom > basedOn) {
      throw new Problem(
        422,
        'No such version',
        `Nothing was saved: there is no version ${restoredFrom} yet.`,
        [{ field: 'restoredFrom', says: 'is newer than the newest' }],
      );
    }
    const [row] = await db.query<{ version: number }>(
      `insert into script_versions (team_id, lesson_id, version, text, saved_at, saved_by, restored_from)
       select $1, $2, $3::int + 1, $4, $5, $6, $7
        where $3::int = (select coalesce(max(version), 0) from script_versions where team_id = $1 and lesson_id = $2)
       on conflict do nothing returning version`,
      [team.id, lessonRow.id, basedOn, text, now().toISOString(), by, restoredFrom],
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
    const rows = await db.query<{
      version: number;
      text: string;
      saved_at: Date;
      saved_by: string;
      restored_from: number | null;
      tries: number;
    }>(
      `select v.version, v.text, v.saved_at, v.saved_by, v.restored_from,
              (select count(*)::int from tries t where t.team_id = v.team_id and t.lesson_id = v.lesson_id
                  and t.script_version = v.version) as tries
         from script_versions v where v.team_id = $1 and v.lesson_id = $2
        order by v.version desc limit ${LISTED}`,
      [team.id, lessonRow.id],
    );
    res.json({
      versions: rows.map((row) => ({
        version: row.version,
        at: row.saved_at.getTime(),
        by: row.saved_by,
        restoredFrom: row.restored_from,
        steps: parseScript(row.text).stepCount,
        tries: row.tries,
      })),
    });
  });

  router.get('/teams/:id/lessons/:slug/script-versions/:version', async (req, res) => {
    const { team, lessonRow } = await teamInLesson(db, req.params);
    const [row] = await db.query<{ version: number; text: string }>(
      'select version, text from script_versions where team_id = $1 and lesson_id = $2 and version = $3',
      [team.id, lessonRow.id, idFrom(req.params.version)],
    );
    if (!row) throw notFound('such version');
    res.json(row);
  });

  return router;
}
