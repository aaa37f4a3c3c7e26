import type { Request, RequestHandler } from 'express';
import type { Queries } from '../db/database.ts';
import { inSchool, nowhere } from '../db/reach.ts';
import { firstSchool, onlySchool } from '../schools/schools.ts';
import { cookieOf, setCookie } from './cookies.ts';
import { LOCAL_KEY_HEADER } from './localKey.ts';
import type { Sessions } from './sessions.ts';
import { NOBODY, type Who } from './who.ts';

/** The one cookie: what a browser shows to be known again. */
const COOKIE = 'vigilum';
/** Shown by a browser that was signed out of a demo on purpose. */
const OUT = 'out';

/** Lets a browser be known again by a token; null signs it out. */
export const giveCookie = (req: Request, token: string | null, lastsMs?: number): void =>
  setCookie(req, COOKIE, token ?? OUT, token === null ? undefined : lastsMs);

const LOOPBACK = ['127.0.0.1', '::1', '::ffff:127.0.0.1'];
/** Whether a request comes from this machine and was meant for it, not handed on from elsewhere. */
function isFromHere(req: Request): boolean {
  const name = (req.headers.host ?? '').toLowerCase().replace(/:\d+$/, '');
  return (
    LOOPBACK.includes(req.socket.remoteAddress ?? '') &&
    ['localhost', '127.0.0.1', '[::1]'].includes(name) &&
    req.headers['x-forwarded-for'] === undefined
  );
}

export interface Identities {
  sessions: Sessions;
  /** Shown by programs of this machine; null where there are none. */
  localKey: string | null;
  /** The account that a demo signs its own machine in as; null for none. */
  demoAccount: number | null;
}

/** Finds out in whose name each request is made, and answers it for their school: whoever is nobody sees a school only where there is one. */
export function identify(
  db: Queries,
  { sessions, localKey, demoAccount }: Identities,
  handedOn: (req: Request) => Who | null = () => null,
): RequestHandler {
  const demo = async (): Promise<Who> => {
    const school = await firstSchool(db);
    const [row] = await inSchool(school, () =>
      db.query<{ name: string }>('select name from accounts where id = $1 and removed_at is null', [
        demoAccount,
      ]),
    );
    return row ? { role: 'owner', account: demoAccount!, name: row.name, session: null, school } : NOBODY;
  };
  let known: Who | null = null;
  return async (req, res, next) => {
    const token = cookieOf(req, COOKIE);
    const key = req.headers[LOCAL_KEY_HEADER];
    const asker = handedOn(req);
    if (asker !== null) res.locals.who = asker;
    else if (localKey !== null && key === localKey)
      res.locals.who = {
        role: 'owner',
        account: 0,
        name: 'this machine',
        session: null,
        school: await firstSchool(db),
      } satisfies Who;
    else if (token !== null && token !== OUT) res.locals.who = await sessions.find(token);
    else if (token === null && demoAccount !== null && isFromHere(req))
      res.locals.who = known ??= await demo();
    else res.locals.who = NOBODY;
    const who = res.locals.who as Who;
    const school = who.role === 'nobody' ? await onlySchool(db) : who.school;
    if (school === null) nowhere(next);
    else inSchool(school, next);
  };
}
