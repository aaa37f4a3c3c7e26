import type { Router } from 'express';
import { skillOf } from '@vigilum/core/year';
import { one } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { setRemoved, wrong, removals } from './common.ts';

/** Series of lessons, and what a teacher adds to the skills. */
export function seriesRoutes(services: Services): Router {
  const { db, changes, now } = services;
  const tell = () => changes.tell({ what: 'plan' });
  return contractRouter(services, (serve) => {
    const { away, back } = removals(services);
    serve('POST /series', async ({ body }) => {
      const made = await one<{ id: number }>(
        db,
        'insert into series (name, aim, lessons, changed_at) values ($1, $2, $3::jsonb, $4) returning id',
        [body.name, body.aim, JSON.stringify(body.lessons), now().toISOString()],
      );
      tell();
      return made;
    });
    serve('PUT /series/:id', async ({ params, body }) => {
      const rows = await db.query(
        'update series set name = $2, aim = $3, lessons = $4::jsonb, changed_at = $5 where id = $1 and removed_at is null returning 1',
        [idFrom(params.id), body.name, body.aim, JSON.stringify(body.lessons), now().toISOString()],
      );
      if (rows.length === 0) throw notFound('such series');
      tell();
      return undefined;
    });
    serve('DELETE /series/:id', ({ params }) => away('series', params.id, 'such series'));
    serve('POST /series/:id/restoration', ({ params }) => back('series', params.id, 'such series'));

    serve('PUT /own-skills/:skill', async ({ params, body }) => {
      if (!/^own-[a-z0-9-]{1,36}$/.test(params.skill)) throw notFound('such skill');
      const there = await db.query<{ id: string }>('select id from own_skills where removed_at is null');
      const unknown = body.needs.find((need) => !skillOf(need) && !there.some(({ id }) => id === need));
      if (unknown !== undefined)
        throw wrong('needs', `there is no skill “${unknown}”.`, 'must be skills that are here');
      await db.query(
        `insert into own_skills (id, name, shows, needs, lessons) values ($1, $2, $3, $4::jsonb, $5::jsonb)
         on conflict (school_id, id) do update set name = excluded.name, shows = excluded.shows, needs = excluded.needs,
           lessons = excluded.lessons, removed_at = null`,
        [
          params.skill,
          body.name,
          body.shows,
          JSON.stringify(body.needs.filter((need) => need !== params.skill)),
          JSON.stringify(body.lessons ?? []),
        ],
      );
      tell();
      return undefined;
    });
    serve('DELETE /own-skills/:skill', async ({ params }) => {
      await setRemoved(db, 'own_skills', params.skill, now(), 'such skill');
      tell();
      return undefined;
    });
    serve('POST /own-skills/:skill/restoration', async ({ params }) => {
      await setRemoved(db, 'own_skills', params.skill, null, 'such skill');
      tell();
      return undefined;
    });
  });
}
