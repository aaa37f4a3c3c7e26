import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  recordOf,
  stagesOf,
  type StoredSet,
  type TeamEvidence,
  type ThresholdTable,
} from '@vigilum/core/classroom';
import type { Kit } from '@vigilum/core/sensing';
import type { AddressInfo } from 'node:net';
import { migrate, migrations } from '../db/migrate.ts';
import { httpServer } from '../http/listen.ts';
import { robotRow, standInConfig } from '../robots/store.ts';
import { cobble } from '../starter/cobble.ts';
import { demoApp, emptyDatabase, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
});
afterAll(async () => {
  await demo.close();
});
const detail = (text: string) => (JSON.parse(text) as { detail: string }).detail;
const readings = async (robot: number) =>
  (await demo.api.get(`/api/robots/${robot}/readings`).expect(200)).body as {
    sets: StoredSet[];
    recordings: { id: number; purpose: string; values: (number | null)[] }[];
  };
/** Plover's robot; nothing else in these tests writes to it. */
const PLOVER = 2;

describe('kits', () => {
  const raft: Kit = { ...cobble, slug: 'raft', name: 'Raft' };

  it('are added, changed, copied out, removed and brought back', async () => {
    await demo.api.post('/api/kits').send(raft).expect(201);
    expect(detail((await demo.api.post('/api/kits').send(raft).expect(409)).text)).toMatch(
      /is a kit “raft” already/,
    );
    const labelled = {
      ...raft,
      sockets: raft.sockets.map((s) =>
        s.name === 'K1' ? { ...s, label: 'the red plug' } : { ...s, label: '' },
      ),
    };
    await demo.api.put('/api/kits/raft').send({ revision: 1, kit: labelled }).expect(200);
    const list = async () =>
      ((await demo.api.get('/api/kits')).body as { kits: { kit: Kit; robots: number }[] }).kits;
    const kept = (await list()).find(({ kit }) => kit.slug === 'raft')!.kit;
    expect(kept.sockets.map(({ label }) => label)).toEqual([
      'the red plug',
      ...Array<undefined>(8).fill(undefined),
    ]);
    await demo.api.delete('/api/kits/raft').expect(204);
    expect((await list()).map(({ kit }) => kit.slug)).toEqual(['cobble', 'skiff']);
    await demo.api.post('/api/kits/raft/restoration').send({}).expect(204);
    expect(await list()).toHaveLength(3);
  });

  it('that contradict themselves, or leave a robot without its part, are refused with the reason', async () => {
    const twins = { ...raft, slug: 'twins', sockets: [...raft.sockets, { name: 'k1', takes: 'sensor' }] };
    expect(detail((await demo.api.post('/api/kits').send(twins).expect(422)).text)).toMatch(
      /two sockets are called k1/,
    );
    const blind = { ...cobble, sensors: cobble.sensors.filter(({ id }) => id !== 'floor-eye') };
    expect(
      detail((await demo.api.put('/api/kits/cobble').send({ revision: 1, kit: blind }).expect(409)).text),
    ).toMatch(/Cobble 1 no longer fits its kit/);
    expect(detail((await demo.api.delete('/api/kits/cobble').expect(409)).text)).toMatch(
      /is built from this kit/,
    );
    await demo.api
      .put('/api/kits/nowhere')
      .send({ revision: 1, kit: { ...raft, slug: 'nowhere' } })
      .expect(404);
    await demo.api
      .put('/api/kits/raft')
      .send({ revision: 1, kit: { ...raft, slug: 'other' } })
      .expect(422);
  });
});

describe('robots', () => {
  it('are added from a kit, rebuilt, and refused what their kit does not have', async () => {
    const { id } = (
      await demo.api.post('/api/robots').send({ name: 'Skiff 7', kit: 'skiff', standIn: true }).expect(201)
    ).body as { id: number };
    const robot = (await demo.api.get(`/api/robots/${id}`).expect(200)).body as {
      build: { fittings: { socket: string }[] };
      room: { surfaces: string[]; course: { name: string } };
    };
    expect(robot.build.fittings.map(({ socket }) => socket)).toEqual(['S-a', 'S-b', 'S-c']);
    expect(robot.room.surfaces.slice(0, 2)).toEqual(['tide line', 'quay boards']);
    // Hands push it over the mat of the lesson that the class is in, which is not the first of the year.
    expect(robot.room.course.name).toBe('Tide line');
    const build = { ...robot.build, quirks: ['pulls to the left'] };
    await demo.api.patch(`/api/robots/${id}`).send({ name: 'Skiff seven', build }).expect(204);
    const moved = { ...build, fittings: [{ ...build.fittings[0]!, socket: 'K1' }] };
    expect(
      detail((await demo.api.patch(`/api/robots/${id}`).send({ build: moved }).expect(422)).text),
    ).toMatch(/no sensor socket K1/);
    expect(
      detail((await demo.api.patch(`/api/robots/${id}`).send({ name: 'Cobble 1' }).expect(409)).text),
    ).toMatch(/another robot is called Cobble 1/);
    await demo.api.post('/api/robots').send({ name: 'x', kit: 'none', standIn: true }).expect(422);
  });

  it('keep the newest check of each sensor with its time', async () => {
    const check = {
      socket: 'K5',
      kind: 'heading',
      reacts: true,
      lowest: 0,
      highest: 90,
      driftPerS: 0.1,
      says: 'It reacts.',
    };
    await demo.api
      .post(`/api/robots/${PLOVER}/wire-checks`)
      .send({ ...check, reacts: false })
      .expect(201);
    await demo.api.post(`/api/robots/${PLOVER}/wire-checks`).send(check).expect(201);
    const { checks } = (await demo.api.get(`/api/robots/${PLOVER}`)).body as {
      checks: { socket: string; reacts: boolean }[];
    };
    expect(checks.filter(({ socket }) => socket === 'K5')).toMatchObject([{ reacts: true, driftPerS: 0.1 }]);
  });
});

describe('readings of every kind', () => {
  it('are kept with their true value, and colours with all three numbers', async () => {
    const url = `/api/robots/${PLOVER}/sample-sets`;
    await demo.api
      .post(url)
      .send({
        socket: 'K2',
        kind: 'distance',
        surface: 'against the ruler',
        truth: 15,
        values: [15.1, null, 15.3],
      })
      .expect(201);
    await demo.api
      .post(url)
      .send({ socket: 'K3', kind: 'rgb', surface: 'red card', values: [[180, 40, 41], null, [182, 42, 43]] })
      .expect(201);
    const { sets } = await readings(PLOVER);
    expect(sets.find(({ kind }) => kind === 'distance')).toMatchObject({
      truth: 15,
      values: [15.1, null, 15.3],
    });
    expect(sets.find(({ kind }) => kind === 'rgb')!.rgb).toEqual([[180, 40, 41], null, [182, 42, 43]]);
    expect(
      detail(
        (
          await demo.api
            .post(url)
            .send({ socket: 'K3', kind: 'light', surface: 'x', values: [null] })
            .expect(422)
        ).text,
      ),
    ).toMatch(/holds no reading/);
  });

  it('come from a file all or not at all', async () => {
    const url = `/api/robots/${PLOVER}/imports`;
    const before = (await readings(PLOVER)).sets.length;
    const set = (surface: string, values: unknown[]) => ({ socket: 'K3', kind: 'light', surface, values });
    await demo.api
      .post(url)
      .send({ sets: [set('good', [20, 21]), set('bad', ['x'])] })
      .expect(422);
    await demo.api
      .post(url)
      .send({ sets: [set('good', [20, 21]), set('empty', [null])] })
      .expect(422);
    expect((await readings(PLOVER)).sets).toHaveLength(before);
    const many = Array.from({ length: 100_000 }, (_, i) => 20 + (i % 7));
    const { ids } = (
      await demo.api
        .post(url)
        .send({ sets: [set('long table', many)] })
        .expect(201)
    ).body as { ids: number[] };
    // Pages get figures of the whole and an even sample; the whole set can be asked for.
    const shown = (await readings(PLOVER)).sets.find(({ id }) => id === ids[0])!;
    expect(shown.values).toHaveLength(60);
    expect(shown.of).toMatchObject({ n: 100_000, min: 20, max: 26 });
    const whole = (await demo.api.get(`/api/sample-sets/${ids[0]}`).expect(200)).body as StoredSet;
    expect(whole.values).toEqual(many);
    expect(whole.of).toBeUndefined();
    await demo.api.delete(`/api/sample-sets/${ids[0]}`).expect(204);
    expect(
      detail(
        (
          await demo.api
            .post(url)
            .send({ sets: [set('a', many), set('b', [...many, 1])] })
            .expect(422)
        ).text,
      ),
    ).toMatch(/200001 readings are more than 200000/);
  });

  it('sweeps are kept, removed and brought back', async () => {
    const url = `/api/robots/${PLOVER}/recordings`;
    const sweep = {
      socket: 'K3',
      kind: 'light',
      purpose: 'sweep',
      periodMs: 50,
      values: Array<number>(30).fill(76),
    };
    expect(
      detail(
        (
          await demo.api
            .post(url)
            .send({ ...sweep, values: [1, 2] })
            .expect(422)
        ).text,
      ),
    ).toMatch(/at least ten looks/);
    const { id } = (await demo.api.post(url).send(sweep).expect(201)).body as { id: number };
    const has = async () => (await readings(PLOVER)).recordings.some((r) => r.id === id);
    await demo.api.delete(`/api/recordings/${id}`).expect(204);
    expect(await has()).toBe(false);
    await demo.api.post(`/api/recordings/${id}/restoration`).send({}).expect(204);
    expect(await has()).toBe(true);
  });

  it.each([
    ['sweep', 1001, 5],
    ['sweep', 240, 1],
    ['sweep', 241, 2],
    ['touch', 2000, 1],
    ['touch', 20_000, 10],
  ])('of a %s of %d looks pages are given every k-th, gaps and all, k %d', async (purpose, n, k) => {
    const values = Array.from({ length: n }, (_, i) => (i % 7 === 0 ? null : i % 2));
    const { id } = (
      await demo.api
        .post(`/api/robots/${PLOVER}/recordings`)
        .send({ socket: 'K3', kind: 'light', purpose, periodMs: 10, values })
        .expect(201)
    ).body as { id: number };
    const shown = (await readings(PLOVER)).recordings.find((r) => r.id === id)!;
    expect(shown).toMatchObject({ purpose, periodMs: 10 * k, ...(k > 1 ? { of: n } : {}) });
    expect(shown.values).toEqual(values.filter((_, i) => i % k === 0));
    const whole = (await demo.api.get(`/api/recordings/${id}`).expect(200)).body as { values: unknown };
    expect(whole.values).toEqual(values);
    await demo.api.delete(`/api/recordings/${id}`).expect(204);
  });

  it('a real device’s lines are heard, its no-reading code as no reading, and noise is told', async () => {
    const lines = async (list: string[]) =>
      demo.api.post(`/api/robots/${PLOVER}/lines`).send({ lines: list });
    const heard: (number | null)[] = [];
    const stop = demo.bench.listen(PLOVER, null, ['K2'], (event) => {
      if (event.is === 'reading' && typeof event.value !== 'object') heard.push(event.value);
      else if (event.is === 'reading') heard.push(null);
    });
    const answer = await lines(['hello vigilum/1 Real', 'r 10 K2 42.5', 'r 70 k2 255', 'boot ok']);
    stop();
    expect([answer.status, answer.body]).toEqual([202, { readings: 2, refused: 1, firstRefused: 'boot ok' }]);
    expect(heard).toEqual([42.5, null]);
    expect(detail((await lines(['garbage'])).text)).toMatch(/first is “garbage”/);
  });
});

describe('every method of threshold', () => {
  const url = `/api/robots/${PLOVER}/thresholds`;
  const pairIds = async () =>
    (await readings(PLOVER)).sets
      .filter(({ surface, kind }) => kind === 'light' && ['tide line', 'quay boards'].includes(surface))
      .map(({ id }) => id);

  it('is remembered with its kind of comparison and why it was chosen', async () => {
    const setIds = await pairIds();
    const base = { socket: 'K3', setIds };
    await demo.api
      .post(url)
      .send({ ...base, method: 'two levels', value: 40, leave: 58 })
      .expect(201);
    await demo.api
      .post(url)
      .send({ ...base, method: 'change by', value: 33, reason: 'the light changes here' })
      .expect(201);
    await demo.api.post(url).send({ socket: 'K2', method: 'stop gap', value: 22.6 }).expect(201);
    const { thresholds } = (await demo.api.get(url).expect(200)).body as { thresholds: object[] };
    expect(thresholds).toMatchObject([
      { socket: 'K2', method: 'stop gap', compare: 'level', value: 22.6 },
      { method: 'change by', compare: 'change', reason: 'the light changes here' },
      { method: 'two levels', compare: 'pair', leave: 58 },
    ]);
  });

  it('is refused where it cannot work', async () => {
    const base = { socket: 'K3', setIds: await pairIds() };
    const says = async (body: object) =>
      detail(
        (
          await demo.api
            .post(url)
            .send({ ...base, ...body })
            .expect(422)
        ).text,
      );
    expect(await says({ method: 'change by', value: 90 })).toMatch(/never reached/);
    expect(await says({ method: 'two levels', value: 40, leave: 95 })).toMatch(/95 does not lie between/);
    expect(await says({ method: 'two levels', value: 40 })).toMatch(/leave is required/);
    expect(await says({ method: 'halfway', value: 40, setIds: [1] })).toMatch(/setIds/);
  });

  it('stands in one table for the class: who differs, who is poor, who is stale', async () => {
    const { periods } = (await demo.api.get('/api/today')).body as { periods: { id: number }[] };
    const { table } = (await demo.api.get(`/api/periods/${periods[0]!.id}/thresholds`).expect(200)).body as {
      table: ThresholdTable;
    };
    const remarks = Object.fromEntries(
      table.rows.map((r) => [r.team, r.remarks.map(({ says }) => says).join('; ')]),
    );
    expect(remarks.Gannet).toBe('');
    expect(remarks.Curlew).toMatch(/misreads in 1000.*from the class’s middle/);
    expect(remarks.Dunlin).toMatch(/stale/);
    expect(remarks.Petrel).toMatch(/misreads in 1000/);
    expect(table.rows.find(({ team }) => team === 'Avocet')).toMatchObject({
      value: null,
      low: null,
      readAt: null,
    });
    await demo.api.get('/api/periods/99/thresholds').expect(404);
  });
});

describe('quick looks', () => {
  it('make a team’s readings stale when its light has changed, and fresh again when they are read anew', async () => {
    const url = '/api/teams/1/lessons/tide-line';
    const read = async () =>
      stagesOf(recordOf((await demo.api.get(url)).body as TeamEvidence)).find(
        ({ stage }) => stage === 'read',
      )!.state;
    expect(await read()).toBe('done');
    const looks = { socket: 'K3', surface: 'tide line', values: [33, 34, 33, 32, 33] };
    await demo.api.post('/api/robots/1/quick-looks').send(looks).expect(201);
    expect(await read()).toBe('risk');
    await demo.api
      .post('/api/robots/1/quick-looks')
      .send({ ...looks, values: [21, 22, 21, 21, 22] })
      .expect(201);
    expect(await read()).toBe('done');
  });
});

describe('a database from before every sensor', () => {
  it('is brought up with its kits, readings and thresholds', async () => {
    const db = await emptyDatabase();
    const [first, ...rest] = migrations();
    await migrate(db, [first!]);
    const old = {
      sensors: [
        {
          id: 'eye',
          name: 'eye',
          kinds: ['light', 'colour'],
          unit: '%',
          min: 0,
          max: 100,
          step: 1,
          samplePeriodMs: 50,
        },
        {
          id: 'bumper',
          name: 'bumper',
          kinds: ['touch'],
          unit: '',
          min: 0,
          max: 1,
          step: 1,
          samplePeriodMs: 10,
        },
      ],
    };
    await db.query(`insert into kits (slug, name, definition) values ('k', 'K', $1::jsonb)`, [
      JSON.stringify(old),
    ]);
    await db.query(`insert into robots (kit_id, name, build) values (1, 'R', '{}')`);
    for (const surface of ['a', 'b'])
      await db.query(
        `insert into sample_sets (robot_id, socket, kind, surface, readings) values (1, 'K3', 'light', $1, '{1,2}')`,
        [surface],
      );
    await db.query(
      `insert into thresholds (robot_id, socket, value, way, low_set_id, high_set_id) values (1, 'K3', 5, 'halfway', 1, 2)`,
    );
    await db.query(`insert into wire_checks (robot_id, socket, reacts) values (1, 'K3', true)`);
    // A text that only looks like the field stays as it is.
    const lesson = (word: string) => ({
      steps: [{ text: 'write "school": "halfway" there', part: { [word]: 'halfway' } }],
    });
    await db.query(`insert into lessons (slug, title, definition) values ('l', 'L', $1::jsonb)`, [
      JSON.stringify(lesson('school')),
    ]);
    await migrate(db, [first!, ...rest]);
    expect(await db.query('select definition from lessons')).toEqual([{ definition: lesson('method') }]);
    const [{ definition }] = (await db.query<{ definition: { sensors: object[] } }>(
      'select definition from kits',
    )) as [{ definition: { sensors: object[] } }];
    expect(definition.sensors).toMatchObject([
      {
        id: 'eye',
        modes: [
          { kind: 'light', unit: '%', max: 100, samplePeriodMs: 50 },
          { kind: 'colour', unit: '' },
        ],
      },
      { id: 'bumper', modes: [{ kind: 'touch', max: 1 }] },
    ]);
    expect(await db.query('select method, compare, leave_value from thresholds')).toEqual([
      { method: 'halfway', compare: 'level', leave_value: null },
    ]);
    expect(await db.query('select kind from wire_checks')).toEqual([{ kind: 'light' }]);
    await db.close();
  });
});

describe('the live view of a whole robot', () => {
  it('brings every socket in gathered events, colours with all three numbers', async () => {
    const server = httpServer(demo.app).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const abort = new AbortController();
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/robots/9/live`;
    const response = await fetch(url, { headers: { cookie: demo.cookie }, signal: abort.signal });
    const seen = new Map<string, { value: number | null; rgb?: number[] }>();
    let events = 0;
    let looks = 0;
    const decoder = new TextDecoder();
    let rest = '';
    for await (const chunk of response.body!) {
      rest += decoder.decode(chunk as Uint8Array, { stream: true });
      const blocks = rest.split('\n\n');
      rest = blocks.pop()!;
      for (const block of blocks) {
        if (!block.startsWith('event: readings')) continue;
        events++;
        for (const look of JSON.parse(/^data: (.*)$/m.exec(block)![1]!) as {
          socket: string;
          value: number | null;
          rgb?: number[];
        }[]) {
          looks++;
          seen.set(look.socket, look);
        }
      }
      if (seen.size >= 8 && events >= 10) break;
    }
    abort.abort();
    server.closeAllConnections();
    server.close();
    expect([...seen.keys()].sort()).toEqual(['K1', 'K2', 'K3', 'K4', 'K5', 'K6', 'ML', 'MR']);
    const colour = seen.get('K3')!;
    expect(colour.rgb).toHaveLength(3);
    expect(colour.value).toBeCloseTo((colour.rgb![0]! + colour.rgb![1]! + colour.rgb![2]!) / 3, 9);
    expect(seen.get('K4')!.value).toBeNull();
    // Many looks come in one event: a page is not woken for each.
    expect(looks / events).toBeGreaterThan(2);
  });

  it('leaves the stand-in as hands left it when it is started anew', async () => {
    await demo.api.post('/api/robots/3/hand').send({ put: 'over', surface: 'tide line' }).expect(204);
    await demo.api.patch('/api/robots/3/fittings/K3').send({ heightMm: 11 }).expect(200);
    const heard: number[] = [];
    const row = await robotRow(demo.db, 3);
    const config = await standInConfig(demo.db, row);
    await new Promise<void>((resolve) => {
      const stop = demo.bench.listen(3, config, ['K3'], (event) => {
        if (event.is !== 'reading' || typeof event.value !== 'number') return;
        heard.push(event.value);
        if (heard.length === 5) {
          stop();
          resolve();
        }
      });
    });
    expect(Math.max(...heard)).toBeLessThan(40);
  });

  it('refuses hands on a real robot, and hands that are none', async () => {
    const { id } = (
      await demo.api.post('/api/robots').send({ name: 'Real one', kit: 'cobble', standIn: false }).expect(201)
    ).body as { id: number };
    expect(
      detail((await demo.api.post(`/api/robots/${id}/hand`).send({ put: 'air' }).expect(409)).text),
    ).toMatch(/has no stand-in: move the robot itself/);
    expect((await demo.api.get(`/api/robots/${id}`)).body).toMatchObject({ standIn: false, room: null });
    for (const hand of [
      { put: 'throw' },
      { put: 'front', mm: -1 },
      { put: 'at', xMm: 1 },
      {},
      { put: 'room', light: 101 },
    ])
      await demo.api.post('/api/robots/1/hand').send(hand).expect(422);
  });

  it('takes many writes at once and loses none', async () => {
    const count = async () =>
      (
        await demo.db.query<{ n: number }>('select count(*)::int as n from quick_looks where robot_id = 7')
      )[0]!.n;
    const before = await count();
    const look = { socket: 'K3', surface: 'tide line', values: [20, 21, 20, 21, 20] };
    await Promise.all(
      Array.from({ length: 40 }, () => demo.api.post('/api/robots/7/quick-looks').send(look).expect(201)),
    );
    expect((await count()) - before).toBe(40);
  });

  it('refuses a file that is too large before reading it', async () => {
    const huge = JSON.stringify({ sets: [{ note: 'x'.repeat(12.5 * 1024 * 1024) }] });
    await demo.api.post('/api/robots/1/imports').type('json').send(huge).expect(413);
  });
});
