import type { Router } from 'express';
import type { Limited } from '@vigilum/contract/roles';
import type { OwnerLink, SchoolEntry, SchoolLimits } from '@vigilum/contract/types';
import { inviteBy } from '../access/invitations.ts';
import type { Queries } from '../db/database.ts';
import { everywhere, inSchool } from '../db/reach.ts';
import { notFound, Problem } from '../http/problems.ts';
import { afterwards } from '../http/scope.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { addStarter } from '../starter/starter.ts';
import { callSchool, counted, forgetSchools, isAboveSchools, mustBeOffice, onlySchool } from './schools.ts';

interface Row {
  id: number;
  slug: string;
  name: string;
  office: boolean;
  most: SchoolLimits;
  removed: boolean;
  accounts: number;
  classes: number;
  robots: number;
  seen_at: Date | null;
  invited_until: Date | null;
}

const slugTaken = (slug: string) =>
  new Problem(
    409,
    'Name taken',
    `Nothing was saved: another school has the short name ${slug}. Take one that its people will remember.`,
    [{ field: 'slug', says: 'is taken' }],
  );
const noSchool = () => notFound('such school');

/**
 * The office of several schools: it makes and closes them, limits them, and invites their owners. It sees how much each holds and nothing
 * of what: whoever wants to look into one needs an account there.
 */
export function schoolRoutes(services: Services): Router {
  const { db, access, now } = services;

  const schoolRow = async (id: string): Promise<{ id: number; office: boolean; removed: boolean }> => {
    const [row] = await everywhere(() =>
      db.query<{ id: number; office: boolean; removed: boolean }>(
        'select id, office, removed_at is not null as removed from schools where id = $1',
        [idFrom(id)],
      ),
    );
    if (!row) throw noSchool();
    return row;
  };
  /** A link by which somebody becomes an owner of a school. Earlier ones that nobody took up are void. */
  const ownerLink = (school: number): Promise<OwnerLink> =>
    inSchool(school, async () => {
      await db.query(
        `update invitations set removed_at = $1 where by_office and accepted_at is null and removed_at is null`,
        [now().toISOString()],
      );
      const { token, until } = await inviteBy(db, { role: 'owner', by: null }, now());
      return { token, until };
    });
  const limits = (most: Partial<Record<Limited, number>> | undefined) => JSON.stringify(most ?? {});

  return contractRouter(services, (serve) => {
    serve('GET /schools', async () => {
      await mustBeOffice(db);
      const rows = await everywhere(() => schoolRows(db, now()));
      return {
        now: now().getTime(),
        schools: rows.map(
          ({ accounts, classes, robots, seen_at, invited_until, ...school }): SchoolEntry => ({
            ...school,
            has: { accounts, classes, robots },
            seenAt: seen_at?.getTime() ?? null,
            invitedUntil: invited_until?.getTime() ?? null,
          }),
        ),
      };
    });

    serve('POST /schools', async ({ body: { slug, name, most } }) => {
      await mustBeOffice(db);
      if (db.wire === null)
        throw new Problem(
          409,
          'One school here',
          'Nothing was made: a data folder holds one school. Several share a PostgreSQL database: see “For a district” in the README.',
        );
      await mustKeepApart(db);
      // Whoever makes the second becomes the office: a school that moved in alone was not.
      const only = await onlySchool(db);
      if (only !== null) await everywhere(() => db.query('update schools set office = id = $1', [only]));
      const made = await everywhere(() =>
        db.query<{ id: number }>(
          `insert into schools (slug, name, most, made_at) values ($1, $2, $3::jsonb, $4)
           on conflict (slug) do nothing returning id`,
          [slug, name, limits(most), now().toISOString()],
        ),
      );
      if (!made[0]) throw slugTaken(slug);
      const { id } = made[0];
      await inSchool(id, async () => {
        await addStarter(db);
        await callSchool(db, name);
      });
      afterwards(() => forgetSchools(db));
      return { id, ...(await ownerLink(id)) };
    });

    serve('PATCH /schools/:id', async ({ params, body: { slug, name, most } }) => {
      await mustBeOffice(db);
      const { id } = await schoolRow(params.id);
      await everywhere(async () => {
        const taken = await db.query('select 1 from schools where slug = $1 and id <> $2', [
          slug ?? null,
          id,
        ]);
        if (taken.length > 0) throw slugTaken(slug!);
        await db.query(
          'update schools set slug = coalesce($2, slug), most = coalesce($3::jsonb, most) where id = $1',
          [id, slug ?? null, most === undefined ? null : limits(most)],
        );
      });
      if (name !== undefined) await inSchool(id, () => callSchool(db, name));
      return undefined;
    });

    serve('DELETE /schools/:id', async ({ params }) => {
      await mustBeOffice(db);
      const { id, office } = await schoolRow(params.id);
      if (office)
        throw new Problem(409, 'The office itself', 'Nothing was changed: the office cannot close itself.');
      await everywhere(() =>
        db.query('update schools set removed_at = $2 where id = $1 and removed_at is null', [
          id,
          now().toISOString(),
        ]),
      );
      await inSchool(id, () => access.sessions.end({ school: id }));
      afterwards(() => forgetSchools(db));
      return undefined;
    });
    serve('POST /schools/:id/restoration', async ({ params }) => {
      await mustBeOffice(db);
      const { id } = await schoolRow(params.id);
      await everywhere(() => db.query('update schools set removed_at = null where id = $1', [id]));
      afterwards(() => forgetSchools(db));
      return undefined;
    });
    serve('POST /schools/:id/invitations', async ({ params }) => {
      await mustBeOffice(db);
      const { id, removed } = await schoolRow(params.id);
      if (removed) throw noSchool();
      return ownerLink(id);
    });
  });
}

const schoolRows = (db: Queries, at: Date): Promise<Row[]> =>
  db.query<Row>(
    `select s.id, s.slug, s.name, s.office, s.most, s.removed_at is not null as removed,
            coalesce(a.n, 0) as accounts, coalesce(c.n, 0) as classes, coalesce(r.n, 0) as robots, e.seen_at, i.until as invited_until
       from schools s
       left join (select school_id, count(*)::int as n from ${counted.accounts} group by 1) a on a.school_id = s.id
       left join (select school_id, max(seen_at) as seen_at from (
                    select school_id, seen_at from accounts union all select school_id, seen_at from sessions) e group by 1) e on e.school_id = s.id
       left join (select school_id, count(*)::int as n from ${counted.classes} group by 1) c on c.school_id = s.id
       left join (select school_id, count(*)::int as n from ${counted.robots} group by 1) r on r.school_id = s.id
       left join (select school_id, max(until) as until from invitations
                   where by_office and accepted_at is null and removed_at is null and until > $1 group by 1) i on i.school_id = s.id
      order by s.office desc, s.name, s.id`,
    [at.toISOString()],
  );

/** Refuses several schools where the database would not keep them apart: superusers see every row. */
async function mustKeepApart(db: Queries): Promise<void> {
  if (await isAboveSchools(db))
    throw new Problem(
      409,
      'Not kept apart',
      'Nothing was made: DATABASE_URL signs in as a superuser of PostgreSQL, who sees the rows of all schools whatever is asked. Give Vigilum a role of its own: see “For a district” in the README.',
    );
}
