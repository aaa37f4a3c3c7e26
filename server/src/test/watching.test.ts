import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Writable } from 'node:stream';
import express from 'express';
import request from 'supertest';
import { DatabaseAway, type Database } from '../db/database.ts';
import { joining } from '../http/scope.ts';
import { createApp } from '../app.ts';
import { logTo } from '../watching/logs.ts';
import { metricsOf, serveMetrics } from '../watching/metrics.ts';
import { Statements } from '../watching/statements.ts';
import { demoApp, signedIn, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
}, 60_000);
afterAll(() => demo.close());

const away: Database = {
  query: () => Promise.reject(new DatabaseAway(new Error('connect ECONNREFUSED 10.1.2.3:5432'))),
  exec: () => Promise.reject(new DatabaseAway(new Error('gone'))),
  transaction: () => Promise.reject(new DatabaseAway(new Error('gone'))),
  alone: (_, work) => work(),
  wire: null,
  close: () => Promise.resolve(),
};

describe('health', () => {
  it('says what is well, to anybody, and names nobody and no place', async () => {
    const { body, text } = await signedIn(demo.app, '').get('/api/health').expect(200);
    const { ok, checks } = body as { ok: boolean; checks: { what: string; well: boolean }[] };
    expect(ok).toBe(true);
    expect(checks.map(({ what, well }) => [what, well])).toEqual([
      ['database', true],
      ['form', true],
      ...(demo.db.wire ? [['changes', true]] : []),
    ]);
    expect(text).not.toMatch(/postgres:|\/|Harbour/);
  });

  it('says that the database is away; pages are told to try again, and nothing of it is shown to them', async () => {
    const logged: unknown[] = [];
    const app = createApp({ services: { ...demo.services, db: joining(away) }, log: (e) => logged.push(e) });
    const { body } = await request(app).get('/api/health').expect(503);
    expect(body).toMatchObject({ ok: false, checks: [{ what: 'database', well: false }] });
    const write = await request(app).post('/api/doors').send({ code: 'tern-1234' });
    expect([write.status, JSON.parse(write.text)]).toMatchObject([
      503,
      { retry: true, title: 'No database' },
    ]);
    expect(write.text).not.toMatch(/10\.1\.2\.3/);
    expect(logged).toHaveLength(1);
  });

  it('says that a newer program has changed the tables', async () => {
    await demo.db.query(`insert into migrations values (999, 'later')`);
    const { body } = await signedIn(demo.app, '').get('/api/health').expect(503);
    expect(JSON.stringify(body)).toMatch(/999, but this program knows/);
    await demo.db.query('delete from migrations where number = 999');
  });
});

describe('metrics', () => {
  it('count requests by their route, statements by their time, and show no id, token or name', async () => {
    const metrics = metricsOf({ streams: () => 3, tasks: () => 2 });
    const slow: string[] = [];
    const statements = new Statements(0, (sql) => slow.push(sql), metrics.statement);
    const db = joining(statements.over(demo.services.db));
    const app = createApp({
      services: { ...demo.services, db },
      requests: metrics.requests,
      log: () => undefined,
    });
    const api = signedIn(app, demo.cookie);
    for (const id of [1, 2, 3]) await api.get(`/api/robots/${id}`).expect(200);
    await api.get('/api/health').expect(200);
    await api.get('/api/invitations/a-secret-token-of-somebody').expect(404);
    const server = serveMetrics(metrics, statements, 0, '127.0.0.1');
    const { text } = await request(server)
      .get('/metrics')
      .expect(200)
      .expect('content-type', /text\/plain/);
    expect(text).toMatch(
      /vigilum_request_seconds_count\{method="GET",route="\/api\/robots\/:id",status="200"\} 3/,
    );
    expect(text).toMatch(
      /vigilum_request_seconds_count\{method="GET",route="\/api\/health",status="200"\} 1/,
    );
    expect(text).toMatch(/vigilum_streams 3\n/);
    expect(text).toMatch(/vigilum_tasks 2\n/);
    expect(text).toMatch(/nodejs_eventloop_lag_p99_seconds/);
    expect(Number(/vigilum_statement_seconds_count (\d+)/.exec(text)![1])).toBeGreaterThan(6);
    const listed = await request(server).get('/statements').expect(200);
    const [first] = listed.body as { sql: string; times: number; totalMs: number; mostMs: number }[];
    expect(first!.totalMs).toBeGreaterThanOrEqual(first!.mostMs);
    expect(slow.length).toBeGreaterThan(6);
    for (const said of [text, listed.text, slow.join()]) expect(said).not.toMatch(/secret-token|Kittiwake/);
    await request(server).get('/elsewhere').expect(404);
    server.close();
  });
});

describe('the log', () => {
  it('holds no names, texts or values of rows, whatever went wrong', async () => {
    const lines: string[] = [];
    const log = logTo('info', new Writable({ write: (text, _, done) => (lines.push(String(text)), done()) }));
    const failing = async (sql: string, params: unknown[] = []) =>
      demo.db.query(sql, params).catch((error: unknown) => log.error(error));
    await failing(`insert into classes (school, name) values ('Ternmouth Harbour School', '7 Kittiwake')`);
    await failing('select $1::int', ['Ada Tern']);
    await failing(`select * from teams where id = 'Ada Tern'`);
    await failing(`insert into teams (class_id, name) values (999999, 'Ada Tern')`);
    log.error(new DatabaseAway(new Error('Connection terminated')));
    log.warn({ sql: 'select 1', ms: 700 }, 'slow statement');
    expect(lines.length).toBe(6);
    expect(lines.join('')).not.toMatch(/Ada|Tern|Kittiwake|Harbour/);
    const [first] = lines.map((line) => JSON.parse(line) as { level: number; time: string; err: object });
    expect(first).toMatchObject({ level: 50, err: { state: '23505', type: expect.any(String) } });
    expect(Date.parse(first!.time)).not.toBeNaN();
  });
});

describe('who comes in', () => {
  it('is noted with what was refused, by numbers and never by name', async () => {
    const noted: [string, object][] = [];
    const services = { ...demo.services, note: (what: string, facts: object) => noted.push([what, facts]) };
    const app = createApp({ services, log: () => undefined });
    const agent = request.agent(app);
    const wrong = { name: 'Demo Teacher', password: 'not the password' };
    await agent.post('/api/sessions').send(wrong).expect(401);
    await agent.get('/api/accounts').expect(401);
    await agent.get('/api/me').expect(200);
    const [team] = await demo.db.query<{ card: string }>('select card from teams order by id limit 1');
    const inside = await agent.post('/api/doors/cards').send({ card: team!.card }).expect(201);
    await request(app)
      .get('/api/today')
      .set('Cookie', inside.headers['set-cookie']![0]!.split(';')[0]!)
      .expect(403);
    expect(noted).toEqual([
      ['access refused', expect.objectContaining({ route: 'POST /sessions', role: 'nobody', status: 401 })],
      ['access refused', expect.objectContaining({ route: 'GET /accounts', role: 'nobody', status: 401 })],
      ['access', expect.objectContaining({ route: 'POST /doors/cards', cameInAs: 'team', ofTeam: 1 })],
      [
        'access refused',
        {
          route: 'GET /today',
          role: 'team',
          school: 1,
          account: null,
          session: expect.any(Number),
          status: 403,
        },
      ],
    ]);
    expect(JSON.stringify(noted)).not.toMatch(/Demo|Teacher|password"|Gannet/);
  });
});

describe('behind a proxy', () => {
  it('who asks is told by the proxies that are one’s own, and by nobody else', async () => {
    const asked = async (proxies: number, said: string) => {
      const app = express();
      app.set('trust proxy', proxies);
      app.get('/', (req, res) => void res.send(req.ip));
      return (await request(app).get('/').set('x-forwarded-for', said)).text;
    };
    expect(await asked(0, '203.0.113.9')).toMatch(/127\.0\.0\.1/);
    expect(await asked(1, '198.51.100.1, 203.0.113.9')).toBe('203.0.113.9');
  });
});
