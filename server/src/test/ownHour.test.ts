import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { get as httpGet } from 'node:http';
import type { AddressInfo } from 'node:net';
import { access, needsProof, type OtherRoute } from '@vigilum/contract/access';
import { shapeOfRoute } from '@vigilum/contract/schemas';
import type { Doors, Route } from '@vigilum/contract/types';
import { dice } from '../../campaign/bench.ts';
import { httpServer } from '../http/listen.ts';
import { valueFor } from './bodies.ts';
import { demoApp, NOW, type DemoApp } from './harness.ts';
import { PASSWORD, accept, type Api } from './secondSchool.ts';

// Classes share robots, and colleagues a school: whose hour it is, and whose class, says what is open.
const clock = { now: NOW };
let demo: DemoApp;
/** A class that has the robot of team 1 in an hour of its own, and its team. */
let other: { klass: number; team: number; robot: number };
const apis = {} as Record<'first' | 'second' | 'guest' | 'invited' | 'teacher', Api>;
const WORD = 'Quayword';

beforeAll(async () => {
  demo = await demoApp(clock);
  const [team] = await demo.db.query<{ robot: number }>('select robot_id as robot from teams where id = 1');
  const [klass] = await demo.db.query<{ id: number }>(
    `insert into classes (school, name) values ('Harbour', 'Other 8') returning id`,
  );
  const [made] = await demo.db.query<{ id: number }>(
    `insert into teams (class_id, robot_id, name) values ($1, $2, 'Otters') returning id`,
    [klass!.id, team!.robot],
  );
  other = { klass: klass!.id, team: made!.id, robot: team!.robot };
  apis.first = await demo.as({ team: 1 });
  apis.second = await demo.as({ team: other.team });
  const colleague = async (role: string, name: string, classes: number[] = []) => {
    const { token } = (await demo.api.post('/api/invitations').send({ role, classes }).expect(201)).body as {
      token: string;
    };
    return accept(demo, token, name);
  };
  apis.guest = await colleague('guest', 'Gil Nowhere');
  apis.invited = await colleague('guest', 'Gil Invited', [1, 999_999]);
  apis.teacher = await colleague('teacher', 'Tove Another');
}, 60_000);
afterAll(() => demo.close());

/** Ends the first class's hour and begins one of the other class with the same lesson, or the other way round. */
async function hourOf(klass: 'first' | 'second'): Promise<void> {
  const lesson = `(select lesson_id from periods where class_id = 1 and began_at is not null order by id limit 1)`;
  await demo.db.query('update periods set ended_at = $1 where began_at is not null and ended_at is null', [
    NOW.toISOString(),
  ]);
  await demo.db.query(
    `with made as (select nextval(pg_get_serial_sequence('periods', 'id'))::int as id)
     insert into periods (id, first_id, class_id, lesson_id, starts_at, minutes, began_at) overriding system value
     select id, id, $1, ${lesson}, $2, 50, $2 from made`,
    [klass === 'first' ? 1 : other.klass, new Date(NOW.getTime() - 60_000).toISOString()],
  );
}
const light = { socket: 'K3', kind: 'light', surface: 'tide line', values: [20, 21, 22, 20, 19] };
const readings = async (api: Api) =>
  (await api.get(`/api/robots/${other.robot}/readings`).expect(200)).body as {
    sets: { surface: string; lightNote: string }[];
  };

describe('a robot that two classes share', () => {
  it('belongs to the team whose hour is going on', async () => {
    await hourOf('first');
    const whose = { team: 1, lesson: 'tide-line' };
    const { id } = (
      await apis.first
        .post(`/api/robots/${other.robot}/sample-sets`)
        .send({ ...light, lightNote: WORD, whose })
        .expect(201)
    ).body as { id: number };
    await apis.first
      .post(`/api/robots/${other.robot}/hand`)
      .send({ put: 'over', surface: 'tide line' })
      .expect(204);
    const refused = async (api: Api, team: number) => {
      const on = `/api/robots/${other.robot}`;
      await api.get(`${on}/readings`).expect(403);
      await api.get(`${on}/live`).expect(403);
      await api.post(`${on}/hand`).send({ put: 'over', surface: 'tide line' }).expect(403);
      await api
        .post(`${on}/lines`)
        .send({ lines: ['K3 20'] })
        .expect(403);
      await api.patch(`${on}/fittings/K3`).send({ mode: 'ambient' }).expect(403);
      await api
        .post(`${on}/sample-sets`)
        .send({ ...light, whose: { team, lesson: 'tide-line' } })
        .expect(403);
      expect((await api.get(on).expect(200)).body).toMatchObject({ id: other.robot, checks: [], team: null });
    };
    await refused(apis.second, other.team);
    await hourOf('second');
    await refused(apis.first, 1);
    // The other team has the robot now, and sees nothing of what the first has read.
    expect(JSON.stringify(await readings(apis.second))).not.toContain(WORD);
    await apis.second.get(`/api/sample-sets/${id}`).expect(403);
    await apis.second.delete(`/api/sample-sets/${id}`).expect(403);
    const work = (await apis.second.get(`/api/teams/${other.team}/lessons/tide-line`).expect(200)).text;
    expect(work).not.toContain(WORD);
    await apis.second
      .post(`/api/robots/${other.robot}/thresholds`)
      .send({
        socket: 'K3',
        value: 40,
        method: 'midpoint',
        setIds: [id, id + 1],
        whose: { team: other.team, lesson: 'tide-line' },
      })
      .expect(403);
    // The first still has its own work, and takes out of it what it likes.
    await apis.first.get(`/api/sample-sets/${id}`).expect(200);
    await apis.first.delete(`/api/sample-sets/${id}`).expect(204);
    await apis.first.post(`/api/sample-sets/${id}/restoration`).send({}).expect(204);
  });

  it('what was read off it for nobody is seen in the hour, and taken away only where it was read in it', async () => {
    await hourOf('second');
    const read = async (at: number) =>
      (
        await demo.db.query<{ id: number }>(
          `insert into sample_sets (robot_id, socket, kind, surface, readings, channels, truth, taken_at)
           values ($1, 'K4', 'distance', 'wall', '{100,101,99}', 1, 100, $2) returning id`,
          [other.robot, new Date(at).toISOString()],
        )
      )[0]!.id;
    const [before, within] = [await read(NOW.getTime() - 3_600_000), await read(NOW.getTime())];
    await apis.second.get(`/api/sample-sets/${before}`).expect(200);
    await apis.first.get(`/api/sample-sets/${before}`).expect(403);
    await apis.second.delete(`/api/sample-sets/${before}`).expect(403);
    await apis.second.delete(`/api/sample-sets/${within}`).expect(204);
  });

  it('its live readings end with the hour', async () => {
    await hourOf('first');
    const server = httpServer(demo.app).listen(0, '127.0.0.1');
    await new Promise((done) => server.once('listening', done));
    const { port } = server.address() as AddressInfo;
    const cookie = `vigilum=${(await demo.services.access.sessions.begin({ team: 1 })).token}`;
    let said = '';
    const over = new Promise<void>((done) => {
      httpGet({ port, path: `/api/robots/${other.robot}/live?socket=K3`, headers: { cookie } }, (answer) => {
        answer.on('data', (chunk: Buffer) => (said += chunk.toString()));
        answer.on('end', done);
      });
    });
    while (!said.includes('event: readings')) await new Promise((done) => setTimeout(done, 20));
    const [hour] = await demo.db.query<{ id: number }>(
      'select id from periods where class_id = 1 and began_at is not null and ended_at is null',
    );
    await demo.api.patch(`/api/periods/${hour!.id}`).send({ action: 'end' }).expect(200);
    await over;
    expect(said).toContain('your lesson hour is over');
    server.close();
  });

  it('every route as each of them: nothing of another team is read or changed', async () => {
    await demo.db.query(
      `update sample_sets set light_note = $1 where work_id in (select id from works where team_id <> $2)`,
      [WORD, other.team],
    );
    await demo.db.query(
      `update step_notes set text = $1 where work_id in (select id from works where team_id <> $2)`,
      [WORD, other.team],
    );
    await demo.db.query(
      `insert into homework (work_id, step_id, text, handed_at) select min(id), 'quay', $1, now() from works where team_id = 1`,
      [WORD],
    );
    const tables = [
      'sample_sets',
      'recordings',
      'floor_trials',
      'run_logs',
      'teams',
      'classes',
      'periods',
      'works',
    ];
    const ids: Record<string, number[]> = {};
    for (const table of tables) {
      const where =
        table === 'teams'
          ? 'id < $1'
          : table === 'classes'
            ? 'id = 1 and id < $1'
            : table === 'periods'
              ? 'class_id = 1 and id < $1 + 1000000'
              : table === 'works'
                ? 'team_id < $1'
                : `work_id in (select id from works where team_id < $1)`;
      const rows = await demo.db.query<{ id: number }>(
        `select id from ${table} where ${where} order by id limit 4`,
        [other.team],
      );
      ids[table] = rows.map(({ id }) => id);
    }
    const sums = async () => {
      const found: Record<string, string> = {};
      for (const table of [
        'sample_sets',
        'recordings',
        'quick_looks',
        'thresholds',
        'floor_trials',
        'run_logs',
        'step_notes',
        'script_documents',
        'script_versions',
        'tries',
        'proofs',
        'homework',
        'lesson_places',
      ]) {
        const [row] = await demo.db.query<{ sum: string }>(
          `select count(*) || ' ' || coalesce(md5(string_agg(t::text, '|' order by t::text)), '') as sum
             from ${table} t where work_id in (select id from works where team_id <> $1)`,
          [other.team],
        );
        found[table] = row!.sum;
      }
      const [rest] = await demo.db.query<{ sum: string }>(
        `select md5(string_agg(t::text, '|' order by t.id)) || (select md5(string_agg(p::text, '|' order by p.id)) from periods p where class_id = 1)
                || (select md5(string_agg(r::text, '|' order by r.id)) from robots r where id <> $2) as sum
           from teams t where id <> $1`,
        [other.team, other.robot],
      );
      return { ...found, rest: rest!.sum };
    };
    const random = dice(11);
    const any = (of: readonly number[]) => of[random(of.length)] ?? 1;
    const placed = (path: string) =>
      path.replaceAll(/:\w+/g, (name) => {
        const area = path.split('/')[1]!.replaceAll('-', '_');
        if (name === ':slug') return path.startsWith('/kits') ? 'cobble' : 'tide-line';
        if (name === ':id' && area === 'robots') return String(other.robot);
        if (name === ':id') return String(any(ids[area] ?? [1]));
        if (name === ':team') return String(any(ids.teams!));
        if (name === ':class') return path.startsWith('/calendars') ? '1.ics' : '1';
        if (name === ':socket') return 'K3';
        return '1';
      });
    const skipped: readonly string[] = [
      'GET /events',
      'GET /robots/:id/live',
      'DELETE /sessions/mine',
      'DELETE /sessions',
      'PUT /me/password',
    ];
    const found: string[] = [];
    let asked = 0;
    const columns: [string, 'first' | 'second', keyof typeof apis][] = [
      ['same robot in another hour', 'second', 'first'],
      ['same robot, another class', 'second', 'second'],
      ['other class', 'first', 'second'],
      ['guest of no class', 'first', 'guest'],
    ];
    for (const [column, hour, api] of columns) {
      await hourOf(hour);
      // Whose own work it is may read and change it in its hour or not.
      const others = api === 'first' ? ids.teams!.filter((id) => id !== 1) : ids.teams!;
      const mine = api === 'first';
      const before = await sums();
      for (const route of Object.keys(access) as (Route | OtherRoute)[]) {
        if (skipped.includes(route)) continue;
        const [method, path] = route.split(' ') as [string, string];
        if (mine && !/^\/robots\/:id/.test(path)) continue;
        const shape = shapeOfRoute(route)?.body?.describe();
        for (let i = 0; i < (shape ? 3 : 2); i++) {
          const call = apis[api][method.toLowerCase() as 'get'](`/api${placed(path)}`);
          const answer = await (method === 'GET' || method === 'DELETE'
            ? call
            : call.send(shape ? (valueFor(shape, random, { slip: 0, ids: others }) as object) : {}));
          asked++;
          if ((answer.text ?? '').includes(WORD)) found.push(`${column}: ${route} read a row`);
          if (answer.status >= 500) found.push(`${column}: ${route} answered ${answer.status}`);
        }
      }
      expect([column, await sums()]).toEqual([column, before]);
    }
    console.log(`${asked} requests in ${columns.length} columns: ${found.length} rows read, 0 changed`);
    expect(found).toEqual([]);
    await demo.db.query('delete from wrong_tries');
  }, 120_000);
});

describe('guest colleagues', () => {
  it('see the classes that they were invited to, and no others', async () => {
    await hourOf('first');
    const seen = async (api: Api) => {
      const get = async (path: string) => JSON.stringify((await api.get(`/api${path}`).expect(200)).body);
      const { classes } = JSON.parse(await get('/classes')) as { classes: { id: number }[] };
      const { teams } = JSON.parse(await get('/teams')) as { teams: { class: string }[] };
      const plan = JSON.parse(await get('/plan')) as { hours: { class: number }[]; meetings: unknown[] };
      const today = JSON.parse(await get('/today')) as { periods: unknown[]; past: unknown[] };
      const { hours } = JSON.parse(await get('/running-hours')) as { hours: unknown[] };
      return {
        classes: classes.map(({ id }) => id),
        teams: new Set(teams.map((team) => team.class)).size,
        plan: [...new Set(plan.hours.map((hour) => hour.class))],
        today: today.periods.length + today.past.length > 0,
        hours: hours.length,
        robots: (await get('/robots')).includes('"team":"'),
      };
    };
    expect(await seen(apis.guest)).toEqual({
      classes: [],
      teams: 0,
      plan: [],
      today: false,
      hours: 0,
      robots: false,
    });
    expect(await seen(apis.invited)).toEqual({
      classes: [1],
      teams: 1,
      plan: [1],
      today: true,
      hours: 1,
      robots: false,
    });
    await apis.invited.get('/api/classes/1').expect(200);
    await apis.invited.get('/api/teams/1/logbook').expect(200);
    await apis.invited.get('/api/teams/1/members').expect(200);
    for (const path of [
      '/classes/1',
      '/classes/1/homework',
      '/teams/1/logbook',
      '/teams/1/members',
      '/calendars/1.ics',
    ])
      expect([path, (await apis.guest.get(`/api${path}`)).status]).toEqual([path, 403]);
    await apis.invited.get(`/api/classes/${other.klass}`).expect(403);
    // What was read off a shared robot is of the other class too.
    await apis.invited.get(`/api/robots/${other.robot}/readings`).expect(403);
    // An owner adds a class, or takes one away.
    const { accounts } = (await demo.api.get('/api/accounts').expect(200)).body as {
      accounts: { id: number; name: string; classes: number[] }[];
    };
    const gil = accounts.find(({ name }) => name === 'Gil Invited')!;
    expect(gil.classes).toEqual([1]);
    await demo.api
      .patch(`/api/accounts/${gil.id}`)
      .send({ classes: [other.klass] })
      .expect(204);
    await apis.invited.get('/api/classes/1').expect(403);
    await apis.invited.get(`/api/classes/${other.klass}`).expect(200);
    await demo.api
      .patch(`/api/accounts/${gil.id}`)
      .send({ classes: [1] })
      .expect(204);
  });
});

describe('power', () => {
  it('removing and forgetting are for the class’s own teacher and owners', async () => {
    await apis.teacher.delete(`/api/teams/${other.team}`).expect(403);
    await apis.teacher.post(`/api/teams/${other.team}/moves`).send({ class: 1 }).expect(403);
    await apis.teacher.get(`/api/teams/${other.team}/oblivion`).expect(403);
    await apis.teacher.post(`/api/teams/${other.team}/oblivion`).send({ name: 'Otters' }).expect(403);
    const refused = await apis.teacher.delete(`/api/classes/${other.klass}`).expect(403);
    expect((refused.body as { detail: string }).detail).toContain('Ask an owner to make you its teacher');
    await apis.teacher.patch(`/api/classes/${other.klass}`).send({ teacher: 1 }).expect(403);
    const { accounts } = (await demo.api.get('/api/accounts').expect(200)).body as {
      accounts: { id: number; name: string; role: string }[];
    };
    const [tove, guest] = ['Tove Another', 'Gil Nowhere'].map(
      (name) => accounts.find((one) => one.name === name)!.id,
    );
    await demo.api.patch(`/api/classes/${other.klass}`).send({ teacher: guest }).expect(422);
    await demo.api.patch(`/api/classes/${other.klass}`).send({ teacher: tove }).expect(204);
    expect((await apis.teacher.get(`/api/classes/${other.klass}`).expect(200)).body).toMatchObject({
      teacher: { name: 'Tove Another' },
    });
    await apis.teacher.delete(`/api/teams/${other.team}`).expect(204);
    await apis.teacher.post(`/api/teams/${other.team}/restoration`).send({}).expect(204);
    // Whoever makes a class teaches it.
    const { id } = (
      await apis.teacher.post(`/api/classes/${other.klass}/copies`).send({ name: 'Other 9' }).expect(201)
    ).body as { id: number };
    await apis.teacher.delete(`/api/classes/${id}`).expect(204);
  });

  it('asks for the password where it was last shown more than ten minutes ago', async () => {
    const { token } = (await demo.api.post('/api/invitations').send({ role: 'owner' }).expect(201)).body as {
      token: string;
    };
    const owner = await accept(demo, token, 'Ona Owner');
    const { accounts } = (await owner.get('/api/accounts').expect(200)).body as {
      accounts: { id: number; name: string }[];
    };
    const [own, tove] = ['Ona Owner', 'Tove Another'].map(
      (name) => accounts.find((one) => one.name === name)!.id,
    );
    const refusedSelf = await owner.post(`/api/accounts/${own}/recoveries`).send({}).expect(409);
    expect((refusedSelf.body as { detail: string }).detail).toContain('with the old one');
    await owner.post('/api/invitations').send({ role: 'guest' }).expect(201);
    await demo.db.query(`update sessions set proved_at = $1`, [
      new Date(NOW.getTime() - 601_000).toISOString(),
    ]);
    const shown: string[] = [];
    for (const route of needsProof) {
      const [method, path] = route.split(' ') as [string, string];
      if (path.startsWith('/backups')) continue;
      const url = `/api${path.replace(':id', String(path.startsWith('/accounts') ? tove : 1))}`;
      const call = owner[method.toLowerCase() as 'post'](url);
      const answer = await (method === 'DELETE'
        ? call
        : call.send({ role: 'teacher', name: 'x', slug: 'x' }));
      shown.push(`${answer.status} ${(answer.body as { proof?: boolean }).proof}`);
    }
    expect(new Set(shown)).toEqual(new Set(['403 true']));
    // What takes away nothing goes on.
    await owner.get('/api/accounts').expect(200);
    await owner.post('/api/sessions/mine/proofs').send({ password: 'not that one' }).expect(422);
    await owner.post('/api/invitations').send({ role: 'guest' }).expect(403);
    await owner.post('/api/sessions/mine/proofs').send({ password: PASSWORD }).expect(204);
    await owner
      .post(`/api/accounts/${tove}/recoveries`)
      .send({})
      .expect(200 + 1);
    await owner.post('/api/invitations').send({ role: 'guest' }).expect(201);
    const doors = (await owner.get('/api/classes/1/doors').expect(200)).body as Doors;
    expect(doors.teams.length).toBeGreaterThan(0);
  });
});
