import type { Request, Router } from 'express';
import { isAccount } from '@vigilum/contract/roles';
import type { AccountRole, Me } from '@vigilum/contract/types';
import { one, type Queries } from '../db/database.ts';
import { everywhere, inSchool, nowhere, reachNow } from '../db/reach.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { isOffice, mustHaveRoom, onlySchool, schoolNamed } from '../schools/schools.ts';
import { addAccount, hasAccounts, letSee, mustKeepOwner, setPassword } from './accounts.ts';
import { brakeOf, giveDevice, knowDevice, passwordRules } from './device.ts';
import { firstCode, useFirstCode } from './firstCode.ts';
import { giveCookie } from './identify.ts';
import { invitationOf, inviteBy, noInvitation } from './invitations.ts';
import { isPassword, spokenPassword } from './secrets.ts';
import type { Holder } from './sessions.ts';
import { whoOf, type Who } from './who.ts';

const wrongName = (several: boolean) =>
  new Problem(
    401,
    'Not known',
    `${several ? 'School, name' : 'Name'} and password do not go together. Try again, or ask the owner for a new password.`,
  );
const whichSchool = () =>
  new Problem(
    422,
    'Which school',
    'There are several schools here. Say which is yours, by the short name that its owner knows.',
    [{ field: 'school', says: 'is needed' }],
  );

/** Whether there is room to store anything. */
const hasRoom = ({ storage }: Services): boolean => !storage?.room.refusal();

/** What a page is told of who it is. */
export async function meOf(services: Services, who: Who): Promise<Me> {
  const { db, access } = services;
  const [school] = await db.query<{ value: string }>(
    `select value #>> '{}' as value from meta where key = 'school'`,
  );
  const [first] = await db.query<{ school: string }>(
    'select school from classes where removed_at is null order by id desc limit 1',
  );
  const me: Me = {
    role: who.role,
    name: '',
    school: school?.value ?? first?.school ?? '',
    account: null,
    team: null,
    office: isAccount(who.role) && (await isOffice(db)),
    several: (await onlySchool(db)) === null,
    // Where it is not known which school is meant, nobody is its first.
    first: reachNow() !== 'none' && !(await hasAccounts(db)),
    demo: access.demoAccount !== null,
    diskFull: !hasRoom(services),
  };
  if (who.role === 'nobody') return me;
  if (who.role === 'team') {
    const team = await one<{ name: string; class: string; school: string }>(
      db,
      'select t.name, c.name as class, c.school from teams t join classes c on c.id = t.class_id where t.id = $1',
      [who.team],
    );
    return { ...me, name: team.name, school: team.school, team: { id: who.team, class: team.class } };
  }
  if (who.role === 'board') {
    const klass = await one<{ name: string; school: string }>(
      db,
      'select name, school from classes where id = $1',
      [who.klass],
    );
    return { ...me, name: klass.name, school: klass.school };
  }
  return { ...me, name: who.name, account: who.account };
}

/** Begins a session in place of the one that the browser had. */
export async function enter(services: Services, req: Request, before: Who, holder: Holder): Promise<Me> {
  const { sessions } = services.access;
  const { role } = before;
  // The browser may have been in another school.
  if (role !== 'nobody' && before.session !== null)
    await everywhere(() => sessions.end({ id: before.session! }));
  const { token, lastsMs } = await sessions.begin(holder);
  giveCookie(req, token, lastsMs);
  if ('account' in holder && hasRoom(services))
    await knowDevice(services.db, req, holder.account, services.now());
  return meOf(services, await sessions.find(token));
}

/** Accounts of people: the first one, signing in and out, passwords, invitations, roles. */
export function accountRoutes(services: Services): Router {
  const { db, access, now } = services;
  const { sessions } = access;
  const brake = brakeOf(services);
  const whoIn = (req: Request): Who => whoOf(req.res!);
  /** The account of who asks; this machine's own programs have none. */
  const own = (req: Request): number => {
    const who = whoIn(req);
    if (!('account' in who) || who.account === 0)
      throw new Problem(403, 'No account', 'Sign in with an account first.');
    return who.account;
  };
  /** Whether a password is that of an account. Where there is none, as in the demo, there is nothing to know. */
  const isOwnPassword = async (id: number, typed: string): Promise<boolean> => {
    const row = await one<{ password: string | null }>(db, 'select password from accounts where id = $1', [
      id,
    ]);
    return row.password === null || isPassword(typed, row.password);
  };
  const accountRow = async (tx: Queries, text: string) => {
    const [row] = await tx.query<{ id: number; name: string; role: AccountRole; removed: boolean }>(
      'select id, name, role, removed_at is not null as removed from accounts where id = $1',
      [idFrom(text)],
    );
    if (!row) throw notFound('such account');
    return row;
  };

  return contractRouter(services, (serve) => {
    serve('GET /me', ({ req }) => {
      // Every page asks this before anything else.
      giveDevice(req);
      return meOf(services, whoIn(req));
    });

    serve('POST /first-account', async ({ body: { code = '', ...credentials }, req }) => {
      const account = await db.transaction(async (tx) => {
        if (reachNow() === 'none') throw whichSchool();
        // Two who come first at once: the lock lets one of them be it.
        await tx.query('lock table accounts in exclusive mode');
        if (await hasAccounts(tx))
          throw new Problem(
            409,
            'There is one',
            'Somebody has made the first account already. Sign in, or ask for an invitation.',
          );
        await useFirstCode(tx, code);
        return addAccount(tx, { ...credentials, role: 'owner' }, now());
      });
      return enter(services, req, whoIn(req), { account });
    });

    serve(
      'POST /sessions',
      async ({ body: { name, password, school: slug }, req }) => {
        const only = await onlySchool(db);
        if (only === null && !slug) throw whichSchool();
        // A school that does not exist takes as long, and says the same, as a wrong name.
        const school = only ?? (await schoolNamed(db, slug!));
        const look = async () => {
          const [row] = await db.query<{ id: number; password: string | null }>(
            'select id, password from accounts where lower(name) = lower($1) and removed_at is null',
            [name],
          );
          if (!(await isPassword(password, row?.password ?? null)) || !row) throw wrongName(only === null);
          return row.id;
        };
        const into = <T>(work: () => Promise<T>) =>
          school === null ? nowhere(work) : inSchool(school, work);
        return into(async () => {
          const account = await brake.attempt(await passwordRules(db, req, { name, school }), look);
          return enter(services, req, whoIn(req), { account });
        });
      },
      { long: true },
    );
    serve(
      'DELETE /sessions/mine',
      async ({ req }) => {
        const who = whoIn(req);
        if (who.role !== 'nobody' && who.session !== null) await sessions.end({ id: who.session });
        giveCookie(req, null);
        return undefined;
      },
      { long: true },
    );
    serve(
      'DELETE /sessions',
      async ({ req }) => {
        await sessions.end({ account: own(req) });
        giveCookie(req, null);
        return undefined;
      },
      { long: true },
    );

    serve(
      'POST /sessions/mine/proofs',
      async ({ body: { password }, req }) => {
        const id = own(req);
        await brake.attempt([{ key: `password of ${id}`, most: 'slower' }], async () => {
          if (await isOwnPassword(id, password)) return;
          throw new Problem(422, 'Wrong password', 'This is not your password. Try again.', [
            { field: 'password', says: 'is not your password' },
          ]);
        });
        const who = whoIn(req);
        if ('session' in who && who.session !== null) await sessions.prove(who.session);
        return undefined;
      },
      { long: true },
    );
    serve(
      'PUT /me/password',
      async ({ body: { old, password }, req }) => {
        const id = own(req);
        await brake.attempt([{ key: `password of ${id}`, most: 'slower' }], async () => {
          if (await isOwnPassword(id, old)) return;
          throw new Problem(422, 'Not the old one', 'Nothing was changed: the old password is another.', [
            { field: 'old', says: 'is not your password' },
          ]);
        });
        await setPassword(db, id, password);
        // Whoever came in by the old one is out; this browser stays.
        const who = whoIn(req);
        await sessions.end({ account: id, but: 'session' in who ? who.session : null });
        return undefined;
      },
      { long: true },
    );

    serve('GET /accounts', async () => ({
      now: now().getTime(),
      accounts: (
        await db.query<{
          id: number;
          name: string;
          role: AccountRole;
          seen_at: Date | null;
          sessions: number;
          classes: number[];
        }>(
          `select a.id, a.name, a.role, greatest(a.seen_at, (select max(s.seen_at) from sessions s where s.account_id = a.id)) as seen_at,
                  (select count(*)::int from sessions s where s.account_id = a.id and s.until > $1) as sessions,
                  array(select g.class_id from guest_classes g where g.account_id = a.id order by 1) as classes
             from accounts a where a.removed_at is null order by a.id`,
          [now().toISOString()],
        )
      ).map(({ seen_at, ...account }) => ({ ...account, seenAt: seen_at?.getTime() ?? null })),
      invitations: (
        await db.query<{ id: number; role: AccountRole; by: string; until: Date }>(
          `select i.id, i.role, coalesce(a.name, 'the office') as by, i.until
             from invitations i left join accounts a on a.id = i.invited_by
            where i.accepted_at is null and i.removed_at is null and i.until > $1 order by i.id`,
          [now().toISOString()],
        )
      ).map((invitation) => ({ ...invitation, until: invitation.until.getTime() })),
      firstCode: await firstCode(db),
    }));

    serve('PATCH /accounts/:id', async ({ params, body: { role, classes } }) => {
      await db.transaction(async (tx) => {
        const account = await accountRow(tx, params.id);
        if (classes !== undefined) await letSee(tx, account.id, classes);
        if (role === undefined) return;
        if (role !== 'owner') await mustKeepOwner(tx, account.id);
        await tx.query('update accounts set role = $2 where id = $1', [account.id, role]);
      });
      await sessions.forget();
      return undefined;
    });
    serve('DELETE /accounts/:id', async ({ params }) => {
      const { id } = await db.transaction(async (tx) => {
        const account = await accountRow(tx, params.id);
        await mustKeepOwner(tx, account.id);
        await tx.query('update accounts set removed_at = $2 where id = $1', [
          account.id,
          now().toISOString(),
        ]);
        return account;
      });
      await sessions.end({ account: id });
      return undefined;
    });
    serve('POST /accounts/:id/restoration', async ({ params }) => {
      const { id, name } = await accountRow(db, params.id);
      const [taken] = await db.query(
        'select 1 from accounts where lower(name) = lower($1) and id <> $2 and removed_at is null',
        [name, id],
      );
      if (taken)
        throw new Problem(409, 'Name taken', `Nothing was changed: another is called ${name} by now.`);
      await mustHaveRoom(db, 'accounts');
      await db.query('update accounts set removed_at = null where id = $1', [id]);
      return undefined;
    });
    serve(
      'POST /accounts/:id/recoveries',
      async ({ params, req }) => {
        const { id, name, removed } = await accountRow(db, params.id);
        if (removed) throw notFound('such account');
        const who = whoIn(req);
        if ('account' in who && who.account === id)
          throw new Problem(
            409,
            'Your own',
            'Nothing was changed: change your own password below, with the old one. If you have forgotten it, another owner or “npm run account” gives you a new one.',
          );
        const password = spokenPassword();
        await setPassword(db, id, password);
        await sessions.end({ account: id });
        return { name, password };
      },
      { long: true },
    );

    serve('POST /invitations', ({ body, req }) => inviteBy(db, { ...body, by: own(req) }, now()), {
      long: true,
    });
    serve('DELETE /invitations/:id', async ({ params }) => {
      await db.query('update invitations set removed_at = $2 where id = $1', [
        idFrom(params.id),
        now().toISOString(),
      ]);
      return undefined;
    });
    serve('GET /invitations/:token', async ({ params, req }) => {
      const { role, by, school, name } = await invitationOf(db, params.token, now());
      const { several, ...me } = await inSchool(school, () => meOf(services, whoIn(req)));
      return { role, by, school: several ? name : me.school };
    });
    serve(
      'POST /invitations/:token/acceptance',
      async ({ params, body, req }) => {
        const { id, role, school, classes } = await invitationOf(db, params.token, now());
        const accept = async (tx: Queries) => {
          const taken = await tx.query(
            'update invitations set accepted_at = $2 where id = $1 and accepted_at is null returning id',
            [id, now().toISOString()],
          );
          if (taken.length === 0) throw noInvitation();
          const account = await addAccount(tx, { ...body, role }, now());
          await letSee(tx, account, classes);
          return account;
        };
        return inSchool(school, async () =>
          enter(services, req, whoIn(req), { account: await db.transaction(accept) }),
        );
      },
      { long: true },
    );
  });
}
