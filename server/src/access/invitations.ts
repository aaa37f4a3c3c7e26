import type { AccountRole } from '@vigilum/contract/types';
import { one, type Queries } from '../db/database.ts';
import { everywhere } from '../db/reach.ts';
import { Problem } from '../http/problems.ts';
import { hashOf, newToken } from './secrets.ts';

/** An invitation holds for so long, days. */
const INVITED_DAYS = 14;

export const noInvitation = () =>
  new Problem(
    404,
    'No such invitation',
    'This invitation was used already, has run out, or was taken back. Ask for another.',
  );

/** Invites somebody to the school of the request; `by` is null for the office of all schools. Its token is told once. */
export async function inviteBy(
  db: Queries,
  { role, by, classes = [] }: { role: AccountRole; by: number | null; classes?: readonly number[] },
  at: Date,
): Promise<{ id: number; token: string; until: number }> {
  const token = newToken();
  const until = new Date(at.getTime() + INVITED_DAYS * 86_400_000);
  const { id } = await one<{ id: number }>(
    db,
    'insert into invitations (token_hash, role, invited_by, by_office, until, classes) values ($1, $2, $3, $4, $5, $6) returning id',
    [hashOf(token), role, by, by === null, until.toISOString(), [...classes]],
  );
  return { id, token, until: until.getTime() };
}

export interface Invited {
  id: number;
  /** The school that it leads into. */
  school: number;
  role: AccountRole;
  by: string;
  name: string;
  /** Classes that a guest will see. */
  classes: number[];
}

/** What a token invites to, in whichever school; a 404 where it leads nowhere any more. */
export async function invitationOf(db: Queries, token: string, at: Date): Promise<Invited> {
  const [row] = await everywhere(() =>
    db.query<Invited>(
      `select i.id, i.school_id as school, i.role, coalesce(a.name, 'The office') as by, s.name, i.classes
         from invitations i join schools s on s.id = i.school_id left join accounts a on a.id = i.invited_by
        where i.token_hash = $1 and i.accepted_at is null and i.removed_at is null and i.until > $2 and s.removed_at is null`,
      [hashOf(token), at.toISOString()],
    ),
  );
  if (!row) throw noInvitation();
  return row;
}
