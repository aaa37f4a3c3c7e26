import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { OwnerLink, SchoolEntry } from '@vigilum/contract/types';
import { writeBackup } from '../backup/write.ts';
import { restoreBackup } from '../backup/read.ts';
import { createApp } from '../app.ts';
import { Sessions } from '../access/sessions.ts';
import { everywhere, inSchool, nowhere } from '../db/reach.ts';
import { openPglite } from '../db/pglite.ts';
import { openPostgres } from '../db/postgres.ts';
import { httpServer } from '../http/listen.ts';
import { ownDemo } from './databases.ts';
import { demoApp, NOW, onPostgres, signedIn, type DemoApp } from './harness.ts';
import { accept, FIRST, PASSWORD, secondSchool, stranger } from './secondSchool.ts';

// Several schools on one database, as a district has them. Only PostgreSQL holds them: npm run test:postgres.
const several = onPostgres ? describe : describe.skip;

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
    await stranger(demo)
      .post('/api/first-account')
      .send({ name: 'Sly', password: PASSWORD, code: 'x' })
      .expect(422);
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
