import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type Joi from 'joi';
import { access, type OtherRoute } from '@vigilum/contract/access';
import { requests } from '@vigilum/contract/schemas';
import type { Doors, OwnerLink, Route, SchoolEntry } from '@vigilum/contract/types';
import { writeBackup } from '../backup/write.ts';
import { restoreBackup } from '../backup/read.ts';
import { createApp } from '../app.ts';
import { Sessions } from '../access/sessions.ts';
import { everywhere, inSchool, nowhere } from '../db/reach.ts';
import { migrate } from '../db/migrate.ts';
import { openPglite } from '../db/pglite.ts';
import { openPostgres } from '../db/postgres.ts';
import { httpServer } from '../http/listen.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { shippedKits } from '../starter/starter.ts';
import { dice } from '../../campaign/bench.ts';
import { valueFor } from './bodies.ts';
import { ownDemo } from './databases.ts';
import { demoApp, emptyDatabase, NOW, onPostgres, signedIn, type DemoApp } from './harness.ts';

// Several schools on one database, as a district has them. Only PostgreSQL holds them: npm run test:postgres.
const several = onPostgres ? describe : describe.skip;

type Api = ReturnType<typeof signedIn>;
const PASSWORD = 'slow heron under bridges';
const stranger = (demo: DemoApp): Api => signedIn(demo.app, 'other=1');

/** Takes up an invitation; requests in the name of who did. */
async function accept(demo: DemoApp, token: string, name: string): Promise<Api> {
  const answer = await stranger(demo)
    .post(`/api/invitations/${token}/acceptance`)
    .send({ name, password: PASSWORD })
    .expect(201);
  return signedIn(demo.app, answer.headers['set-cookie']![0]!.split(';')[0]!);
}

/** A second school with a class, people of every role, a tablet and a projector; made as people make it. */
async function secondSchool(demo: DemoApp, slug = 'far-shore', name = 'Far Shore School') {
  const made = (await demo.api.post('/api/schools').send({ slug, name }).expect(201)).body as OwnerLink & {
    id: number;
  };
  const owner = await accept(demo, made.token, 'Olwen Farshore');
  const colleague = async (role: string, who: string) => {
    const { token } = (await owner.post('/api/invitations').send({ role }).expect(201)).body as OwnerLink;
    return accept(demo, token, who);
  };
  const klass = (
    await owner
      .post('/api/classes')
      .send({
        school: name,
        name: 'Far 9',
        teams: ['Fargo', 'Farrow'],
        robots: { kit: 'cobble', cupboard: '', take: 'new' },
      })
      .expect(201)
  ).body as { id: number };
  const doors = (await owner.get(`/api/classes/${klass.id}/doors`).expect(200)).body as Doors;
  const by = async (path: string, body: object) => {
    const answer = await stranger(demo).post(`/api/doors/${path}`).send(body).expect(201);
    return signedIn(demo.app, answer.headers['set-cookie']![0]!.split(';')[0]!);
  };
  return {
    id: made.id,
    klass: klass.id,
    doors,
    apis: {
      owner,
      teacher: await colleague('teacher', 'Tove Farshore'),
      guest: await colleague('guest', 'Gil Farshore'),
      team: await by('cards', { card: doors.teams[0]!.card }),
      board: await by('boards', { board: doors.board }),
    },
  };
}

const FIRST = 1;
/** Tables whose rows belong to a school. */
const tablesWithSchool = async (demo: DemoApp): Promise<string[]> =>
  (
    await demo.db.query<{ name: string }>(
      `select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'school_id' order by 1`,
    )
  ).map(({ name }) => name);

/** What each table holds of a school, added up. */
async function sumsOf(demo: DemoApp, school: number): Promise<Record<string, string>> {
  const sums: Record<string, string> = {};
  for (const table of await tablesWithSchool(demo)) {
    const [row] = await demo.db.query<{ sum: string }>(
      `select count(*) || ' ' || coalesce(md5(string_agg(t::text, '|' order by t::text collate "C")), '') as sum
         from ${table} t where school_id = $1`,
      [school],
    );
    sums[table] = row!.sum;
  }
  return sums;
}

several('schools that share a database', () => {
  let demo: DemoApp;
  let far: Awaited<ReturnType<typeof secondSchool>>;
  beforeAll(async () => {
    demo = await demoApp();
    // As one that moved in from a data folder by a backup of its own.
    await demo.db.query('update schools set office = false');
    far = await secondSchool(demo);
  }, 60_000);
  afterAll(() => demo.close());

  it('begin with what ships and nothing else; what is there already stays where it was', async () => {
    const teams = (await far.apis.owner.get('/api/teams').expect(200)).body as { teams: { name: string }[] };
    expect(teams.teams.map(({ name }) => name)).toEqual(['Fargo', 'Farrow']);
    const lessons = await far.apis.teacher.get('/api/lessons').expect(200);
    expect(lessons.text).toContain('tide-line');
    expect((await far.apis.owner.get('/api/me').expect(200)).body).toMatchObject({
      school: 'Far Shore School',
      office: false,
      several: true,
    });
    expect((await demo.api.get('/api/me').expect(200)).body).toMatchObject({ office: true, several: true });
    const own = (await demo.api.get('/api/teams').expect(200)).text;
    expect(own).toContain('Gannet');
    expect(own).not.toContain('Fargo');
  });

  it('the database itself holds them apart, whatever a statement asks for', async () => {
    const { db } = demo;
    const count = async () =>
      Number((await db.query<{ n: number }>('select count(*)::int as n from classes'))[0]!.n);
    const [first, second, none, all] = [
      await inSchool(FIRST, count),
      await inSchool(far.id, count),
      await nowhere(count),
      await everywhere(count),
    ];
    expect([none, all]).toEqual([0, first + second]);
    expect(second).toBeGreaterThan(0);
    await inSchool(far.id, async () => {
      await db.query(`update classes set name = name || '!' where school_id = 1 or true`);
      await db.query(`delete from step_notes where true`);
      await expect(
        db.query(`insert into classes (school, name, school_id) values ('S', 'slipped in', 1)`),
      ).rejects.toThrow(/row-level security/);
      await expect(db.query('update classes set school_id = 1')).rejects.toThrow(/row-level security/);
    });
    const names = await inSchool(FIRST, () => db.query<{ name: string }>('select name from classes'));
    expect(names.filter(({ name }) => name.endsWith('!') || name === 'slipped in')).toEqual([]);
    expect((await inSchool(FIRST, () => db.query('select 1 from step_notes'))).length).toBeGreaterThan(0);
    await nowhere(() =>
      expect(db.query(`insert into classes (school, name) values ('S', 'of nobody')`)).rejects.toThrow(),
    );
    // What a transaction was allowed that failed is not left to whoever has the connection next.
    await Promise.all(
      Array.from({ length: 8 }, () =>
        db
          .transaction(async (tx) => {
            await everywhere(() => tx.query('select 1 from classes'));
            throw new Error('failed');
          })
          .catch(() => undefined),
      ),
    );
    for (let i = 0; i < 8; i++) expect(await nowhere(count)).toBe(0);
  });

  it('two sign in by one name, each to their own; without a school, or with a wrong one, nobody does', async () => {
    const [teacher] = await demo.db.query<{ name: string; id: number }>(
      'select id, name from accounts where school_id = 1 order by id limit 1',
    );
    const { token } = (await far.apis.owner.post('/api/invitations').send({ role: 'teacher' }).expect(201))
      .body as OwnerLink;
    await accept(demo, token, teacher!.name);
    const tryIn = (body: object) => stranger(demo).post('/api/sessions').send(body);
    const me = (await tryIn({ school: ' Far-Shore ', name: teacher!.name, password: PASSWORD }).expect(201))
      .body as { school: string; account: number };
    expect([me.school, me.account === teacher!.id]).toEqual(['Far Shore School', false]);
    const none = await tryIn({ name: teacher!.name, password: PASSWORD }).expect(422);
    expect((none.body as { detail: string }).detail).toContain('several schools');
    const wrong = await tryIn({ school: 'first', name: teacher!.name, password: PASSWORD }).expect(401);
    const nowhereThere = await tryIn({ school: 'no-such', name: teacher!.name, password: PASSWORD }).expect(
      401,
    );
    expect(nowhereThere.body).toEqual(wrong.body);
    // Whoever is nobody sees no school, and is not offered to be anybody's first.
    expect((await stranger(demo).get('/api/me').expect(200)).body).toMatchObject({
      first: false,
      several: true,
      school: '',
    });
    await stranger(demo).post('/api/first-account').send({ name: 'Sly', password: PASSWORD }).expect(422);
  });

  it('a class code leads into its own school, from a browser that was in another too', async () => {
    const { doors } = far;
    const open = await demo.api.post('/api/doors').send({ code: doors.code }).expect(200);
    expect(open.body).toMatchObject({ school: 'Far Shore School', class: expect.stringContaining('Far 9') });
    const team = (open.body as { teams: { id: number; name: string }[] }).teams[0]!;
    const { picture } = doors.teams.find(({ id }) => id === team.id)!;
    const moving = await inSchool(FIRST, () => demo.as({ team: 1 }));
    const entered = await moving
      .post('/api/doors/teams')
      .send({ code: doors.code, team: team.id, picture })
      .expect(201);
    expect(entered.body).toMatchObject({ role: 'team', name: 'Fargo' });
    // It has left the team of the other school.
    await moving.get('/api/teams/1/hour').expect(403);
  });

  it('pages hear what changes in their school and nothing of another', async () => {
    const server = httpServer(demo.app).listen(0, '127.0.0.1');
    await new Promise((done) => server.once('listening', done));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const cookie = async (school: number) => {
      const [row] = await demo.db.query<{ id: number }>(
        `select id from accounts where school_id = $1 and role = 'owner' order by id limit 1`,
        [school],
      );
      const { token } = await inSchool(school, () =>
        demo.services.access.sessions.begin({ account: row!.id }),
      );
      return `vigilum=${token}`;
    };
    const leave = new AbortController();
    const listen = async (school: number) => {
      const heard: string[] = [];
      const answer = await fetch(`${url}/api/events`, {
        headers: { cookie: await cookie(school) },
        signal: leave.signal,
      });
      expect(answer.status).toBe(200);
      void (async () => {
        for await (const part of answer.body!) heard.push(Buffer.from(part).toString());
      })().catch(() => undefined);
      return heard;
    };
    const mat = (name: string) => ({
      ...{ kind: 'mat', name, shelf: '', count: 1, broken: 0, out: 0, beforeMin: 0, afterMin: 0 },
    });
    const [near, other] = [await listen(FIRST), await listen(far.id)];
    await demo.api.post('/api/things').send(mat('Quay mat')).expect(201);
    await far.apis.owner.post('/api/things').send(mat('Far mat')).expect(201);
    const changes = (heard: string[]) => heard.join('').match(/event: changed/g)?.length ?? 0;
    for (let i = 0; i < 100 && (changes(near) < 1 || changes(other) < 1); i++)
      await new Promise((done) => setTimeout(done, 20));
    await new Promise((done) => setTimeout(done, 200));
    expect([changes(near), changes(other)]).toEqual([1, 1]);
    leave.abort();
    server.closeAllConnections();
    server.close();
  });

  it('the office counts, limits and closes; it looks into none, and no school does what is the office’s', async () => {
    const list = async () =>
      ((await demo.api.get('/api/schools').expect(200)).body as { schools: SchoolEntry[] }).schools;
    expect((await list()).find(({ id }) => id === far.id)).toMatchObject({
      slug: 'far-shore',
      office: false,
      removed: false,
      invitedUntil: null,
      seenAt: expect.any(Number),
    });
    const count = async (what: string) =>
      (
        await demo.db.query<{ n: number }>(
          `select count(*)::int as n from ${what} where school_id = $1 and removed_at is null`,
          [far.id],
        )
      )[0]!.n;
    const [classes, robots, accounts] = [
      await count('classes'),
      await count('robots'),
      await count('accounts'),
    ];
    await demo.api
      .patch(`/api/schools/${far.id}`)
      .send({ most: { classes: classes + 1, robots: robots + 2, accounts } })
      .expect(204);
    const klass = (name: string) =>
      far.apis.owner.post('/api/classes').send({
        school: 'Far Shore School',
        name,
        teams: ['Farther', 'Farthest'],
        robots: { kit: 'cobble', cupboard: '', take: 'new' },
      });
    // Six at once, and one of them is the last that is allowed.
    const six = await Promise.all(['a', 'b', 'c', 'd', 'e', 'f'].map((name) => klass(`Far 10${name}`)));
    expect(six.map(({ status }) => status).sort()).toEqual([201, 409, 409, 409, 409, 409]);
    expect((six.find(({ status }) => status === 409)!.body as { detail: string }).detail).toContain(
      `may have ${classes + 1} class`,
    );
    await far.apis.owner
      .post('/api/robots')
      .send({ kit: 'cobble', name: 'Far robot', standIn: true })
      .expect(409);
    const { token } = (await far.apis.owner.post('/api/invitations').send({ role: 'guest' }).expect(201))
      .body as OwnerLink;
    const refused = await stranger(demo)
      .post(`/api/invitations/${token}/acceptance`)
      .send({ name: 'One Too Many', password: PASSWORD })
      .expect(409);
    expect((refused.body as { detail: string }).detail).toContain('account');
    // Another school is as free as before.
    await demo.api.post('/api/robots').send({ kit: 'cobble', name: 'Near robot', standIn: true }).expect(201);
    await demo.api.patch(`/api/schools/${far.id}`).send({ most: {} }).expect(204);

    // Only the office's owners.
    await far.apis.owner.get('/api/schools').expect(403);
    await far.apis.owner.post('/api/schools').send({ slug: 'sly', name: 'Sly' }).expect(403);
    await far.apis.owner
      .patch('/api/schools/1')
      .send({ most: { classes: 0 } })
      .expect(403);
    await far.apis.owner.delete('/api/schools/1').expect(403);
    await demo.api.post('/api/schools').send({ slug: 'far-shore', name: 'Again' }).expect(409);
    await demo.api.post('/api/schools').send({ slug: 'Far Shore', name: 'Again' }).expect(422);
    await demo.api.delete('/api/schools/1').expect(409);

    // Closed: nobody of it is in or comes in, and nothing is lost.
    const third = await secondSchool(demo, 'third', 'Third School');
    await demo.api.delete(`/api/schools/${third.id}`).expect(204);
    await third.apis.owner.get('/api/today').expect(401);
    await third.apis.team.get(`/api/teams/${third.doors.teams[0]!.id}/hour`).expect(401);
    const again = { school: 'third', name: 'Olwen Farshore', password: PASSWORD };
    await stranger(demo).post('/api/sessions').send(again).expect(401);
    await stranger(demo).post('/api/doors').send({ code: third.doors.code }).expect(404);
    await stranger(demo).post('/api/doors/cards').send({ card: third.doors.teams[0]!.card }).expect(404);
    await stranger(demo).post('/api/doors/boards').send({ board: third.doors.board }).expect(404);
    await demo.api.post(`/api/schools/${third.id}/invitations`).send({}).expect(404);
    await demo.api.post(`/api/schools/${third.id}/restoration`).send({}).expect(204);
    await stranger(demo).post('/api/doors').send({ code: third.doors.code }).expect(200);
  });

  it('one of them moves out by a backup of its own, into a data folder', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vigilum-school-'));
    try {
      const file = join(folder, 'far.backup');
      const head = { vigilum: 'test', now: NOW };
      const own = await inSchool(far.id, () => writeBackup(demo.db, file, head));
      const whole = await writeBackup(demo.db, join(folder, 'all.backup'), head);
      const rows = (of: typeof own, table: string) => of.tables.find(({ name }) => name === table)!.rows;
      expect([rows(own, 'schools'), rows(whole, 'schools')]).toEqual([1, 3]);
      const laptop = await openPglite(null);
      await restoreBackup(laptop, file);
      const names = await laptop.query<{ name: string }>('select name from teams order by id limit 2');
      expect(names.map(({ name }) => name)).toEqual(['Fargo', 'Farrow']);
      expect(await laptop.query('select 1 from schools')).toHaveLength(1);
      // New rows are that school's.
      await laptop.query(`insert into classes (school, name) values ('S', 'on the laptop')`);
      expect(await laptop.query('select distinct school_id from classes')).toEqual([{ school_id: far.id }]);
      await laptop.close();
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it('no row of one is open to another, whoever asks for it by whatever route; and no row of another is changed', async () => {
    // Every id that a row of the first school has, by the table; more of what the demo has none of.
    await demo.db.query(
      `insert into days_off (name, from_day, to_day, school_id) values ('Quay day', '2026-05-04', '2026-05-04', 1)`,
    );
    await demo.db.query(
      `insert into own_skills (id, name, shows, needs, lessons, school_id) values ('own-quay', 'Quaying', 'quays', '{}', '[]', 1)`,
    );
    await demo.db.query(
      `insert into homework (work_id, step_id, text, handed_at, school_id) select min(id), 'quay', 'Quay answer', now(), 1 from works`,
    );
    await demo.db.query(
      `insert into kits (slug, name, definition, school_id) select 'quay-kit', 'Quay kit', definition, 1 from kits where slug = 'cobble' and school_id = 1`,
    );
    await demo.db.query(
      `insert into lessons (slug, title, definition, school_id) select 'quay-lesson', 'Quay lesson', definition, 1 from lessons where slug = 'tide-line' and school_id = 1`,
    );
    const ids = new Map<string, number[]>();
    for (const table of await tablesWithSchool(demo)) {
      const rows = await demo.db
        .query<{ id: unknown }>(`select id from ${table} where school_id = 1 order by id limit 3`)
        .catch(() => []);
      const numbers = rows.flatMap(({ id }) => (typeof id === 'number' ? [id] : []));
      if (numbers.length > 0) ids.set(table, numbers);
    }
    const all = [...ids.values()].flat();
    // What only the first school says.
    const shipped = JSON.stringify([harbourLessons, shippedKits]);
    const words = (
      await demo.db.query<{ word: string }>(
        `select name as word from classes where school_id = 1 union select name from teams where school_id = 1
         union select name from accounts where school_id = 1 union select name from robots where school_id = 1
         union select name from things where school_id = 1 union select name from terms where school_id = 1
         union select 'Quay' except select name from accounts where school_id <> 1`,
      )
    )
      .map(({ word }) => word)
      .filter((word) => word.length > 3 && !shipped.includes(word) && !/^(Cobble|Skiff)/.test(word));
    expect(words.length).toBeGreaterThan(15);

    const tableOf = (area: string) => area.replaceAll('-', '_');
    const placed = (path: string, random: (n: number) => number): string => {
      const [, area = ''] = path.split('/');
      return path.replaceAll(/:\w+/g, (name) => {
        if (name === ':slug') return area === 'kits' ? 'quay-kit' : 'quay-lesson';
        if (name === ':skill') return 'own-quay';
        if (name === ':socket') return 'K3';
        if (name === ':version') return '1';
        if (name === ':token' || name === ':name') return 'none';
        const table =
          name === ':id'
            ? tableOf(area)
            : {
                ':team': 'teams',
                ':class': 'classes',
                ':term': 'terms',
                ':turn': 'mat_turns',
                ':member': 'team_members',
              }[name];
        const of = (table && ids.get(table)) ?? all;
        return String(of[random(of.length)]);
      });
    };
    const random = dice(7);
    const skipped: readonly string[] = [
      'GET /events',
      'GET /robots/:id/live',
      'DELETE /sessions/mine',
      'DELETE /sessions',
      'PUT /me/password',
    ];
    const routes = (Object.keys(access) as (Route | OtherRoute)[]).filter(
      (route) => !skipped.includes(route),
    );
    const before = await sumsOf(demo, FIRST);
    const found: string[] = [];
    let asked = 0;
    const codes: Record<number, number> = {};
    for (const [role, api] of Object.entries(far.apis)) {
      for (const route of routes) {
        const [method, path] = route.split(' ') as [string, string];
        const shape = (requests as Partial<Record<string, Joi.Schema>>)[route]?.describe();
        // Bodies as the contract describes them, with ids of the other school wherever there is an id.
        for (let i = 0; i < (shape ? 3 : 1); i++) {
          const url = `/api${placed(path, random)}`;
          const call = api[method.toLowerCase() as 'get'](url);
          const answer = await (method === 'GET' || method === 'DELETE'
            ? call
            : call.send(shape ? (valueFor(shape, random, { slip: 0, ids: all }) as object) : {}));
          asked++;
          codes[answer.status] = (codes[answer.status] ?? 0) + 1;
          const says = answer.text ?? '';
          const said = words.filter((word) => says.includes(word));
          if (said.length > 0) found.push(`${role}: ${route} told ${said.join(', ')}`);
          if (answer.status >= 500) found.push(`${role}: ${route} answered ${answer.status} ${says}`);
          // Of what the first school has none, the id may be one of its own.
          const names = /:slug\b/.test(path) || (/:id\b/.test(path) && ids.has(tableOf(path.split('/')[1]!)));
          if (names && method === 'GET' && answer.status < 300) found.push(`${role}: ${route} opened ${url}`);
        }
      }
    }
    console.log(
      `${asked} requests of ${routes.length} routes in 5 roles of another school: ${JSON.stringify(codes)}`,
    );
    expect(found).toEqual([]);
    expect(await sumsOf(demo, FIRST)).toEqual(before);
    expect(codes[404]).toBeGreaterThan(150);
    // So many wrong codes and names would have to wait now.
    await demo.db.query('delete from wrong_tries');
  }, 240_000);

  it('no row points to one of another school', async () => {
    const links = await demo.db.query<{ child: string; column: string; parent: string }>(
      `select k.conrelid::regclass::text as child, a.attname as column, k.confrelid::regclass::text as parent
         from pg_constraint k join pg_attribute a on a.attrelid = k.conrelid and a.attnum = k.conkey[1]
        where k.contype = 'f' and array_length(k.conkey, 1) = 1`,
    );
    expect(links.length).toBeGreaterThan(40);
    for (const { child, column, parent } of links) {
      const key = parent === 'script_documents' ? 'work_id' : 'id';
      const rows = await demo.db.query(
        `select 1 from ${child} c join ${parent} p on p.${key} = c.${column} where c.school_id <> p.school_id limit 1`,
      );
      expect([child, column, rows.length]).toEqual([child, column, 0]);
    }
  });

  it('are refused where the database would not keep them apart', async () => {
    const { url, drop } = await ownDemo();
    const admin = new URL(url);
    admin.username = 'postgres';
    const above = await openPostgres(admin.href);
    const sessions = new Sessions(above, () => NOW);
    const services = { ...demo.services, db: above, access: { ...demo.services.access, sessions } };
    const app = createApp({ services, log: () => undefined });
    const [row] = await above.query<{ id: number }>('select id from accounts order by id limit 1');
    const { token } = await sessions.begin({ account: row!.id });
    const refused = await signedIn(app, `vigilum=${token}`)
      .post('/api/schools')
      .send({ slug: 'other', name: 'Other' });
    expect([refused.status, (refused.body as { title?: string }).title]).toEqual([409, 'Not kept apart']);
    await above.close();
    await drop();
  });
});

it('every table holds schools apart, but for those that hold nothing of one', async () => {
  const db = await emptyDatabase();
  await migrate(db);
  const open = await db.query<{ name: string }>(
    `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname = 'public' and c.relkind = 'r'
        and not (c.relrowsecurity and c.relforcerowsecurity and exists (select 1 from pg_policy p where p.polrelid = c.oid))
      order by 1`,
  );
  expect(open.map(({ name }) => name)).toEqual(['migrations', 'wrong_tries']);
  await db.close();
});

describe('a data folder', () => {
  const folder = onPostgres ? it.skip : it;
  folder('holds one school, which is its own office', async () => {
    const demo = await demoApp();
    expect((await demo.api.get('/api/me').expect(200)).body).toMatchObject({ office: true, several: false });
    const refused = await demo.api.post('/api/schools').send({ slug: 'other', name: 'Other' }).expect(409);
    expect((refused.body as { detail: string }).detail).toContain('PostgreSQL');
    const { schools } = (await demo.api.get('/api/schools').expect(200)).body as { schools: SchoolEntry[] };
    expect(schools).toHaveLength(1);
    // Its limits hold as well.
    await demo.api
      .patch(`/api/schools/${schools[0]!.id}`)
      .send({ most: { robots: 1 } })
      .expect(204);
    await demo.api.post('/api/robots').send({ kit: 'cobble', name: 'More', standIn: true }).expect(409);
    await demo.close();
  });
});
