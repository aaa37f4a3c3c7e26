import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Express } from 'express';
import { access, type OtherRoute } from '@vigilum/contract/access';
import { pathOf } from '@vigilum/contract/client';
import { isAccount, isStaff, roles, type Role } from '@vigilum/contract/roles';
import type { Doors, Me, Route, Workspace } from '@vigilum/contract/types';
import { Brake, waitAfter, type Rule } from '../access/brake.ts';
import { firstCode } from '../access/firstCode.ts';
import { concerns } from '../http/events.ts';
import { Problem } from '../http/problems.ts';
import type { Storage } from '../http/services.ts';
import { demoApp, NOW, signedIn, type DemoApp } from './harness.ts';

let demo: DemoApp;
type Api = ReturnType<typeof signedIn>;
const apis = {} as Record<Role, Api>;

/** Somebody who shows nothing. */
const stranger = (app: Express): Api => signedIn(app, 'other=1');

beforeAll(async () => {
  demo = await demoApp(
    { now: NOW },
    {
      folder: '/nowhere',
      room: { freeMb: () => Infinity, refusal: () => null },
      keeper: { dir: '/nowhere', list: () => [] } as unknown as Storage['keeper'],
      addresses: () => ['http://10.0.0.7:4400'],
      isOurs: () => true,
    },
  );
  const account = async (name: string, role: string) =>
    (
      await demo.db.query<{ id: number }>(
        'insert into accounts (name, role, made_at) values ($1, $2, $3) returning id',
        [name, role, NOW.toISOString()],
      )
    )[0]!.id;
  apis.owner = demo.api;
  apis.teacher = await demo.as({ account: await account('Second Teacher', 'teacher') });
  apis.guest = await demo.as({ account: await account('Guest', 'guest') });
  apis.team = await demo.as({ team: 1 });
  apis.board = await demo.as({ board: 1 });
  apis.nobody = stranger(demo.app);
});
afterAll(() => demo.close());

/** A request of a route in which every name leads nowhere, so that what is let through changes nothing. */
function ask(api: Api, route: string) {
  const [method, path] = route.split(' ') as [string, string];
  const nowhere = pathOf(`${method} ${path}` as Route, {
    id: 999_999,
    slug: 'no-such-lesson',
    token: 'no-such-token',
    version: 1,
    class: 999_999,
    team: 999_999,
    socket: 'K9',
    tablet: 999_999,
    name: 'none',
  });
  const verb = method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  const request = api[verb](`/api${nowhere}`);
  return method === 'GET' || method === 'DELETE' ? request : request.send({});
}
const refused = (status: number) => status === 401 || status === 403;
const allRoutes = Object.keys(access) as (Route | OtherRoute)[];
const streams: readonly string[] = ['GET /events', 'GET /robots/:id/live'];
/** Ends the session that asks. */
const farewells: readonly string[] = ['DELETE /sessions/mine', 'DELETE /sessions'];

describe('who may ask for what', () => {
  const asked = allRoutes.filter((route) => !streams.includes(route) && !farewells.includes(route));
  it.each(roles)('every route as %s: let in where the table says so, 401 or 403 elsewhere', async (role) => {
    const wrong: string[] = [];
    for (const route of asked) {
      const { status } = await ask(apis[role], route);
      // What leads nowhere is not a team’s own; whether it gets in with its own things is asked below.
      if (role === 'team' && access[route].includes('team')) continue;
      const open = access[route].includes(role);
      const other = route === 'POST /doors/teams' || route === 'PUT /me/password';
      if (!other && refused(status) === open) wrong.push(`${route}: ${status}`);
      if (!open && status !== (role === 'nobody' ? 401 : 403)) wrong.push(`${route}: ${status}`);
    }
    expect(wrong).toEqual([]);
  });

  it('guests change nothing, boards see the board, nobody comes further than the doors', () => {
    const changes = allRoutes.filter((route) => !route.startsWith('GET '));
    const of = (role: Role, from: readonly string[]) =>
      from.filter((route) => access[route as Route].includes(role));
    const doors = [
      'POST /first-account',
      'POST /sessions',
      'DELETE /sessions/mine',
      'POST /invitations/:token/acceptance',
      'POST /doors',
      'POST /doors/teams',
      'POST /doors/cards',
      'POST /doors/boards',
    ];
    expect(of('nobody', changes)).toEqual(doors);
    expect(of('board', changes)).toEqual(doors);
    expect(of('guest', changes).filter((route) => !doors.includes(route))).toEqual([
      'DELETE /sessions',
      'POST /sessions/mine/proofs',
      'PUT /me/password',
      // Draws a course and keeps nothing.
      'POST /course-families/:id/builds',
    ]);
    expect(of('nobody', allRoutes).filter((route) => route.startsWith('GET '))).toEqual([
      'GET /health',
      'GET /me',
      'GET /invitations/:token',
    ]);
    for (const route of allRoutes) {
      // An owner may all that a teacher may, a teacher all that a guest may.
      if (access[route].includes('guest'))
        expect([route, access[route].includes('teacher')]).toEqual([route, true]);
      if (access[route].includes('teacher'))
        expect([route, access[route].includes('owner')]).toEqual([route, true]);
      if (access[route].includes('nobody')) expect(access[route]).toEqual(roles);
    }
    expect(roles.filter(isAccount)).toEqual(['owner', 'teacher', 'guest']);
    expect(roles.filter(isStaff)).toEqual(['owner', 'teacher']);
  });

  it('names no route that is not there, and every route that is', async () => {
    const { allRoutes: known } = await import('@vigilum/contract/schemas');
    expect(Object.keys(known).filter((route) => !(route in access))).toEqual([]);
    expect(allRoutes.filter((route) => !(route in known))).toEqual([
      'GET /health',
      'GET /events',
      'GET /backups/:name',
      'GET /calendars/:class',
      'GET /robots/:id/live',
    ]);
  });
});

describe('a team’s tablet', () => {
  const own = '/api/teams/1/lessons/tide-line';
  const other = '/api/teams/2/lessons/tide-line';

  it('gets its lesson without a model answer or anything that tells of one', async () => {
    const text = async (api: Api) => (await api.get(own).expect(200)).text;
    const teachers = JSON.parse(await text(apis.teacher)) as Workspace;
    const teams = await text(apis.team);
    const { lesson } = JSON.parse(teams) as Workspace;
    expect(lesson.modelScript).toBe('');
    for (const key of ['robot', 'faults', 'rightToo', 'accepts', 'twist', 'origin'])
      expect(lesson).not.toHaveProperty(key);
    // Every answer that the lesson knows, line by line: none but its first lines and what the team wrote itself is in what it gets.
    const known = [
      teachers.lesson.modelScript,
      ...(teachers.lesson.rightToo ?? []).map(({ script }) => script),
    ];
    expect(teachers.lesson.modelScript.length).toBeGreaterThan(20);
    const { script: _own, ...given } = JSON.parse(teams) as Workspace;
    for (const answer of known)
      expect(JSON.stringify(given)).not.toContain(JSON.stringify(answer).slice(1, -1));
    // What it works with is there.
    expect(lesson.expectations).toEqual(teachers.lesson.expectations);
    expect(lesson.steps).toEqual(teachers.lesson.steps);
  });

  it('does its own work: reads, writes, tries, logs, removes and brings back', async () => {
    const whose = { team: 1, lesson: 'tide-line' };
    const [{ robot }] = (await demo.db.query<{ robot: number }>(
      'select robot_id as robot from teams where id = 1',
    )) as [{ robot: number }];
    const set = {
      socket: 'K3',
      kind: 'light',
      surface: 'tide line',
      values: Array.from({ length: 20 }, (_, i) => 20 + (i % 3)),
    };
    const read = await apis.team
      .post(`/api/robots/${robot}/sample-sets`)
      .send({ ...set, whose })
      .expect(201);
    const { id } = read.body as { id: number };
    await apis.team.delete(`/api/sample-sets/${id}`).expect(204);
    await apis.team.post(`/api/sample-sets/${id}/restoration`).send({}).expect(204);
    await apis.team.put(`${own}/place`).send({ step: 'read' }).expect(204);
    const trial = await apis.team
      .post(`${own}/floor-trials`)
      .send({ pastMm: 12, rested: true, tookS: 3 })
      .expect(201);
    const { id: logged } = trial.body as { id: number };
    await apis.team.delete(`/api/floor-trials/${logged}`).expect(204);
    await apis.team.get(`/api/robots/${robot}`).expect(200);
    await apis.team.get('/api/teams/1').expect(200);
    await apis.team.get('/api/kits/cobble/phrasebooks').expect(200);
    await apis.team.get('/api/kept-versions').query({ of: 'note', key: '1/tide-line/predict@1' }).expect(200);
    expect((await apis.team.get('/api/me').expect(200)).body as Me).toMatchObject({
      role: 'team',
      name: 'Gannet',
      team: { id: 1, class: '7 Kittiwake' },
    });
  });

  it('does none of what a tablet could do before', async () => {
    const [{ robot }] = (await demo.db.query<{ robot: number }>(
      'select robot_id as robot from teams where id = 2',
    )) as [{ robot: number }];
    const [theirs] = await demo.db.query<{ id: number }>(
      'select s.id from sample_sets s join works w on w.id = s.work_id where w.team_id = 2 limit 1',
    );
    const [trial] = await demo.db.query<{ id: number }>(
      'select f.id from floor_trials f join works w on w.id = f.work_id where w.team_id <> 1 limit 1',
    );
    const values = Array.from({ length: 20 }, () => 20);
    const attempts: [string, ReturnType<Api['get']>][] = [
      ['reads another team', apis.team.get(other)],
      ['reads another script', apis.team.get(`${other}/script`)],
      ['reads another version', apis.team.get(`${other}/script-versions/1`)],
      ['reads all notes', apis.team.get('/api/periods/1/notes')],
      [
        'reads others’ earlier notes',
        apis.team.get('/api/kept-versions').query({ of: 'note', key: '2/tide-line/predict@1' }),
      ],
      ['reads kits’ earlier states', apis.team.get('/api/kept-versions').query({ of: 'kit', key: 'cobble' })],
      ['reads the model answer', apis.team.get('/api/lessons/tide-line')],
      ['reads the bench', apis.team.get('/api/lessons/tide-line/bench')],
      ['reads the draft', apis.team.get('/api/lessons/tide-line/draft')],
      ['reads all lessons', apis.team.get('/api/lessons')],
      [
        'saves in another name',
        apis.team.post(`${other}/script-versions`).send({ text: 'stop', basedOn: 1 }),
      ],
      ['types in another script', apis.team.post(`${other}/script-updates`).send({ from: 0, updates: [] })],
      ['deletes others’ readings', apis.team.delete(`/api/sample-sets/${theirs!.id}`)],
      ['deletes others’ trials', apis.team.delete(`/api/floor-trials/${trial!.id}`)],
      ['swaps robots', apis.team.put('/api/teams/1/robot').send({ robot })],
      ['reads with another robot', apis.team.get(`/api/robots/${robot}`)],
      ['moves another robot', apis.team.post(`/api/robots/${robot}/hand`).send({ put: 'air' })],
      [
        'reads for another team',
        apis.team.post('/api/robots/1/sample-sets').send({
          socket: 'K3',
          kind: 'light',
          surface: 'x',
          values,
          whose: { team: 2, lesson: 'tide-line' },
        }),
      ],
      [
        'reads for whoever drives the robot',
        apis.team
          .post('/api/robots/1/sample-sets')
          .send({ socket: 'K3', kind: 'light', surface: 'x', values }),
      ],
      [
        'cuts the expectations',
        apis.team.patch('/api/lessons/tide-line').send({ revision: 1, expectations: [] }),
      ],
      ['removes the lesson', apis.team.delete('/api/lessons/tide-line')],
      ['ends the hour', apis.team.patch('/api/periods/1').send({ action: 'end' })],
      ['sees today', apis.team.get('/api/today')],
      ['sees the doors', apis.team.get('/api/classes/1/doors')],
      ['renames itself', apis.team.patch('/api/teams/1').send({ name: 'Best' })],
      ['backs up', apis.team.post('/api/backups').send({})],
    ];
    for (const [what, attempt] of attempts) expect([what, (await attempt).status]).toEqual([what, 403]);
    // A lesson that its class has not had is not there for it.
    await apis.team.get('/api/teams/1/lessons/guard-the-island').expect(404);
    // Nothing of it was done.
    expect((await demo.api.get('/api/teams/2/lessons/tide-line').expect(200)).body).toMatchObject({
      robot: { id: robot },
    });
  });

  it('hears of its own changes and no others', () => {
    const gannet = { role: 'team' as const, team: 1, klass: 1, session: 1, school: 1 };
    const evidence = (team: number) => ({
      what: 'evidence' as const,
      team,
      lesson: 'x',
      part: 'try' as const,
    });
    expect(concerns(gannet, evidence(1))).toBe(true);
    expect(concerns(gannet, evidence(2))).toBe(false);
    expect(concerns(gannet, { what: 'robot', robot: 5, teams: [1], part: 'readings' })).toBe(true);
    expect(concerns(gannet, { what: 'robot', robot: 6, teams: [2], part: 'readings' })).toBe(false);
    expect(concerns(gannet, { what: 'class', class: 2, part: 'period' })).toBe(false);
    expect(concerns(gannet, { what: 'course', course: 2 })).toBe(false);
    expect(concerns({ role: 'nobody' }, evidence(1))).toBe(false);
    const guest = { role: 'guest' as const, account: 3, name: '', session: 1, school: 1 };
    expect(concerns({ ...guest, role: 'teacher' }, evidence(2))).toBe(true);
    expect(concerns(guest, evidence(2))).toBe(false);
    const seen = { klass: (id: number) => id === 2, team: (id: number) => id === 2 };
    expect(concerns(guest, evidence(2), seen)).toBe(true);
    expect(concerns(guest, evidence(1), seen)).toBe(false);
    expect(concerns(guest, { what: 'class', class: 2, part: 'period' }, seen)).toBe(true);
    expect(concerns(guest, { what: 'class', class: 1, part: 'period' }, seen)).toBe(false);
    const robot = { what: 'robot' as const, robot: 5, part: 'readings' as const };
    expect(concerns(guest, { ...robot, teams: [2] }, seen)).toBe(true);
    expect(concerns(guest, { ...robot, teams: [2, 1] }, seen)).toBe(false);
  });
});

describe('the doors of a class', () => {
  const doors = async () => (await demo.api.get('/api/classes/1/doors').expect(200)).body as Doors;

  it('open by the code however it is typed, and by the team’s picture', async () => {
    const { code, teams } = await doors();
    expect(code).toMatch(/^([bdfgklmnprstvz][aeiou]){2} ([bdfgklmnprstvz][aeiou]){2}$/);
    const tablet = stranger(demo.app);
    for (const typed of [code, code.toUpperCase(), code.replace(' ', ''), ` ${code.replace(' ', '-')} `])
      expect((await tablet.post('/api/doors').send({ code: typed }).expect(200)).body).toMatchObject({
        class: '7 Kittiwake',
      });
    const [gannet, plover] = teams;
    const wrong = gannet!.picture === 'ship' ? 'fish' : 'ship';
    await tablet.post('/api/doors/teams').send({ code, team: 1, picture: wrong }).expect(403);
    const entered = await tablet
      .post('/api/doors/teams')
      .send({ code, team: 1, picture: gannet!.picture })
      .expect(201);
    expect(entered.body).toMatchObject({ role: 'team', name: 'Gannet' });
    const [cookie] = entered.headers['set-cookie'] as unknown as string[];
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const inside = signedIn(demo.app, cookie!.split(';')[0]!);
    await inside.get('/api/teams/1/lessons/tide-line').expect(200);
    await inside.get('/api/teams/2/lessons/tide-line').expect(403);
    // A team of another class does not open by this code.
    await tablet.post('/api/doors/teams').send({ code, team: 99_999, picture: plover!.picture }).expect(404);
    // What is kept of a session does not open anything.
    const kept = await demo.db.query<{ token_hash: string }>('select token_hash from sessions');
    for (const { token_hash } of kept) expect(cookie).not.toContain(token_hash);
  });

  it('a new card voids the old one and signs out whoever came by it; other teams stay', async () => {
    const before = (await doors()).teams;
    const entered = await stranger(demo.app)
      .post('/api/doors/cards')
      .send({ card: before[2]!.card })
      .expect(201);
    const inside = signedIn(
      demo.app,
      (entered.headers['set-cookie'] as unknown as string[])[0]!.split(';')[0]!,
    );
    const beside = await demo.as({ team: 4 });
    await inside.get('/api/teams/3').expect(200);
    const made = await demo.api.post('/api/teams/3/cards').send({}).expect(201);
    await inside.get('/api/teams/3').expect(401);
    await beside.get('/api/teams/4').expect(200);
    await stranger(demo.app).post('/api/doors/cards').send({ card: before[2]!.card }).expect(404);
    const { card, picture } = made.body as { card: string; picture: string };
    expect(picture).not.toBe(before[2]!.picture);
    await stranger(demo.app).post('/api/doors/cards').send({ card }).expect(201);
    // One of two tablets is lost: it is signed out, the other goes on.
    const [lost, kept] = [await demo.as({ team: 3 }), await demo.as({ team: 3 })];
    const { tablets } = (await doors()).teams[2]!;
    expect(tablets).toHaveLength(3);
    await demo.api.delete(`/api/teams/3/tablets/${tablets.at(-2)!.id}`).expect(204);
    expect([(await lost.get('/api/teams/3')).status, (await kept.get('/api/teams/3')).status].sort()).toEqual(
      [200, 401],
    );
    // The tablet of another team is not signed out by way of this one.
    const [other] = (await doors()).teams[3]!.tablets;
    await demo.api.delete(`/api/teams/3/tablets/${other!.id}`).expect(204);
    await beside.get('/api/teams/4').expect(200);
    // All tablets of a team at once: its card still lets them in.
    await demo.api.delete('/api/teams/4/tablets').expect(204);
    await beside.get('/api/teams/4').expect(401);
    await stranger(demo.app).post('/api/doors/cards').send({ card: before[3]!.card }).expect(201);
  });

  it('another code or board link shuts the old one', async () => {
    const { code, board } = await doors();
    const projector = await stranger(demo.app).post('/api/doors/boards').send({ board }).expect(201);
    expect(projector.body).toMatchObject({ role: 'board', name: '7 Kittiwake' });
    const shown = signedIn(
      demo.app,
      (projector.headers['set-cookie'] as unknown as string[])[0]!.split(';')[0]!,
    );
    const renewed = (await demo.api.post('/api/classes/1/codes').send({}).expect(201)).body as {
      code: string;
    };
    expect(renewed.code).not.toBe(code);
    await stranger(demo.app).post('/api/doors').send({ code }).expect(404);
    await shown.get('/api/today').expect(403);
    await demo.api.post('/api/classes/1/board-links').send({}).expect(201);
    await shown.get('/api/today').expect(401);
    await stranger(demo.app).post('/api/doors/boards').send({ board }).expect(404);
  });

  it('a team that was removed, or whose class was, is out', async () => {
    const tablet = await demo.as({ team: 8 });
    await tablet.get('/api/teams/8').expect(200);
    await demo.api.delete('/api/teams/8').expect(204);
    // What was found a moment ago is believed for five seconds.
    await demo.services.access.sessions.forget();
    await tablet.get('/api/teams/8').expect(401);
    await demo.api.post('/api/teams/8/restoration').send({}).expect(204);
    await demo.services.access.sessions.forget();
    await tablet.get('/api/teams/8').expect(200);
  });
});

describe('accounts', () => {
  const password = 'three quiet harbours';
  const entered = (answer: { headers: Record<string, unknown> }) =>
    signedIn(demo.app, (answer.headers['set-cookie'] as string[])[0]!.split(';')[0]!);

  it('come by invitation, once; a short password is told so', async () => {
    const { token } = (await demo.api.post('/api/invitations').send({ role: 'guest' }).expect(201)).body as {
      token: string;
    };
    const guest = stranger(demo.app);
    expect((await guest.get(`/api/invitations/${token}`).expect(200)).body).toMatchObject({
      role: 'guest',
      by: 'Demo Teacher',
    });
    const accept = (name: string, secret: string) =>
      guest.post(`/api/invitations/${token}/acceptance`).send({ name, password: secret });
    expect((await accept('Ida Brook', 'short').expect(422)).text).toMatch(/at least 10 characters/);
    for (const easy of ['password123', '1234567890', 'qwertyuiop', 'Ida Brook 7', 'vigilum2026'])
      expect((await accept('Ida Brook', easy).expect(422)).text).toMatch(/first that somebody would try/);
    await accept('demo teacher', password).expect(409);
    const answer = await accept('Ida Brook', password).expect(201);
    expect(answer.body).toMatchObject({ role: 'guest', name: 'Ida Brook' });
    await accept('Ida Again', password).expect(404);
    await entered(answer).get('/api/today').expect(200);
    await entered(answer).post('/api/periods').send({}).expect(403);
    const taken = (await demo.api.post('/api/invitations').send({ role: 'teacher' }).expect(201)).body as {
      id: number;
      token: string;
    };
    await demo.api.delete(`/api/invitations/${taken.id}`).expect(204);
    await guest.get(`/api/invitations/${taken.token}`).expect(404);
    // The password is nowhere as it is.
    const rows = await demo.db.query<{ password: string | null }>('select password from accounts');
    expect(
      rows.filter((row) => row.password !== null).every((row) => row.password!.startsWith('$argon2id$')),
    ).toBe(true);
  });

  it('sign in and out, here and everywhere; a new password signs the others out', async () => {
    const signIn = (name: string, secret: string) =>
      stranger(demo.app).post('/api/sessions').send({ name, password: secret });
    const [here, there] = [
      entered(await signIn('IDA BROOK', password).expect(201)),
      entered(await signIn('ida brook', password).expect(201)),
    ];
    await here
      .put('/api/me/password')
      .send({ old: 'not that one', password: 'another harbour song' })
      .expect(422);
    await here.put('/api/me/password').send({ old: password, password: 'another harbour song' }).expect(204);
    await there.get('/api/today').expect(401);
    await here.get('/api/today').expect(200);
    const third = entered(await signIn('Ida Brook', 'another harbour song').expect(201));
    await here.delete('/api/sessions').expect(204);
    await third.get('/api/today').expect(401);
    const again = entered(await signIn('Ida Brook', 'another harbour song').expect(201));
    await again.delete('/api/sessions/mine').expect(204);
    await again.get('/api/today').expect(401);
  });

  it('are slowed down after wrong passwords, whether the name is known or not', async () => {
    const tries = [];
    for (let i = 0; i < 6; i++)
      tries.push(
        (
          await stranger(demo.app)
            .post('/api/sessions')
            .send({ name: 'Nobody Known', password: `wrong ${i}` })
        ).status,
      );
    expect(tries).toEqual([401, 401, 401, 401, 401, 429]);
    expect([0, 4, 5, 6, 8, 40].map(waitAfter)).toEqual([0, 0, 2, 4, 16, 300]);
    let now = 0;
    const brake = new Brake(demo.db, { now: () => now });
    const slower = (...keys: string[]): Rule[] => keys.map((key) => ({ key, most: 'slower' }));
    const refuse = () => Promise.reject(new Problem(401, 'No', 'wrong'));
    const wrong = () => brake.attempt(slower('a'), refuse);
    const right = (...keys: string[]) => brake.attempt(slower('a', ...keys), () => Promise.resolve('in'));
    for (let i = 0; i < 5; i++) await expect(wrong()).rejects.toThrow('wrong');
    await expect(right('b')).rejects.toThrow(/Wait 2 s/);
    now = 1999;
    await expect(right()).rejects.toThrow(/Wait 1 s/);
    now = 2000;
    expect(await right()).toBe('in');
    await expect(wrong()).rejects.toThrow('wrong');
    expect(await right()).toBe('in');
    // After an hour all is forgotten.
    for (let i = 0; i < 6; i++, now += 5000) await expect(wrong()).rejects.toThrow('wrong');
    now += 3_600_001;
    for (let i = 0; i < 4; i++) await expect(wrong()).rejects.toThrow('wrong');
    expect(await right()).toBe('in');
    // Nobody's name or address lies in the database.
    await expect(brake.attempt(slower('name Ida Brook'), refuse)).rejects.toThrow();
    expect(JSON.stringify(await demo.db.query('select * from wrong_tries'))).not.toMatch(/Ida/);
  });

  it('forty guesses at the same moment get no further than forty one after the other', async () => {
    const guesses = await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        stranger(demo.app)
          .post('/api/sessions')
          .send({ name: 'Many At Once', password: `guess ${i}` })
          .set('x-forwarded-for', `10.0.0.${i}`),
      ),
    );
    const looked = guesses.filter(({ status }) => status === 401).length;
    expect(looked).toBeLessThanOrEqual(5);
    expect(guesses.filter(({ status }) => status === 429).length).toBe(40 - looked);
    await demo.db.query('delete from wrong_tries');
  });

  it('right ones are never counted, however many come at once', async () => {
    const brake = new Brake(demo.db);
    const rules: Rule[] = [
      { key: 'r', most: 2 },
      { key: 's', most: 'slower' },
    ];
    const right = () => brake.attempt(rules, () => Promise.resolve(1));
    const inside = await Promise.all(Array.from({ length: 120 }, right));
    expect(inside.every((one) => one === 1)).toBe(true);
    // A fault of ours is nobody's wrong guess.
    await expect(brake.attempt(rules, () => Promise.reject(new Error('ours')))).rejects.toThrow('ours');
    expect(await right()).toBe(1);
  });

  it('a budget is not given back by a right one, and is over after an hour', async () => {
    for (const hasRoom of [true, false]) {
      let now = 1_000_000;
      const brake = new Brake(demo.db, { now: () => now, hasRoom: () => hasRoom });
      const rules: Rule[] = [{ key: `budget ${hasRoom}`, most: 3 }];
      const wrong = () => brake.attempt(rules, () => Promise.reject(new Problem(404, 'No', 'wrong')));
      const right = () => brake.attempt(rules, () => Promise.resolve('in'));
      for (let i = 0; i < 3; i++, now += 1000) {
        expect(await right()).toBe('in');
        await expect(wrong()).rejects.toThrow('wrong');
      }
      await expect(right()).rejects.toThrow(/Wait 60 minutes/);
      now += 3_596_000;
      await expect(right()).rejects.toThrow(/Wait 1 s/);
      now += 1001;
      expect(await right()).toBe('in');
      await expect(wrong()).rejects.toThrow('wrong');
      expect(await right()).toBe('in');
    }
    await demo.db.query('delete from wrong_tries');
  });

  it('what one child gets wrong at the school’s address keeps no teacher out', async () => {
    const device = async () => {
      const answer = await stranger(demo.app).get('/api/me').expect(200);
      return answer.headers['set-cookie']![0]!.split(';')[0]!;
    };
    const [childs, teachers] = [await device(), await device()];
    expect(childs).not.toBe(teachers);
    const signIn = (cookie: string, name: string, secret: string) =>
      signedIn(demo.app, cookie).post('/api/sessions').send({ name, password: secret });
    for (let i = 0; i < 20; i++) await signIn(childs, i % 2 ? 'Ida Brook' : `Name ${i}`, 'guess');
    await signIn(childs, 'Ida Brook', 'another harbour song').expect(429);
    await signIn(teachers, 'Ida Brook', 'another harbour song').expect(201);
    // From then on nothing at all that others do there holds this browser up.
    await demo.db.query(`update wrong_tries set wrong = 1000, until = now() + interval '1 hour'`);
    await signIn(teachers, 'Ida Brook', 'another harbour song').expect(201);
    await demo.db.query('delete from wrong_tries');
  });

  it('guessing class codes is stopped by the tenth wrong one, right ones in between or not', async () => {
    const doors = (await demo.api.get('/api/classes/1/doors').expect(200)).body as Doors;
    const tries: number[] = [];
    const ask = (code: string, api = stranger(demo.app)) => api.post('/api/doors').send({ code });
    for (let i = 0; i < 48; i++) {
      if (i % 5 === 4) await ask(doors.code);
      tries.push((await ask(`bada bad${'aeiou'[i % 5]}`)).status);
    }
    expect(tries.indexOf(429)).toBe(9);
    expect(tries.slice(9).every((status) => status === 429)).toBe(true);
    await ask(doors.code).expect(429);
    // At the same address a teacher signs in, a tablet comes in by its card, and another browser by the code.
    const me = await stranger(demo.app).get('/api/me');
    const other = signedIn(demo.app, me.headers['set-cookie']![0]!.split(';')[0]!);
    await ask(doors.code, other).expect(200);
    await stranger(demo.app).post('/api/doors/cards').send({ card: doors.teams[0]!.card }).expect(201);
    await stranger(demo.app)
      .post('/api/sessions')
      .send({ name: 'Ida Brook', password: 'another harbour song' })
      .expect(201);
    await demo.db.query('delete from wrong_tries');
  });

  it('120 right cards at once are all let in', async () => {
    const { teams } = (await demo.api.get('/api/classes/1/doors').expect(200)).body as Doors;
    const answers = await Promise.all(
      Array.from({ length: 120 }, (_, i) =>
        stranger(demo.app)
          .post('/api/doors/cards')
          .send({ card: teams[i % teams.length]!.card }),
      ),
    );
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 201));
  });

  it('a school keeps an owner; roles, removal and recovery take effect at once', async () => {
    const { accounts } = (await demo.api.get('/api/accounts').expect(200)).body as {
      accounts: { id: number; name: string }[];
    };
    const id = (name: string) => accounts.find((one) => one.name === name)!.id;
    await demo.api
      .patch(`/api/accounts/${id('Demo Teacher')}`)
      .send({ role: 'guest' })
      .expect(409);
    await demo.api.delete(`/api/accounts/${id('Demo Teacher')}`).expect(409);
    const ida = await demo.as({ account: id('Ida Brook') });
    await ida.get('/api/accounts').expect(403);
    await demo.api
      .patch(`/api/accounts/${id('Ida Brook')}`)
      .send({ role: 'owner' })
      .expect(204);
    await ida.get('/api/accounts').expect(200);
    const { password: spoken } = (
      await demo.api
        .post(`/api/accounts/${id('Ida Brook')}/recoveries`)
        .send({})
        .expect(201)
    ).body as { password: string };
    expect(spoken).toMatch(/^([a-z]{4}-){3}[a-z]{4}$/);
    await ida.get('/api/accounts').expect(401);
    await new Promise((done) => setTimeout(done, 2100));
    await stranger(demo.app).post('/api/sessions').send({ name: 'Ida Brook', password: spoken }).expect(201);
    const again = await demo.as({ account: id('Ida Brook') });
    await demo.api.delete(`/api/accounts/${id('Ida Brook')}`).expect(204);
    await again.get('/api/today').expect(401);
    await demo.api
      .post(`/api/accounts/${id('Ida Brook')}/restoration`)
      .send({})
      .expect(204);
  });

  it('the first one is made once, by whoever has the printed code', async () => {
    const late = { name: 'Late', password, code: 'x' };
    await stranger(demo.app).post('/api/first-account').send(late).expect(409);
    const empty = await demoApp();
    await empty.db.query('delete from sessions');
    await empty.db.query('delete from accounts');
    await empty.services.access.sessions.forget();
    expect((await stranger(empty.app).get('/api/me').expect(200)).body).toMatchObject({
      role: 'nobody',
      first: true,
    });
    const first = (name: string, code?: string, host = '127.0.0.1') =>
      stranger(empty.app)
        .post('/api/first-account')
        .set('Host', host)
        .set('X-Forwarded-For', '203.0.113.9')
        .send({ name, password, ...(code === undefined ? {} : { code }) });
    const code = (await firstCode(empty.db))!;
    expect(await firstCode(empty.db)).toBe(code);
    // Neither without the code, nor with another, nor from this very machine.
    for (const host of ['127.0.0.1', 'localhost', '203.0.113.80']) {
      await first('Sly', undefined, host).expect(403);
      await first('Sly', 'bada-bada-bada-bada', host).expect(403);
    }
    const both = await Promise.all([
      first('One', code),
      // As people type it.
      first('Two', ` ${code.toUpperCase().replaceAll('-', ' ')}`),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
    expect(both.find(({ status }) => status === 201)!.body).toMatchObject({ role: 'owner', first: false });
    expect(await firstCode(empty.db)).toBeNull();
    await first('Three', code).expect(409);
    // Where all accounts are gone again the old code does not count.
    await empty.db.query('delete from sessions');
    await empty.db.query('delete from accounts');
    await first('Four', code).expect(403);
    await empty.close();
  });
});
