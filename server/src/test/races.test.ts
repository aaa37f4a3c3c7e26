import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Draft, RobotEntry } from '@vigilum/contract/types';
import { demoApp, signedIn, type DemoApp } from './harness.ts';

// What many do at the same moment comes out as if they had done it one after the other. On the embedded database there is one
// connection; on PostgreSQL (npm run test:postgres) they really meet.

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
}, 60_000);
afterAll(() => demo.close());
beforeEach(() => {
  demo.logged.length = 0;
});

type Method = 'post' | 'put' | 'patch' | 'delete';
interface Answer {
  status: number;
  text: string;
  body: { id: number };
}

/** Sends all at once; nothing of it may be the server's own fault. */
async function atOnce(
  calls: readonly [Method, path: string, body?: object, key?: string][],
  by = demo.api,
): Promise<Answer[]> {
  const answers = await Promise.all(
    calls.map(async ([method, path, body = {}, key]) => {
      const call = by[method](path).send(body);
      const { status, text } = await (key ? call.set('idempotency-key', key) : call);
      return { status, text, body: (text === '' ? {} : JSON.parse(text)) as Answer['body'] };
    }),
  );
  expect(answers.filter(({ status }) => status >= 500).map(({ text }) => text)).toEqual([]);
  expect(demo.logged).toEqual([]);
  return answers;
}

const times = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i));
const counts = (answers: readonly Answer[]) => {
  const found: Record<number, number> = {};
  for (const { status } of answers) found[status] = (found[status] ?? 0) + 1;
  return found;
};
const rows = async (sql: string, params: unknown[] = []) =>
  (await demo.db.query<{ n: number }>(`select count(*)::int as n from ${sql}`, params))[0]!.n;

describe('many at the same moment', () => {
  it('one of twenty robots of one name is made', async () => {
    const made = await atOnce(
      times(20, () => ['post', '/api/robots', { name: 'Tern 1', kit: 'cobble', standIn: true }]),
    );
    expect(counts(made)).toEqual({ 201: 1, 409: 19 });
    expect(made.find(({ status }) => status === 409)!.text).toMatch(/Tern 1/);
  });

  it('ten copies of a lesson have ten addresses', async () => {
    const made = await atOnce(times(10, () => ['post', '/api/lessons/tide-line/copies', { title: 'Neap' }]));
    expect(counts(made)).toEqual({ 201: 10 });
    expect(new Set(made.map(({ body }) => (body as unknown as Draft).lesson.slug)).size).toBe(10);
  });

  it('six new classes have their teams, and robots with names of their own', async () => {
    const made = await atOnce(
      times(6, (i) => [
        'post',
        '/api/classes',
        {
          school: 'Harbour School',
          name: `9 Class ${i}`,
          teams: ['Auk', 'Ruff', 'Smew'],
          robots: { kit: 'cobble', cupboard: 'New room', take: 'new' },
        },
      ]),
    );
    expect(counts(made)).toEqual({ 201: 6 });
    const { robots } = (await demo.api.get('/api/robots').expect(200)).body as { robots: RobotEntry[] };
    const fresh = robots.filter(({ cupboard }) => cupboard === 'New room');
    expect(fresh).toHaveLength(18);
    expect(new Set(robots.map(({ name }) => name.toLowerCase())).size).toBe(robots.length);
  });

  it('one class of one name is made, whole; the others leave no team and no robot behind', async () => {
    const before = await rows('robots');
    const made = await atOnce(
      times(8, () => [
        'post',
        '/api/classes',
        {
          school: 'Harbour School',
          name: 'Twice',
          teams: ['Auk'],
          robots: { kit: 'cobble', cupboard: '', take: 'new' },
        },
      ]),
    );
    expect(counts(made)).toEqual({ 201: 1, 409: 7 });
    expect(await rows('robots')).toBe(before + 1);
  });

  it('two classes that draw the same code at the door have two', async () => {
    const codes = await demo.services.db.transaction(async (tx) => {
      const drawn: string[] = [];
      for (const name of ['First to draw', 'Second to draw']) {
        // The same dice for both.
        await tx.query('select setseed(0.25)');
        const [row] = await tx.query<{ door_code: string }>(
          `insert into classes (school, name) values ('Harbour School', $1) returning door_code`,
          [name],
        );
        drawn.push(row!.door_code);
      }
      return drawn;
    });
    expect(codes[0]).not.toBe(codes[1]);
    for (const code of codes) expect(code).toMatch(/^([bdfgklmnprstvz][aeiou]){4}$/);
  });

  it('eight sets of readings of one robot are all kept', async () => {
    const before = await rows('sample_sets');
    const made = await atOnce(
      times(8, (i) => [
        'post',
        '/api/robots/8/sample-sets',
        { socket: 'K3', kind: 'light', surface: 'quay boards', values: [70 + i, 71, 72] },
      ]),
    );
    expect(counts(made)).toEqual({ 201: 8 });
    expect(new Set(made.map(({ body }) => body.id)).size).toBe(8);
    expect(await rows('sample_sets')).toBe(before + 8);
  });

  it('one of ten writes on the same version of a script is taken, the others are told', async () => {
    const path = '/api/teams/3/lessons/tide-line';
    const { script } = (await demo.api.get(path).expect(200)).body as {
      script: { version: number; text: string };
    };
    const before = await rows('script_versions');
    const made = await atOnce(
      times(10, (i) => [
        'post',
        `${path}/script-versions`,
        { text: `${script.text}\n# by hand ${i}`, basedOn: script.version },
      ]),
    );
    expect(counts(made)).toEqual({ 201: 1, 409: 9 });
    expect(await rows('script_versions')).toBe(before + 1);
  });

  it('a write that comes twelve times with one key is done once, and answered alike', async () => {
    const before = await rows('robots');
    const made = await atOnce(
      times(12, () => [
        'post',
        '/api/robots',
        { name: 'Keyed', kit: 'cobble', standIn: true, count: 2 },
        'one-key-for-twelve',
      ]),
    );
    expect(counts(made)).toEqual({ 201: 12 });
    expect(new Set(made.map(({ text }) => text)).size).toBe(1);
    expect(await rows('robots')).toBe(before + 2);
  });

  it('one of six new names for a robot is taken, the others know of it', async () => {
    const { body } = await demo.api.get('/api/robots/7').expect(200);
    const { revision } = body as { revision: number };
    const made = await atOnce(times(6, (i) => ['patch', '/api/robots/7', { name: `Petrel ${i}`, revision }]));
    expect(counts(made)).toEqual({ 204: 1, 409: 5 });
  });

  it('eight teams that want one mat: one has it', async () => {
    await demo.db.query('update mat_turns set ended_s = began_s where ended_s is null');
    const made = await atOnce(times(8, (i) => ['post', '/api/periods/1/turns', { team: i + 1, mat: 2 }]));
    expect(made.some(({ status }) => status === 201)).toBe(true);
    expect(await rows('mat_turns where ended_s is null and mat = 2 and period_id = 1')).toBe(1);
  });

  it('a call, pressed five times at once, is one call', async () => {
    const made = await atOnce(times(5, () => ['put', '/api/teams/6/hour/call', { about: 'It never stops' }]));
    expect(made.every(({ status }) => status === 204)).toBe(true);
    expect(await rows('team_calls where team_id = 6 and over_at is null')).toBe(1);
  });

  it('an invitation makes one account, however many take it', async () => {
    const { token } = (await demo.api.post('/api/invitations').send({ role: 'guest' }).expect(201)).body as {
      token: string;
    };
    const accounts = await rows('accounts');
    const made = await atOnce(
      times(4, (i) => [
        'post',
        `/api/invitations/${token}/acceptance`,
        { name: `Guest ${i}`, password: 'a long enough secret' },
      ]),
      signedIn(demo.app, ''),
    );
    expect(counts(made)).toEqual({ 201: 1, 404: 3 });
    expect(await rows('accounts')).toBe(accounts + 1);
  });

  it('of two owners who leave at once one stays', async () => {
    const own = async (name: string) => {
      const { token } = (await demo.api.post('/api/invitations').send({ role: 'owner' }).expect(201))
        .body as { token: string };
      const answer = await signedIn(demo.app, '')
        .post(`/api/invitations/${token}/acceptance`)
        .send({ name, password: 'a long enough secret' })
        .expect(201);
      return (answer.body as { account: number }).account;
    };
    const second = await own('Second Owner');
    const first = (
      await demo.db.query<{ id: number }>(
        `select id from accounts where role = 'owner' and removed_at is null and id <> $1`,
        [second],
      )
    ).map(({ id }) => id);
    await atOnce([
      ['patch', `/api/accounts/${first[0]}`, { role: 'teacher' }],
      ['patch', `/api/accounts/${second}`, { role: 'teacher' }],
    ]);
    expect(await rows(`accounts where role = 'owner' and removed_at is null`)).toBeGreaterThanOrEqual(1);
  });
});
