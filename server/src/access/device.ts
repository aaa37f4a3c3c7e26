import type { Request } from 'express';
import { one, type Queries } from '../db/database.ts';
import { hashOf, newToken } from './secrets.ts';
import { Brake, type Rule } from './brake.ts';
import type { Services } from '../http/services.ts';
import { cookieOf, setCookie } from './cookies.ts';

/** What a browser shows to be told from others at the same address, whoever uses it. It opens nothing. */
const COOKIE = 'vigilum-device';
const LASTS_MS = 400 * 86_400_000;

/** The browser that asks; null where it shows none. */
const deviceOf = (req: Request): string | null => {
  const token = cookieOf(req, COOKIE);
  return token !== null && /^[\w-]{20,100}$/.test(token) ? hashOf(token) : null;
};

/** Gives a browser that shows no device one of its own. */
export function giveDevice(req: Request): void {
  if (deviceOf(req) === null) setCookie(req, COOKIE, newToken(), LASTS_MS);
}

/** The brake of a server; on a full disk it counts in memory. */
export const brakeOf = ({ db, storage }: Services): Brake =>
  new Brake(db, { hasRoom: () => !storage?.room.refusal() });

/** What counts as one who guesses: a browser; or, where it shows none, everybody at the address who shows none. */
const guesser = (req: Request): string => deviceOf(req) ?? `no device at ${req.ip ?? ''}`;
const address = (req: Request): string => `at ${req.ip ?? ''}`;

/**
 * Wrong class codes an hour: of one browser, and of an address, which is a whole school's. There are 24 million codes, so that an address
 * that tries for a month finds one of a hundred classes with a chance of a third.
 */
const CODES = { ofDevice: 9, ofAddress: 120 };
/** Wrong pictures of one team an hour, of the sixteen that there are. */
const PICTURES = 10;
/** Wrong passwords an hour of one name, and of all, from browsers of one address in which nobody has signed in to the account. */
const PASSWORDS = { ofName: 60, ofAddress: 300 };

export const codeRules = (req: Request): Rule[] => [
  { key: `code by ${guesser(req)}`, most: CODES.ofDevice },
  { key: `code ${address(req)}`, most: CODES.ofAddress },
];

export const pictureRules = (req: Request, team: number): Rule[] => [
  { key: `picture of ${team} by ${guesser(req)}`, most: 'slower' },
  { key: `picture of ${team} ${address(req)}`, most: PICTURES },
];

/** Rules for a password of a name. Browsers that the account has been used in are not held up by what others get wrong. */
export async function passwordRules(
  db: Queries,
  req: Request,
  { name, school }: { name: string; school: number | null },
): Promise<Rule[]> {
  const who = `${name.trim().toLowerCase()} of ${school}`;
  const own: Rule[] = [{ key: `name ${who} by ${guesser(req)}`, most: 'slower' }];
  const known = await db.query(
    `select 1 from account_devices d join accounts a on a.id = d.account_id
      where d.device = $1 and lower(a.name) = lower($2) and a.removed_at is null`,
    [deviceOf(req) ?? '', name.trim()],
  );
  if (known.length > 0) return own;
  return [
    ...own,
    { key: `name ${who} ${address(req)}`, most: PASSWORDS.ofName },
    { key: `names ${address(req)}`, most: PASSWORDS.ofAddress },
  ];
}

/** An account keeps so many of its browsers in mind, the latest. */
const MOST_KNOWN = 20;

/** Notes that an account was signed in to in a browser. */
export async function knowDevice(db: Queries, req: Request, account: number, at: Date): Promise<void> {
  const device = deviceOf(req);
  if (device === null) return;
  await db.query(
    `insert into account_devices (account_id, device, at) values ($1, $2, $3)
     on conflict (account_id, device) do update set at = excluded.at`,
    [account, device, at.toISOString()],
  );
  const { n } = await one<{ n: number }>(
    db,
    'select count(*)::int as n from account_devices where account_id = $1',
    [account],
  );
  if (n > MOST_KNOWN)
    await db.query(
      `delete from account_devices where account_id = $1 and device not in (
         select device from account_devices where account_id = $1 order by at desc limit $2)`,
      [account, MOST_KNOWN],
    );
}
