import type { RobotsFor } from '@vigilum/contract/types';
import { buildFaults, usualBuild, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import type { Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { mustHaveRoom } from '../schools/schools.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { skiffBuild } from '../starter/skiff.ts';

/** A robot of a kit as it is first put together: those that ship with Vigilum as out of their box, others one part on each socket. */
export function firstBuild(kit: Kit): RobotBuild {
  const known = [
    { slug: 'cobble', build: cobbleBuild },
    { slug: 'skiff', build: skiffBuild },
  ].find(({ slug, build }) => slug === kit.slug && buildFaults(kit, build).length === 0);
  return known?.build ?? usualBuild(kit);
}

/** A kit that is there, or a 422 that names it. */
export async function kitBySlug(db: Queries, slug: string): Promise<{ id: number; definition: Kit }> {
  const [kit] = await db.query<{ id: number; definition: Kit }>(
    'select id, definition from kits where slug = $1 and removed_at is null',
    [slug],
  );
  if (!kit)
    throw new Problem(422, 'No such kit', `Nothing was saved: there is no kit “${slug}”.`, [
      { field: 'kit', says: 'must be one of the kits here' },
    ]);
  return kit;
}

/** Names with the next free numbers after a word: Heron 9, Heron 10. Numbers of removed robots are not used again. */
export async function nextNames(db: Queries, stem: string, n: number): Promise<string[]> {
  const rows = await db.query<{ name: string }>(
    `select name from robots where starts_with(lower(name), lower($1) || ' ')`,
    [stem],
  );
  const taken = rows.map(({ name }) => /^\d{1,6}$/.exec(name.slice(stem.length + 1))?.[0] ?? '0').map(Number);
  const last = Math.max(0, ...taken);
  return Array.from({ length: n }, (_, i) => `${stem} ${last + 1 + i}`);
}

export interface NewRobots {
  kitId: number;
  build: RobotBuild;
  standIn: boolean;
  cupboard: string;
  names: readonly string[];
}

/** Adds robots of one build; their ids in the order of the names. */
export async function addRobots(db: Queries, robots: NewRobots): Promise<number[]> {
  const { kitId, build, standIn, cupboard, names } = robots;
  await mustHaveRoom(db, 'robots', names.length);
  const made = await db.query<{ id: number }>(
    `insert into robots (kit_id, name, build, stand_in, cupboard)
     select $1, name, $3::jsonb, $4::jsonb, $5 from unnest($2::text[]) with ordinality as u (name, place)
      order by place returning id`,
    [kitId, [...names], JSON.stringify(build), standIn ? JSON.stringify(plainCharacter) : null, cupboard],
  );
  return made.map(({ id }) => id);
}

/**
 * So many robots for teams of a class: those of the kit in the cupboard that no team of this class has, those first that no other class has either;
 * where they are too few, and where new ones are wished, new ones in that cupboard.
 */
export async function robotsFor(
  db: Queries,
  { kit: slug, cupboard, take }: RobotsFor,
  n: number,
  klass: number,
): Promise<number[]> {
  const kit = await kitBySlug(db, slug);
  const there =
    take === 'new'
      ? []
      : await db.query<{ id: number }>(
          `select r.id from robots r
            where r.kit_id = $1 and lower(r.cupboard) = lower($2) and r.removed_at is null and r.archived_at is null
              and not exists (select 1 from teams t where t.robot_id = r.id and t.class_id = $3 and t.removed_at is null)
            order by exists (select 1 from teams t join classes c on c.id = t.class_id
                              where t.robot_id = r.id and t.removed_at is null and c.removed_at is null and c.archived_at is null), r.id
            limit $4`,
          [kit.id, cupboard, klass, n],
        );
  const found = there.map(({ id }) => id).sort((a, b) => a - b);
  const more = n - found.length;
  if (more === 0) return found;
  const names = await nextNames(db, kit.definition.name, more);
  const made = await addRobots(db, {
    kitId: kit.id,
    build: firstBuild(kit.definition),
    standIn: true,
    cupboard,
    names,
  });
  return [...found, ...made];
}

/**
 * The robot that a team drives in a class: its own, unless a team there drives that already, as where classes share robots; then another
 * of the same kit and cupboard. No two teams of one class drive one robot.
 */
export async function robotIn(db: Queries, robot: number, klass: number): Promise<number> {
  const [taken] = await db.query<{ kit: string; cupboard: string }>(
    `select k.slug as kit, r.cupboard from robots r join kits k on k.id = r.kit_id
      where r.id = $1 and exists (select 1 from teams t where t.robot_id = r.id and t.class_id = $2 and t.removed_at is null)`,
    [robot, klass],
  );
  if (!taken) return robot;
  const [other] = await robotsFor(db, { ...taken, take: 'those there' }, 1, klass);
  return other!;
}
