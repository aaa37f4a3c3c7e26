import { addAccount, setPassword } from '../access/accounts.ts';
import { spokenPassword } from '../access/secrets.ts';
import type { Database } from '../db/database.ts';

/** How somebody comes into the demo. */
export interface DemoDoor {
  /** The account as which the demo signs its own machine in. */
  account: number;
  /** What it takes over the network; null where nobody else is answered. */
  password: string | null;
  /** The card of a team, to see what a tablet sees. */
  card: { name: string; card: string } | undefined;
}

/** Makes sure that there is a teacher. Over the network it takes a password like any other, a new one at each start. */
export async function demoDoor(db: Database, ownMachineOnly: boolean): Promise<DemoDoor> {
  const [teacher] = await db.query<{ id: number }>(
    `select id from accounts where role = 'owner' and removed_at is null order by id limit 1`,
  );
  const account =
    teacher?.id ??
    (await addAccount(db, { name: 'Demo Teacher', password: null, role: 'owner' }, new Date()));
  const [card] = await db.query<{ name: string; card: string }>(
    'select name, card from teams where removed_at is null order by id limit 1',
  );
  const password = ownMachineOnly ? null : spokenPassword();
  if (password !== null) await setPassword(db, account, password);
  return { account, password, card };
}

/** What is told where the demo is started at an address. */
export const tellDoor = ({ password, card }: DemoDoor, url: string): string =>
  [
    password === null
      ? 'You are signed in as Demo Teacher on this machine.'
      : `Sign in as Demo Teacher with the password ${password}`,
    `A team’s tablet (${card?.name ?? ''}): open ${url}/card/${card?.card ?? ''} in a private window; the others’ cards are under Doors and cards.`,
  ]
    .map((line) => `  ${line}\n`)
    .join('');
