import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Express } from 'express';
import { access } from '@vigilum/contract/access';
import type { Change } from '@vigilum/contract/types';
import { createApp } from '../app.ts';
import { openPostgres } from '../db/postgres.ts';
import type { Database, Wire } from '../db/database.ts';
import { Bench } from '../devices/bench.ts';
import { Seats } from '../devices/seats.ts';
import { Sessions } from '../access/sessions.ts';
import { ChangeFeed } from '../http/events.ts';
import { httpServer } from '../http/listen.ts';
import { joining } from '../http/scope.ts';
import { shareChanges } from '../http/sharedChanges.ts';
import { startSimulations } from '../jobs/simulations.ts';
import { formOf, migrate, newestMigration } from '../db/migrate.ts';
import { openStore } from '../db/store.ts';
import { onPostgres, ownDemo, ownEmpty } from './databases.ts';
import { NOW, signedIn } from './harness.ts';
import { askRaw, strangeTargets } from './rawLines.ts';

// Two servers on one database, as a district has them. Only PostgreSQL can be shared: npm run test:postgres.
const several = onPostgres ? describe : describe.skip;

/** One of the servers, with all that it has for itself. */
async function serverOn(url: string) {
  const plain = (await openPostgres(url, { most: 4 })) as Database & { wire: Wire };
  const db = joining(plain);
  const changes = new ChangeFeed();
  const sessions = new Sessions(db, () => NOW);
  const logged: unknown[] = [];
  const log = (error: unknown) => logged.push(error);
  const stops = [
    await shareChanges({ ...db, wire: plain.wire }, changes, log),
    await sessions.share(plain.wire, log),
  ];
  const bench = new Bench();
  const simulations = startSimulations(1);
  let own = '';
  const seats = new Seats({ db: plain, url: () => own, isUsed: (robot) => bench.isUsed(robot), log });
  const services = {
    db,
    bench,
    seats,
    simulations,
    changes,
    access: { sessions, localKey: null, demoAccount: null },
    now: () => NOW,
  };
  const app: Express = createApp({ services, log });
  const server: Server = httpServer(app).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  own = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const heard: Change[] = [];
  changes.hear((change) => heard.push(change));
  return {
    app,
    db,
    changes,
    sessions,
    heard,
    logged,
    base: own,
    seats,
    /** Ends it as a killed one ends: nothing is given back. */
    kill() {
      server.closeAllConnections();
      server.close();
      bench.close();
    },
    async close() {
      server.closeAllConnections();
      server.close();
      bench.close();
      await seats.close();
      await Promise.all(stops.map((stop) => stop()));
      await simulations.close();
      await plain.close();
    },
  };
}
type One = Awaited<ReturnType<typeof serverOn>>;

/** Waits until something is so. Returns after how long, ms. */
async function until(so: () => boolean, mostMs = 10_000): Promise<number> {
  const from = performance.now();
  while (!so()) {
    if (performance.now() - from > mostMs) throw new Error('It did not come to be.');
    await new Promise((done) => setTimeout(done, 5));
  }
  return performance.now() - from;
}

several('servers that start on an empty database', () => {
  it('at once, in whatever order: one makes the tables, and none takes them for another’s', async () => {
    for (let round = 0; round < 4; round++) {
      const { url, drop } = await ownEmpty();
      const begin = async (i: number) => {
        await new Promise((done) => setTimeout(done, 40 * i));
        const store = await openStore({ database: url, folder: '/nowhere' });
        await migrate(store.db);
        return store;
      };
      const stores = await Promise.all(Array.from({ length: 8 }, (_, i) => begin(i)));
      expect(await formOf(stores[7]!.db)).toBe(newestMigration());
      await Promise.all(stores.map(({ db }) => db.close()));
      await drop();
    }
  }, 60_000);
});

several('two servers on one database', () => {
  let own: Awaited<ReturnType<typeof ownDemo>>;
  let [a, b]: [One, One] = [null!, null!];
  let cookie = '';
  beforeAll(async () => {
    own = await ownDemo();
    [a, b] = [await serverOn(own.url), await serverOn(own.url)];
    const [teacher] = await a.db.query<{ id: number }>('select id from accounts order by id limit 1');
    cookie = `vigilum=${(await a.sessions.begin({ account: teacher!.id })).token}`;
  }, 120_000);
  afterAll(async () => {
    await Promise.all([a.close(), b.close()]);
    await own.drop();
  });
  const readings = (i: number) => ({
    socket: 'K3',
    kind: 'light',
    surface: 'quay boards',
    values: [70, i % 100],
  });
  const write = (to: One, i: number) =>
    signedIn(to.app, cookie)
      .post(`/api/robots/${(i % 6) + 1}/sample-sets`)
      .send(readings(i))
      .expect(201);

  it('a page on one hears of a write on the other within a second, and who wrote it', async () => {
    const times: number[] = [];
    for (let i = 0; i < 20; i++) {
      const before = b.heard.length;
      await signedIn(a.app, cookie)
        .post('/api/robots/1/sample-sets')
        .set('x-vigilum-page', 'page-on-a-1')
        .send(readings(i))
        .expect(201);
      times.push(await until(() => b.heard.length > before));
    }
    expect(Math.max(...times)).toBeLessThan(1000);
    expect(b.heard.at(-1)).toMatchObject({ what: 'robot', robot: 1, by: 'page-on-a-1' });
    times.sort((x, y) => x - y);
    console.log(
      `heard on the other server ${times[10]!.toFixed(0)} ms after the answer (median), ${times.at(-1)!.toFixed(0)} ms at most`,
    );
  });

  it('both tell all changes, the same ones in the same order, though both are written at once', async () => {
    await until(() => a.heard.length === b.heard.length);
    const before = b.heard.length;
    await Promise.all(Array.from({ length: 80 }, (_, i) => write(i % 2 ? a : b, i)));
    await until(() => a.heard.length >= before + 80 && b.heard.length >= before + 80);
    const revisions = (one: One) => one.heard.slice(before).map(({ revision }) => revision);
    expect(revisions(a)).toEqual(revisions(b));
    expect(revisions(a)).toEqual([...revisions(a)].sort((x, y) => x - y));
    expect(new Set(revisions(a)).size).toBe(80);
  });

  it('a server whose connections are cut while others write misses nothing', async () => {
    const before = b.heard.length;
    const cut = () =>
      a.db.query(
        `select pg_terminate_backend(pid) from pg_stat_activity
          where datname = current_database() and application_name like 'vigilum vigilum%'`,
      );
    for (let i = 0; i < 60; i++) {
      if (i % 20 === 5) await cut();
      await write(a, i);
    }
    await until(() => b.heard.length >= before + 60 && a.heard.length >= before + 60);
    expect(b.heard.slice(before).map(({ revision }) => revision)).toEqual(
      a.heard.slice(before).map(({ revision }) => revision),
    );
  });

  it('a page that comes over from the other server is told what it missed', async () => {
    const known = a.changes.newest;
    await write(a, 3);
    await until(() => b.changes.newest > known);
    expect(b.changes.since(known)).toHaveLength(1);
    const late = await serverOn(own.url);
    expect(late.changes.since(known)).toHaveLength(1);
    await late.close();
  });

  it('a stream on one ends when its session is ended on the other', async () => {
    const { token } = await a.sessions.begin({ team: 2 });
    const own_ = { headers: { cookie: `vigilum=${token}` } };
    const stream = await fetch(`${b.base}/api/events`, own_);
    expect(stream.status).toBe(200);
    const ended = (async () => {
      for await (const chunk of stream.body!) void chunk;
      return true;
    })();
    await signedIn(a.app, cookie).delete('/api/teams/2/tablets').expect(204);
    expect(await ended).toBe(true);
    expect((await fetch(`${b.base}/api/teams/2`, own_)).status).toBe(401);
  });

  /** Looks at a robot through one of the servers until enough readings came; `meanwhile` once it has begun. */
  async function look(
    at: One,
    robot: number,
    enough: (values: number[]) => boolean,
    meanwhile?: () => unknown,
  ) {
    const abort = new AbortController();
    const stream = await fetch(`${at.base}/api/robots/${robot}/live?socket=K3`, {
      headers: { cookie },
      signal: abort.signal,
    });
    expect([stream.status, stream.headers.get('content-type')]).toEqual([
      200,
      'text/event-stream; charset=utf-8',
    ]);
    const values: number[] = [];
    const decoder = new TextDecoder();
    for await (const chunk of stream.body!) {
      const before = values.length;
      for (const [, data] of decoder
        .decode(chunk, { stream: true })
        .matchAll(/^event: readings\ndata: (.*)$/gm))
        for (const { value } of JSON.parse(data!) as { value: number | null }[])
          if (value !== null) values.push(value);
      if (before === 0 && values.length > 0) await meanwhile?.();
      if (enough(values)) break;
    }
    abort.abort();
    return values;
  }
  const put = (to: One, robot: number, surface: string) =>
    signedIn(to.app, cookie).post(`/api/robots/${robot}/hand`).send({ put: 'over', surface });

  it('a robot is with one of them and found from both: what a hand does there is seen here', async () => {
    const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
    await put(a, 2, 'quay boards').expect(204);
    const light = await look(b, 2, (values) => values.length > 20);
    let moved = 0;
    const both = await look(
      b,
      2,
      (values) => values.slice(moved).length > 40,
      async () => {
        await put(b, 2, 'tide line').expect(204);
        moved = 10;
      },
    );
    expect(mean(light)).toBeGreaterThan(60);
    expect(mean(both.slice(-20))).toBeLessThan(40);
    expect(await a.db.query('select robot_id from robot_seats where robot_id = 2')).toHaveLength(1);
    // What is refused there is refused here, in the same sentence.
    const [here, there] = [await put(a, 2, 'nowhere'), await put(b, 2, 'nowhere')];
    expect([here.status, here.text]).toEqual([there.status, there.text]);
    const stranger = await fetch(`${b.base}/api/robots/2/live`, { headers: { 'x-vigilum-handed-on': 'x' } });
    expect(stranger.status).toBe(401);
  });

  it('no request line leads to another host, and no cookie leaves the server', async () => {
    const seen: { url: string; cookie: string | undefined; key: unknown }[] = [];
    const decoy = createServer((req, res) => {
      seen.push({ url: req.url!, cookie: req.headers.cookie, key: req.headers['x-vigilum-handed-on'] });
      res.end('{}');
    }).listen(0, '127.0.0.1');
    await new Promise((done) => decoy.once('listening', done));
    const elsewhere = `127.0.0.1:${(decoy.address() as AddressInfo).port}`;
    // Robot 4 is with a: b would hand it on.
    await put(a, 4, 'quay boards').expect(204);
    const port = Number(new URL(b.base).port);
    for (const route of Object.keys(access)) {
      const [method, pattern] = route.split(' ') as [string, string];
      // Ends the session that asks.
      if (route.startsWith('DELETE /sessions')) continue;
      const path = pattern.replaceAll(/:id\b/g, '4').replaceAll(/:\w+/g, '1');
      for (const target of strangeTargets(path, elsewhere)) {
        const status = await askRaw(port, method, target, cookie);
        if (!target.startsWith('/api')) expect([target, status]).toEqual([target, 400]);
      }
    }
    expect(seen).toEqual([]);
    // A peer itself sees the asker's name and no cookie.
    await b.db.query(
      `insert into robot_seats (robot_id, server, url, key, until) values (6, gen_random_uuid(), $1, 'k', now() + interval '1 minute')`,
      [`http://${elsewhere}`],
    );
    await put(b, 6, 'quay boards').expect(200);
    expect(seen).toEqual([{ url: '/api/robots/6/hand', cookie: undefined, key: 'k' }]);
    decoy.close();
  });

  it('the robots of a server that was killed are found at the other', async () => {
    const c = await serverOn(own.url);
    await put(c, 5, 'quay boards').expect(204);
    expect(await b.seats.find(5)).toMatchObject({ url: c.base });
    c.kill();
    expect((await look(b, 5, (values) => values.length > 5)).length).toBeGreaterThan(5);
    expect(await b.seats.find(5)).toBeNull();
    await c.close();
  });

  it('one brings the tables up to date and the other waits', async () => {
    const order: string[] = [];
    const work = (who: string) => async () => {
      order.push(`${who} begins`);
      await new Promise((done) => setTimeout(done, 60));
      order.push(`${who} ends`);
    };
    await Promise.all([a.db.alone('test', work('a')), b.db.alone('test', work('b'))]);
    expect([order[0]!.at(0), order[2]!.at(0)]).toEqual([order[1]!.at(0), order[3]!.at(0)]);
  });
});
