import { everywhere } from '../db/reach.ts';
import type { Services } from '../http/services.ts';
import { formOf, newestMigration } from '../db/migrate.ts';

/** One thing that was looked at. */
export interface Check {
  what: 'database' | 'form' | 'disk' | 'folder' | 'changes' | 'backup';
  well: boolean;
  /** Without it no page works. On a full disk reading goes on, so that a proxy must not turn everybody away. */
  needed: boolean;
  says: string;
}

/** The database must answer within so long, ms. */
const ANSWER_MS = 2000;
const DAY_MS = 86_400_000;

async function database({ db }: Services): Promise<Check[]> {
  const began = performance.now();
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Error('late')), ANSWER_MS);
  });
  try {
    const form = await Promise.race([formOf(db), late]);
    const ms = Math.round(performance.now() - began);
    const known = newestMigration();
    return [
      { what: 'database', well: true, needed: true, says: `answers in ${ms} ms` },
      {
        what: 'form',
        well: form === known,
        needed: true,
        says:
          form === known
            ? `${form}, as this program knows it`
            : `${form}, but this program knows ${known}: start all servers with the same program`,
      },
    ];
  } catch {
    return [
      { what: 'database', well: false, needed: true, says: `does not answer within ${ANSWER_MS / 1000} s` },
    ];
  } finally {
    clearTimeout(timer);
  }
}

/** How far this server is behind what was stored, where several share a database. */
async function changes({ db, changes }: Services): Promise<Check[]> {
  if (!db.wire) return [];
  try {
    const [row] = await everywhere(() =>
      db.query<{ behind: number }>('select count(*)::int as behind from changes where revision > $1', [
        changes.newest,
      ]),
    );
    const behind = row?.behind ?? 0;
    const says = behind === 0 ? 'has told all changes' : `${behind} changes are not told yet`;
    return [{ what: 'changes', well: behind < 100, needed: false, says }];
  } catch {
    return [{ what: 'changes', well: false, needed: false, says: 'cannot tell' }];
  }
}

function storage({ storage, now }: Services): Check[] {
  if (!storage) return [];
  const { room, isOurs, keeper } = storage;
  const free = room.freeMb();
  const full = room.refusal() !== null;
  const [newest] = keeper.list();
  const days = newest ? (now().getTime() - newest.at) / DAY_MS : Infinity;
  return [
    ...(Number.isFinite(free)
      ? [{ what: 'disk' as const, well: !full, needed: false, says: `${free} MB are free` }]
      : []),
    {
      what: 'folder',
      well: isOurs(),
      needed: true,
      says: isOurs() ? 'is held by this server' : 'is held by another server',
    },
    {
      what: 'backup',
      well: days < 2,
      needed: false,
      says: newest
        ? `the newest is ${days < 1 ? 'of today' : `${Math.floor(days)} days old`}`
        : 'there is none yet',
    },
  ];
}

/** What is well and what is not, in words that name nobody and no place: whoever may reach the server may ask. */
export async function healthOf(services: Services): Promise<{ ok: boolean; checks: Check[] }> {
  const checks = [...(await database(services)), ...(await changes(services)), ...storage(services)];
  return { ok: checks.every(({ well, needed }) => well || !needed), checks };
}
