import type { Queries } from '../db/database.ts';
import { cobble } from './cobble.ts';
import { cobbleTalk } from './cobbleTalk.ts';
import { skiff } from './skiff.ts';
import { harbourLessons } from './lessons/index.ts';
import { harbourSeries } from './series.ts';

/** The kits that ship with Vigilum. */
export const shippedKits = [cobble, skiff];

/** Puts the kits and the lessons that ship with Vigilum into a database; kits that are there already stay as they are. */
export async function addStarter(db: Queries): Promise<void> {
  for (const kit of shippedKits) {
    await db.query(
      'insert into kits (slug, name, definition) values ($1, $2, $3::jsonb) on conflict (school_id, slug) do nothing',
      [kit.slug, kit.name, JSON.stringify(kit)],
    );
  }
  const { name, syntax, phrases, declares } = cobbleTalk;
  await db.query(
    `insert into phrasebooks (kit_id, name, syntax, phrases)
     select k.id, $2, $3, $4::jsonb from kits k
      where k.slug = $1 and not exists (select 1 from phrasebooks p where p.kit_id = k.id)`,
    [cobble.slug, name, syntax, JSON.stringify({ phrases, declares })],
  );
  // A newer Vigilum brings shipped lessons up to date, but for those that a teacher has changed. What was proved of
  // an older one is proved anew.
  for (const lesson of harbourLessons) {
    await db.query(
      `insert into lessons (slug, title, definition) values ($1, $2, $3::jsonb)
       on conflict (school_id, slug) do update set title = excluded.title, definition = excluded.definition,
           revision = lessons.revision + 1, model_proof = null
         where lessons.changed_at is null
           and (lessons.title, lessons.definition) is distinct from (excluded.title, excluded.definition)`,
      [lesson.slug, lesson.title, JSON.stringify(lesson)],
    );
  }
  for (const { shipped, name, aim, lessons } of harbourSeries) {
    await db.query(
      `insert into series (shipped, name, aim, lessons) values ($1, $2, $3, $4::jsonb)
       on conflict (school_id, shipped) do update set name = excluded.name, aim = excluded.aim, lessons = excluded.lessons
         where series.changed_at is null`,
      [shipped, name, aim, JSON.stringify(lessons)],
    );
  }
}
