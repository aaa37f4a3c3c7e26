import type { Router } from 'express';
import { buildFaults, cleanKit, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import type { Lesson } from '@vigilum/core/lesson';
import { shareOf, type Who } from '../access/who.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { firstBuild } from '../robots/cupboard.ts';
import { nextRevision } from '../kept/store.ts';

/** Kits: listed, made, changed, removed and brought back. */
export function kitRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    const sound = (kit: Kit, who: Who) => simulations.inspect('kit', kit, shareOf(who));

    serve('GET /kits', async () => {
      const kits = await db.query<{ definition: Kit; robots: number; revision: number }>(
        `select k.definition, k.revision, count(r.id)::int as robots from kits k
         left join robots r on r.kit_id = k.id and r.removed_at is null
        where k.removed_at is null group by k.id order by k.name`,
      );
      const lessons = await db.query<{ definition: Lesson }>(
        'select definition from lessons where removed_at is null order by title',
      );
      return {
        kits: kits.map(({ definition, robots, revision }) => ({
          kit: definition,
          robots,
          revision,
          usual: firstBuild(definition),
        })),
        needs: lessons.map(({ definition: { slug, title, need } }) => ({ slug, title, needs: [need.kind] })),
      };
    });

    const add: Parameters<typeof serve<'POST /kits'>>[1] = async ({ body }) => {
      const kit = cleanKit(body);
      const [row] = await db.query(
        `insert into kits (slug, name, definition, changed_at) values ($1, $2, $3::jsonb, $4)
       on conflict (school_id, slug) do nothing returning id`,
        [kit.slug, kit.name, JSON.stringify(kit), now().toISOString()],
      );
      if (!row)
        throw new Problem(
          409,
          'Kit exists',
          `Nothing was saved: there is a kit “${kit.slug}” already. Give this one another short name.`,
          [{ field: 'slug', says: 'is taken' }],
        );
      changes.tell({ what: 'kit', kit: kit.slug });
      return { slug: kit.slug };
    };
    serve('POST /kits', add, { first: ({ body, who }) => sound(body, who) });

    const save: Parameters<typeof serve<'PUT /kits/:slug'>>[1] = async ({ params, body }) => {
      const kit = cleanKit(body.kit);
      if (kit.slug !== params.slug)
        throw new Problem(422, 'Another kit', 'Nothing was saved: the short name of a kit stays as it is.', [
          { field: 'slug', says: 'must stay as it is' },
        ]);
      const at = now();
      const revision = await db.transaction(async (tx) => {
        const [row] = await tx.query<{ id: number; definition: Kit; revision: number }>(
          'select id, definition, revision from kits where slug = $1 and removed_at is null for update',
          [kit.slug],
        );
        if (!row) throw notFound('such kit');
        const robots = await tx.query<{ name: string; build: RobotBuild }>(
          'select name, build from robots where kit_id = $1 and removed_at is null order by id',
          [row.id],
        );
        for (const robot of robots) {
          const [fault] = buildFaults(kit, robot.build);
          if (fault)
            throw new Problem(
              409,
              'A robot uses it',
              `Nothing was saved: with this change ${robot.name} no longer fits its kit, because ${fault.says}. Change the robot first.`,
            );
        }
        const next = await nextRevision(tx, {
          kind: 'kit',
          table: 'kits',
          id: row.id,
          key: kit.slug,
          what: 'this kit',
          before: { revision: row.revision, value: row.definition },
          from: body.revision,
          value: kit,
          note: body.note ?? '',
          at,
        });
        await tx.query('update kits set name = $2, definition = $3::jsonb, changed_at = $4 where id = $1', [
          row.id,
          kit.name,
          JSON.stringify(kit),
          at.toISOString(),
        ]);
        return next;
      });
      changes.tell({ what: 'kit', kit: kit.slug });
      return { slug: kit.slug, revision };
    };
    serve('PUT /kits/:slug', save, { first: ({ body, who }) => sound(body.kit, who) });

    serve('DELETE /kits/:slug', async ({ params }) => {
      const [used] = await db.query<{ name: string }>(
        `select r.name from robots r join kits k on k.id = r.kit_id
        where k.slug = $1 and r.removed_at is null order by r.id limit 1`,
        [params.slug],
      );
      if (used)
        throw new Problem(409, 'Kit in use', `Nothing was removed: ${used.name} is built from this kit.`);
      await mark(params.slug, now().toISOString());
      return undefined;
    });

    serve('POST /kits/:slug/restoration', async ({ params }) => {
      await mark(params.slug, null);
      return undefined;
    });

    const mark = async (slug: string, removedAt: string | null) => {
      const [row] = await db.query('update kits set removed_at = $2 where slug = $1 returning id', [
        slug,
        removedAt,
      ]);
      if (!row) throw notFound('such kit');
      changes.tell({ what: 'kit', kit: slug });
    };
  });
}
