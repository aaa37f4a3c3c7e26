import type { Router } from 'express';
import type { NewThing } from '@vigilum/contract/types';
import { one } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { removals, wrong } from './common.ts';
import { planOf } from './state.ts';
import { untangling } from './untangling.ts';

/** What lies in the cupboard, the rooms, robots that are broken or out; and what of it is wanted too often. */
export function cupboardRoutes(services: Services): Router {
  const { db, changes, now } = services;
  const tell = () => changes.tell({ what: 'plan' });
  return contractRouter(services, (serve) => {
    const { away, back } = removals(services);
    const thingRow = ({ kind, name, shelf, count, broken, out, beforeMin, afterMin }: NewThing) => {
      if (broken + out > count)
        throw wrong(
          'broken',
          `only ${count} are there, ${broken + out} are said to be broken or out.`,
          'are more than there are',
        );
      return [kind, name, shelf, count, broken, out, beforeMin, afterMin];
    };
    serve('POST /things', async ({ body }) => {
      const made = await one<{ id: number }>(
        db,
        `insert into things (kind, name, shelf, count, broken, out, before_min, after_min)
         values ($1, $2, $3, $4, $5, $6, $7, $8) returning id`,
        thingRow(body),
      );
      tell();
      return made;
    });
    serve('PUT /things/:id', async ({ params, body }) => {
      const rows = await db.query(
        `update things set kind = $1, name = $2, shelf = $3, count = $4, broken = $5, out = $6, before_min = $7, after_min = $8
          where id = $9 and removed_at is null returning 1`,
        [...thingRow(body), idFrom(params.id)],
      );
      if (rows.length === 0) throw notFound('such thing');
      tell();
      return undefined;
    });
    serve('DELETE /things/:id', ({ params }) => away('things', params.id, 'such thing'));
    serve('POST /things/:id/restoration', ({ params }) => back('things', params.id, 'such thing'));
    serve('PUT /robots/:id/away', async ({ params, body }) => {
      const rows = await db.query(
        'update robots set away = $2 where id = $1 and removed_at is null returning 1',
        [idFrom(params.id), body.away],
      );
      if (rows.length === 0) throw notFound('such robot');
      tell();
      return undefined;
    });

    serve(
      'POST /plan/untangling',
      async () => untangling(await planOf(db, now().getTime()), services.simulations.solve),
      {
        status: 200,
        long: true,
      },
    );
  });
}
