import type { Queries } from '../db/database.ts';
import { cobble } from './cobble.ts';
import { tideLine } from './tideLine.ts';

/** Puts the kit and the lesson that ship with Vigilum into a database that does not have them; changes nothing else. */
export async function addStarter(db: Queries): Promise<void> {
  await db.query(
    'insert into kits (slug, name, definition) values ($1, $2, $3::jsonb) on conflict (slug) do nothing',
    [cobble.slug, cobble.name, JSON.stringify(cobble)],
  );
  await db.query(
    'insert into lessons (slug, title, definition) values ($1, $2, $3::jsonb) on conflict (slug) do nothing',
    [tideLine.slug, tideLine.title, JSON.stringify(tideLine)],
  );
}
