import { createHash } from 'node:crypto';
import type { Database } from '../db/database.ts';
import { everywhere, inSchool } from '../db/reach.ts';
import { cobbleTalk } from './cobbleTalk.ts';
import { harbourLessons } from './lessons/index.ts';
import { harbourSeries } from './series.ts';
import { addStarter, shippedKits } from './starter.ts';

/** What ships, as one number: where a school has it already nothing need be brought. */
const shippedNow = (): string =>
  createHash('sha256')
    .update(JSON.stringify([shippedKits, cobbleTalk, harbourLessons, harbourSeries]))
    .digest('hex');

/** Brings what ships up to date in every school that has another Vigilum's. */
export async function bringStarter(db: Database): Promise<void> {
  const shipped = shippedNow();
  const behind = await everywhere(() =>
    db.query<{ id: number }>(
      `select s.id from schools s left join meta m on m.school_id = s.id and m.key = 'shipped'
        where m.value is distinct from to_jsonb($1::text) order by s.id`,
      [shipped],
    ),
  );
  for (const { id } of behind)
    await inSchool(id, async () => {
      await addStarter(db);
      await db.query(
        `insert into meta (key, value) values ('shipped', to_jsonb($1::text))
         on conflict (school_id, key) do update set value = excluded.value`,
        [shipped],
      );
    });
}
