import { needsProof } from '@vigilum/contract/access';
import type { Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import type { Sessions } from './sessions.ts';
import type { Who } from './who.ts';

/** A password that was shown is good for so long, ms. */
const PROVED_MS = 10 * 60_000;

/**
 * Refuses what destroys or reveals much to a browser whose password was shown too long ago: the laptop may be unlocked and its owner away.
 * This machine's own programs, and a demo that signs itself in, have no password.
 */
export async function mustBeProved(sessions: Sessions, who: Who, route: string): Promise<void> {
  if (!needsProof.includes(route) || !('account' in who) || who.session === null) return;
  if (await sessions.isProved(who.session, PROVED_MS)) return;
  throw new Problem(
    403,
    'Password needed',
    'Nothing was changed: type your password first. It was last asked for more than ten minutes ago.',
    [],
    { proof: true },
  );
}

/** Refuses to take away a class, or what is its own, to everybody but its own teacher and the owners. */
export async function mustBeTeacherOf(db: Queries, who: Who, klass: number): Promise<void> {
  if (who.role === 'owner') return;
  const [row] = await db.query<{ teacher: string | null; own: boolean }>(
    `select a.name as teacher, c.teacher_id is not distinct from $2::int as own
       from classes c left join accounts a on a.id = c.teacher_id where c.id = $1`,
    [klass, 'account' in who ? who.account : 0],
  );
  if (row?.own) return;
  throw new Problem(
    403,
    'Not your class',
    row?.teacher
      ? `Nothing was changed: only ${row.teacher}, who teaches this class, or an owner can do this.`
      : 'Nothing was changed: only the teacher of this class or an owner can do this. Ask an owner to make you its teacher.',
  );
}
