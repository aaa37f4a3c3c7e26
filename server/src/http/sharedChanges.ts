import type { ChangeOf } from '@vigilum/contract/types';
import type { Database, Wire } from '../db/database.ts';
import { everywhere } from '../db/reach.ts';
import { REMEMBERED, type ChangeFeed } from './events.ts';

const CHANNEL = 'vigilum_changes';
/** Whoever stores changes holds this lock of the database until they are stored: revisions go up in the order of storing. */
const ORDER_LOCK = 0x7669_6769;
/** So long changes are kept, minutes: a server that was away for longer begins anew. */
const KEPT_MIN = 60;
const TRIM_MS = 10 * 60_000;
/** What could not be read is asked for again after so long, ms. */
const AGAIN_MS = 500;

interface Row {
  revision: number;
  change: ChangeOf;
  school_id: number;
  by_page: string | null;
}

/**
 * Lets the feeds of all servers on one database tell the same changes in the same order. A change is a row beside what it tells of; a
 * word on the channel says only that there are some, and every server reads on from the last that it knows: a word that is
 * lost loses nothing.
 */
export async function shareChanges(
  db: Database & { wire: Wire },
  feed: ChangeFeed,
  log: (error: unknown) => void,
): Promise<() => Promise<void>> {
  // A feed tells the pages of all schools, each its own.
  const after = (revision: number) =>
    everywhere(() =>
      db.query<Row>(
        'select revision, change, school_id, by_page from changes where revision > $1 order by revision',
        [revision],
      ),
    );
  const [newest] = await db.query<{ revision: number | null }>(
    'select max(revision) as revision from changes',
  );
  feed.shareBy(
    db,
    {
      async store(tx, told, by) {
        // In one go: the lock first, then the numbers, then the word, which goes out when the transaction is stored.
        await tx.query(
          `with locked as materialized (select pg_advisory_xact_lock($3)),
                kept as (insert into changes (change, by_page)
                         select change, $2 from locked, jsonb_array_elements($1::jsonb) with ordinality as c(change, place)
                          order by place returning 1)
           select pg_notify('${CHANNEL}', '') from (select count(*) from kept) as k`,
          [JSON.stringify(told), by, ORDER_LOCK],
        );
      },
    },
    // What was told lately can be asked for again here too: a page may come over from another server.
    Math.max(0, (newest?.revision ?? 0) - REMEMBERED),
  );

  let reading = false;
  let wanted = false;
  /** Reads on until nothing is new; a word that comes in meanwhile is not lost. */
  async function readOn(): Promise<void> {
    wanted = true;
    if (reading) return;
    reading = true;
    try {
      while (wanted) {
        wanted = false;
        for (const { change, revision, school_id, by_page } of await after(feed.newest))
          feed.take({ ...change, revision, by: by_page }, school_id);
      }
    } catch (error) {
      log(error);
      setTimeout(() => void readOn(), AGAIN_MS).unref();
    } finally {
      reading = false;
    }
  }
  const stop = await db.wire.listen(
    CHANNEL,
    () => void readOn(),
    () => void readOn(),
  );
  await readOn();
  const trim = setInterval(() => {
    everywhere(() => db.query(`delete from changes where at < now() - interval '${KEPT_MIN} minutes'`)).catch(
      log,
    );
  }, TRIM_MS);
  trim.unref();
  return async () => {
    clearInterval(trim);
    await stop();
  };
}
