import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { get as httpGet, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { variantOf } from '@vigilum/core/lesson';
import request from 'supertest';
import { addressesOf } from '../addresses.ts';
import { createApp } from '../app.ts';
import { MOST_STREAMS, openStreams } from '../http/events.ts';
import { startSimulations } from '../jobs/simulations.ts';
import { cobbleBuild } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { tideLine } from '../starter/tideLine.ts';
import { demoApp, type DemoApp } from './harness.ts';
import { askRaw, strangeTargets } from './rawLines.ts';
import { httpServer } from '../http/listen.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
}, 60_000);
afterAll(() => demo.close());

const newCobbles = { kit: 'cobble', cupboard: '', take: 'new' };
const deep = (n: number) => `${'{"a":'.repeat(n)}1${'}'.repeat(n)}`;

describe('what strangers send', () => {
  it('request lines that name another server are refused', async () => {
    const server = httpServer(demo.app).listen(0, '127.0.0.1');
    await new Promise((done) => server.once('listening', done));
    const { port } = server.address() as AddressInfo;
    for (const target of strangeTargets('/classes', '127.0.0.1:1')) {
      const status = await askRaw(port, 'GET', target, demo.cookie);
      const own = target.startsWith('/api/classes?') ? 200 : target.startsWith('/api') ? 404 : 400;
      expect([target, status]).toEqual([target, own]);
    }
    expect(await askRaw(port, 'GET', '/api/classes', demo.cookie)).toBe(200);
    server.closeAllConnections();
    server.close();
  });

  it.each<[string, string, string, string | object, number, RegExp]>([
    ['NUL in a path', 'get', '/api/lessons/%00', '', 404, /nothing at this address/],
    ['a path that is no UTF-8', 'get', '/api/lessons/%ED%A0%80', '', 400, /could not be read/],
    ['JSON nested 5,000 deep', 'post', '/api/classes', deep(5000), 422, /nested too deep/],
    ['half a character', 'patch', '/api/classes/1', '{"name":"a\\ud800"}', 422, /cannot be stored/],
    [
      'half a character in a name of a field',
      'patch',
      '/api/classes/1',
      '{"\\udc00":1}',
      422,
      /cannot be stored/,
    ],
    [
      'an id beyond the database',
      'post',
      '/api/periods',
      { classId: 2 ** 31, lesson: 'x', minutes: 50 },
      422,
      /classId/,
    ],
    [
      'team names that are no texts',
      'post',
      '/api/classes',
      { school: 'S', name: 'N', teams: ['a', 1, null, {}], robots: newCobbles },
      422,
      /teams/,
    ],
    ['a name that turns round', 'patch', '/api/classes/1', { name: 'a\u202eb' }, 422, /can be seen/],
    ['a name of nothing seen', 'patch', '/api/teams/1', { name: '\u200b\u2060' }, 422, /can be seen/],
    ['a name of two lines', 'patch', '/api/robots/1', { name: 'a\nb' }, 422, /can be seen/],
    [
      'triples of a light sensor',
      'post',
      '/api/robots/1/quick-looks',
      {
        socket: 'K3',
        surface: 'tide line',
        values: [
          [1, 2, 3],
          [1, 2, 3],
        ],
      },
      422,
      /one number a look/,
    ],
    [
      'mixed looks',
      'post',
      '/api/robots/1/quick-looks',
      { socket: 'K3', surface: 'tide line', values: [20, [1, 2, 3], null] },
      422,
      /one number a look/,
    ],
    [
      'light of 99,999 %',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'tide line', values: [99_999] },
      422,
      /99999 % is no reflected light of the Cobble, which tells 0 to 100/,
    ],
    [
      'readings of a socket that the kit has not',
      'post',
      '/api/robots/1/imports',
      { sets: [{ socket: 'Z9', kind: 'light', surface: 'a', values: [20] }] },
      422,
      /no socket Z9/,
    ],
    [
      'readings of a kind that the kit has not',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'beacon', surface: 'a', values: [20] },
      422,
      /measures beacon direction/,
    ],
  ])('%s gets a sentence and nothing is stored', async (_, method, path, body, status, says) => {
    const call = demo.api[method as 'get'](path);
    if (body !== '') call.set('content-type', 'application/json').send(body);
    const { text } = await call.expect(status);
    expect(text).toMatch(says);
    expect(demo.logged).toEqual([]);
  });

  it('takes what real sensors tell a little beyond their range, gaps, and names of every language', async () => {
    const read = (values: unknown[]) =>
      demo.api
        .post('/api/robots/1/sample-sets')
        .send({ socket: 'K3', kind: 'light', surface: 'tide line', values })
        .expect(201);
    await read([101, -1, null, 104]);
    for (const name of ['क्षत्रिय', 'فريق', '👩‍🚀 crew', 'Ćmy', 'A'])
      await demo.api.patch('/api/teams/8').send({ name }).expect(204);
    await demo.api.patch('/api/teams/8').send({ name: 'Shag' }).expect(204);
  });

  it('starts no hour of a lesson that was removed', async () => {
    await demo.api.delete('/api/lessons/stop-short').expect(204);
    const hour = { classId: 1, lesson: 'stop-short', minutes: 50 };
    await demo.api.post('/api/periods').send(hour).expect(404);
    await demo.api.post('/api/lessons/stop-short/restoration').send({}).expect(204);
    await demo.api.post('/api/periods').send(hour).expect(201);
  });

  it('a text of nothing but placeholders stays a text', () => {
    const twist = {
      parameters: [{ name: 'w', kind: 'choice' as const, options: ['x'.repeat(60)], usual: 'x'.repeat(60) }],
      bindings: [],
    };
    const aim = '{w}'.repeat(2600);
    const lesson = { ...tideLine, aim, twist } as unknown as typeof tideLine;
    expect(variantOf(lesson).aim.length).toBeLessThan(aim.length + 5000);
  });

  it('a session has some streams: the oldest is closed for a new one, and others have theirs', async () => {
    const server = demo.app.listen(0);
    const { port } = server.address() as AddressInfo;
    const open: IncomingMessage[] = [];
    const said: string[] = [];
    const stream = (cookie: string) =>
      new Promise<number>((done) => {
        httpGet({ port, path: '/api/events', agent: false, headers: { cookie } }, (answer) => {
          const i = open.push(answer) - 1;
          answer.on('data', (chunk: Buffer) => (said[i] = (said[i] ?? '') + chunk.toString()));
          done(answer.statusCode ?? 0);
        });
      });
    const team = `vigilum=${(await demo.services.access.sessions.begin({ team: 1 })).token}`;
    expect(await stream(team)).toBe(200);
    for (let i = 0; i < MOST_STREAMS.ofOne + 3; i++) expect(await stream(demo.cookie)).toBe(200);
    await new Promise((done) => setTimeout(done, 100));
    const closed = open.map((one) => one.complete);
    expect(closed).toEqual(open.map((_, i) => i > 0 && i <= 3));
    expect(said.map((text) => text.includes('event: crowded'))).toEqual(closed);
    expect(openStreams()).toBe(MOST_STREAMS.ofOne + 1);
    for (const one of open) one.destroy();
    await new Promise((done) => setTimeout(done, 100));
    expect(openStreams()).toBe(0);
    server.closeAllConnections();
    server.close();
  });
});

describe('the addresses of a server', () => {
  it('by its own names and those that are allowed it is asked, by others it is not', async () => {
    const served = request(
      createApp({
        services: demo.services,
        hosts: addressesOf('0.0.0.0', 'teacher.local').names,
        log: () => undefined,
      }),
    );
    for (const [host, status] of [
      ['teacher.local', 200],
      ['TEACHER.local:4400', 200],
      ['10.0.0.7:4400', 200],
      ['localhost', 200],
      ['elsewhere.example', 403],
    ] as const)
      expect([host, (await served.get('/api/health').set('host', host)).status]).toEqual([host, status]);
  });

  it('are its own alone by default; all that work, the network’s first, where it answers everywhere', () => {
    const own = addressesOf('127.0.0.1');
    expect([own.open, own.names, own.urls(4400)]).toEqual([false, [], ['http://127.0.0.1:4400']]);
    const all = addressesOf('0.0.0.0', 'teacher.local, lab-3', () => ['10.0.0.7', 'fd00::1']);
    expect(all.urls(4400)).toEqual([
      'http://10.0.0.7:4400',
      'http://[fd00::1]:4400',
      'http://teacher.local:4400',
      'http://lab-3:4400',
      'http://127.0.0.1:4400',
    ]);
    expect(all.names).toEqual(expect.arrayContaining(['teacher.local', 'lab-3']));
    expect(all.own(4400)).toBe('http://127.0.0.1:4400');
  });
});

describe('runs', () => {
  it('that take too long are ended with a sentence, and their worker is replaced', async () => {
    // Longer than a worker takes to start on a busy machine, shorter than so many runs take on any.
    const simulations = startSimulations(1, { proofMs: 5000 });
    const known = { kit: cobble, build: cobbleBuild, sets: [], thresholds: { K3: 49 } };
    const job = (runs: number) => ({ lesson: tideLine, known, text: tideLine.modelScript, seed: 1, runs });
    await expect(simulations.prove(job(5_000_000))).rejects.toThrow(/was not done within 5 s and was ended/);
    await expect(simulations.prove(job(5))).resolves.toMatchObject({ runs: 5 });
    await simulations.close();
  }, 30_000);
});
