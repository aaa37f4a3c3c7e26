import type { Router } from 'express';
import type { TeamEntry } from '@vigilum/contract/types';
import { one } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { addHour } from './hours.ts';
import { lessonBySlug } from './records.ts';

/** Setting up: classes with their teams and robots, and the start of a period. */
export function setupRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('GET /classes', async () => {
      const classes = await db.query<{ id: number; school: string; name: string; teams: number }>(
        `select c.id, c.school, c.name, count(t.id)::int as teams
         from classes c left join teams t on t.class_id = c.id group by c.id order by c.school, c.name`,
      );
      return { classes };
    });

    serve('POST /classes', async ({ body }) => {
      const id = await db.transaction(async (tx) => {
        const [klass] = await tx.query<{ id: number }>(
          'insert into classes (school, name) values ($1, $2) on conflict do nothing returning id',
          [body.school, body.name],
        );
        if (!klass) {
          throw new Problem(
            409,
            'Class exists',
            `${body.school} has a class ${body.name} already. Choose another name.`,
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
            team,
          ]);
        }
        return klass.id;
      });
      changes.tell({ what: 'class', class: id, part: 'teams' });
      return { id };
    });

    serve('GET /teams', async () => {
      const teams = await db.query<TeamEntry>(
        `select t.id, t.name, c.name as class, t.robot_id as robot
         from teams t join classes c on c.id = t.class_id order by c.school, c.name, t.id`,
      );
      return { teams };
    });

    // A team takes another robot. Where a team of the same class has it, the two exchange theirs.
    serve('PUT /teams/:id/robot', async ({ params, body }) => {
      const team = idFrom(params.id);
      const { robot } = body;
      const changed = await db.transaction(async (tx) => {
        const [mine] = await tx.query<{ class_id: number; robot_id: number }>(
          'select class_id, robot_id from teams where id = $1',
          [team],
        );
        if (!mine) throw notFound('such team');
        const [wanted] = await tx.query('select 1 from robots where id = $1 and removed_at is null', [robot]);
        if (!wanted) throw notFound('such robot');
        const others = await tx.query<{ id: number }>(
          'update teams set robot_id = $1 where class_id = $2 and robot_id = $3 and id <> $4 returning id',
          [mine.robot_id, mine.class_id, robot, team],
        );
        await tx.query('update teams set robot_id = $1 where id = $2', [robot, team]);
        return { ...mine, exchanged: others.length > 0 };
      });
      changes.tell({ what: 'class', class: changed.class_id, part: 'teams' });
      return { before: changed.robot_id, exchanged: changed.exchanged };
    });

    serve('POST /periods', async ({ body }) => {
      const lesson = await lessonBySlug(db, body.lesson);
      if (!lesson) throw notFound('such lesson');
      const [klass] = await db.query('select 1 from classes where id = $1', [body.classId]);
      if (!klass) throw notFound('such class');
      const row = await addHour(db, {
        classId: body.classId,
        lessonId: lesson.id,
        minutes: body.minutes,
        startsAt: body.startsAt === undefined ? now() : new Date(body.startsAt),
        began: body.startsAt === undefined,
        anew: body.anew ?? false,
      });
      changes.tell({ what: 'class', class: body.classId, part: 'period' });
      return { id: row.id };
    });
  });
}
