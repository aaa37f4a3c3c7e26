import { Router } from 'express';
import { buildFaults, cleanKit, kitFaults, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import type { Lesson } from '@vigilum/core/lesson';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { kitSchema } from './kitSchema.ts';

/** Kits: listed, made, changed, removed and brought back. */
export function kitRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  const sound = (body: unknown): Kit => {
    const kit = validate(kitSchema, body);
    const faults = kitFaults(kit);
    if (faults.length > 0)
      throw new Problem(422, 'Check the kit', `Nothing was saved: ${faults[0]!.says}.`, faults);
    return cleanKit(kit);
  };

  router.get('/kits', async (_req, res) => {
    const kits = await db.query<{ definition: Kit; robots: number }>(
      `select k.definition, count(r.id)::int as robots from kits k
         left join robots r on r.kit_id = k.id and r.removed_at is null
        where k.removed_at is null group by k.id order by k.name`,
    );
    const lessons = await db.query<{ definition: Lesson }>(
      'select definition from lessons where removed_at is null order by title',
    );
    res.json({
      kits: kits.map(({ definition, robots }) => ({ kit: definition, robots })),
      needs: lessons.map(({ definition: { slug, title, need } }) => ({ slug, title, needs: [need.kind] })),
    });
  });

  router.post('/kits', async (req, res) => {
    const kit = sound(req.body);
    const [row] = await db.query(
      `insert into kits (slug, name, definition, changed_at) values ($1, $2, $3::jsonb, $4)
       on conflict (slug) do nothing returning id`,
      [kit.slug, kit.name, JSON.stringify(kit), now().toISOString()],
    );
    if (!row)
      throw new Problem(
        409,
        'Kit exists',
        `Nothing was saved: there is a kit “${kit.slug}” already. Give this one another short name.`,
        [{ field: 'slug', says: 'is taken' }],
      );
    changes.tell({ what: 'kit', id: 0 });
    res.status(201).json({ slug: kit.slug });
  });

  router.put('/kits/:slug', async (req, res) => {
    const kit = sound(req.body);
    if (kit.slug !== req.params.slug)
      throw new Problem(422, 'Another kit', 'Nothing was saved: the short name of a kit stays as it is.', [
        { field: 'slug', says: 'must stay as it is' },
      ]);
    await db.transaction(async (tx) => {
      const [row] = await tx.query<{ id: number }>(
        'select id from kits where slug = $1 and removed_at is null for update',
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
      await tx.query('update kits set name = $2, definition = $3::jsonb, changed_at = $4 where id = $1', [
        row.id,
        kit.name,
        JSON.stringify(kit),
        now().toISOString(),
      ]);
    });
    changes.tell({ what: 'kit', id: 0 });
    res.json({ slug: kit.slug });
  });

  router.delete('/kits/:slug', async (req, res) => {
    const [used] = await db.query<{ name: string }>(
      `select r.name from robots r join kits k on k.id = r.kit_id
        where k.slug = $1 and r.removed_at is null order by r.id limit 1`,
      [req.params.slug],
    );
    if (used)
      throw new Problem(409, 'Kit in use', `Nothing was removed: ${used.name} is built from this kit.`);
    await mark(req.params.slug, now().toISOString());
    res.status(204).end();
  });

  router.post('/kits/:slug/restoration', async (req, res) => {
    await mark(req.params.slug, null);
    res.status(204).end();
  });

  const mark = async (slug: string, removedAt: string | null) => {
    const [row] = await db.query('update kits set removed_at = $2 where slug = $1 returning id', [
      slug,
      removedAt,
    ]);
    if (!row) throw notFound('such kit');
    changes.tell({ what: 'kit', id: 0 });
  };

  return router;
}
