import { Router } from 'express';
import Joi from 'joi';
import { one } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { lessonBySlug } from './records.ts';

interface NewClass {
  school: string;
  name: string;
  teams: string[];
}
interface NewPeriod {
  classId: number;
  lesson: string;
  minutes: number;
}

const name = (longest: number) => Joi.string().trim().min(1).max(longest);
const newClass = Joi.object<NewClass>({
  school: name(120).required(),
  name: name(80).required(),
  teams: Joi.array()
    .items(name(40))
    .min(1)
    .max(20)
    .unique((a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase())
    .required(),
});
const newPeriod = Joi.object<NewPeriod>({
  classId: Joi.number().integer().positive().required(),
  lesson: name(60).required(),
  minutes: Joi.number().integer().min(5).max(480).required(),
});

/** Setting up: classes with their teams and robots, and the start of a period. */
export function setupRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.get('/classes', async (_req, res) => {
    const classes = await db.query<{ id: number; school: string; name: string; teams: number }>(
      `select c.id, c.school, c.name, count(t.id)::int as teams
         from classes c left join teams t on t.class_id = c.id group by c.id order by c.school, c.name`,
    );
    res.json({ classes });
  });

  router.post('/classes', async (req, res) => {
    const body = validate(newClass, req.body);
    const id = await db.transaction(async (tx) => {
      const [klass] = await tx.query<{ id: number }>(
        'insert into classes (school, name) values ($1, $2) on conflict do nothing returning id',
        [body.school.trim(), body.name.trim()],
      );
      if (!klass) {
        throw new Problem(
          409,
          'Class exists',
          `${body.school.trim()} has a class ${body.name.trim()} already. Choose another name.`,
          [{ field: 'name', says: 'is taken' }],
        );
      }
      const kit = await one<{ id: number }>(tx, 'select id from kits where slug = $1', [cobble.slug]);
      const robots = await one<{ n: number }>(tx, 'select count(*)::int as n from robots');
      for (const [i, team] of body.teams.entries()) {
        const robot = await one<{ id: number }>(
          tx,
          'insert into robots (kit_id, name, build, stand_in) values ($1, $2, $3::jsonb, $4::jsonb) returning id',
          [
            kit.id,
            `${cobble.name} ${robots.n + i + 1}`,
            JSON.stringify(cobbleBuild),
            JSON.stringify(plainCharacter),
          ],
        );
        await tx.query('insert into teams (class_id, robot_id, name) values ($1, $2, $3)', [
          klass.id,
          robot.id,
          team.trim(),
        ]);
      }
      return klass.id;
    });
    changes.tell({ what: 'class', id });
    res.status(201).json({ id });
  });

  router.post('/periods', async (req, res) => {
    const body = validate(newPeriod, req.body);
    const lesson = await lessonBySlug(db, body.lesson);
    if (!lesson) throw notFound('such lesson');
    const [klass] = await db.query('select 1 from classes where id = $1', [body.classId]);
    if (!klass) throw notFound('such class');
    const row = await one<{ id: number }>(
      db,
      'insert into periods (class_id, lesson_id, starts_at, minutes) values ($1, $2, $3, $4) returning id',
      [body.classId, lesson.id, now().toISOString(), body.minutes],
    );
    changes.tell({ what: 'class', id: body.classId });
    res.status(201).json({ id: row.id });
  });

  return router;
}
