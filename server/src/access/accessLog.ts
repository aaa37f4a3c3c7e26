import type { Me, Route } from '@vigilum/contract/types';
import { Problem } from '../http/problems.ts';
import type { Who } from './who.ts';

/** Tells the log what happened at the doors: by whose account or session, for which school; numbers only, for no log names a person. */
export type AccessNote = (what: string, facts: Record<string, string | number | null>) => void;

/** Whoever uses these comes in, goes out, or changes who may. */
const DOORS =
  /^(POST|PUT|PATCH|DELETE) \/(first-account|sessions|me\/password|accounts|invitations|doors|schools|backups|classes\/:id\/(codes|board-links)|teams\/:id\/(cards|tablets))(\/|$)/;

const factsOf = (route: Route, who: Who) => ({
  route,
  role: who.role,
  school: 'school' in who ? who.school : null,
  account: 'account' in who ? who.account : null,
  session: 'session' in who ? who.session : null,
});

/** As whom somebody came in, where the answer says so. */
function cameInAs(reply: unknown): Record<string, string | number | null> {
  if (typeof reply !== 'object' || reply === null || !('role' in reply && 'first' in reply)) return {};
  const { role, account, team } = reply as Me;
  return { cameInAs: role, ofAccount: account, ofTeam: team?.id ?? null };
}

/** Notes what became of a request where it is one of the doors', and every request that is not allowed, wherever it is. */
export async function noted<T>(
  note: AccessNote | undefined,
  route: Route,
  who: Who,
  answer: () => Promise<T>,
): Promise<T> {
  if (!note) return answer();
  try {
    const reply = await answer();
    if (DOORS.test(route)) note('access', { ...factsOf(route, who), ...cameInAs(reply) });
    return reply;
  } catch (error) {
    const status = error instanceof Problem ? error.status : 500;
    if (DOORS.test(route) || status === 401 || status === 403)
      note('access refused', { ...factsOf(route, who), status });
    throw error;
  }
}
