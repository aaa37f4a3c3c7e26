import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { Lesson } from '@vigilum/core/lesson';
import { addHour } from '../classes/hours.ts';
import { lessonBySlug, loadTeams } from '../classes/records.ts';
import type { Database } from '../db/database.ts';
import { migrate, migrations } from '../db/migrate.ts';
import { sampleOldSets } from '../readings/store.ts';
import { demoApp, emptyDatabase, NOW, type DemoApp } from './harness.ts';

type Rows = Record<string, Record<string, unknown>[]>;

/** The demo as it was at migration 005: every row of every table. */
const before = JSON.parse(
  gunzipSync(readFileSync(join(import.meta.dirname, 'demoAt005.json.gz'))).toString(),
) as Rows;

/** Tables in an order in which each row finds what it names. */
const ORDER = [
  ...['meta', 'kits', 'robots', 'classes', 'lessons', 'periods', 'teams', 'wire_checks', 'sample_sets'],
  ...['recordings', 'quick_looks', 'thresholds', 'script_versions', 'tries', 'proofs', 'floor_trials'],
  ...[
    'phrasebooks',
    'courses',
    'run_logs',
    'lesson_versions',
    'lesson_variants',
    'lesson_places',
    'step_notes',
  ],
];

async function oldDemo(): Promise<Database> {
  const db = await emptyDatabase();
  await migrate(
    db,
    migrations().filter(({ number }) => number <= 5),
  );
  for (const table of ORDER) {
    if (before[table]!.length === 0) continue;
    await db.query(
      `insert into ${table} overriding system value select * from jsonb_populate_recordset(null::${table}, $1::jsonb)`,
      [JSON.stringify(before[table])],
    );
  }
  for (const table of ORDER)
    if (before[table]!.some((row) => 'id' in row))
      await db.query(
        `select setval(pg_get_serial_sequence('${table}', 'id'), (select max(id) from ${table}))`,
      );
  return db;
}

const countOf = async (db: Database, table: string): Promise<number> =>
  (await db.query<{ n: number }>(`select count(*)::int as n from ${table}`))[0]!.n;

describe('a database from before lesson hours owned their evidence', () => {
  let db: Database;
  beforeAll(async () => {
    db = await oldDemo();
    await migrate(db);
    await sampleOldSets(db);
  }, 120_000);
  afterAll(() => db.close());

  it('keeps every row', async () => {
    for (const table of ORDER)
      expect([table, await countOf(db, table)]).toEqual([table, before[table]!.length]);
  });

  it('gives the hour what was done in it, and leaves the workshop’s robots their own', async () => {
    const owners = await db.query<{ robot_id: number; team_id: number | null; n: number }>(
      `select s.robot_id, w.team_id, count(*)::int as n from sample_sets s left join works w on w.id = s.work_id
        group by 1, 2 order by 1`,
    );
    for (const { robot_id, team_id } of owners)
      expect([robot_id, team_id]).toEqual([robot_id, robot_id <= 8 ? robot_id : null]);
    expect(
      await db.query('select 1 from tries t left join works w on w.id = t.work_id where w.id is null'),
    ).toEqual([]);
    const roots = await db.query('select distinct first_period_id from works');
    expect(roots).toEqual([{ first_period_id: 1 }]);
  });

  it('shows of every team what it showed before', async () => {
    const row = (await lessonBySlug(db, 'tide-line'))!;
    const teams = await loadTeams(
      db,
      before.teams!.map(({ id }) => id as number),
      row,
      { first: 1 },
    );
    const own = <T>(table: string, of: (row: Record<string, unknown>) => T, team: number, by = 'team_id') =>
      before[table]!.filter((one) => one[by] === team).map(of);
    for (const { team, robot, sensors, script, tries, proof, trials, notes } of teams) {
      const { sets, threshold, quickLooks } = sensors.K3!;
      const surfaces = new Set(
        own('sample_sets', (set) => (set.socket === 'K3' ? set.surface : null), robot.id, 'robot_id'),
      );
      surfaces.delete(null);
      expect(new Set(sets.map(({ surface }) => surface))).toEqual(surfaces);
      expect(threshold?.value ?? null).toBe(
        own('thresholds', ({ value }) => value, robot.id, 'robot_id').at(-1) ?? null,
      );
      expect(quickLooks).toHaveLength(own('quick_looks', () => 1, robot.id, 'robot_id').length);
      expect(script?.version ?? 0).toBe(
        Math.max(0, ...own('script_versions', ({ version }) => version as number, team.id)),
      );
      expect(tries).toHaveLength(Math.min(8, own('tries', () => 1, team.id).length));
      expect(proof?.proof).toEqual(own('proofs', ({ proof: kept }) => kept, team.id).at(-1));
      expect(trials).toHaveLength(own('floor_trials', () => 1, team.id).length);
      expect(Object.keys(notes).sort()).toEqual(
        own('step_notes', ({ step_id }) => step_id as string, team.id).sort(),
      );
    }
  });

  it('puts readings to the lesson that reads that surface, where a team had two', async () => {
    const two = await oldDemo();
    await two.exec(`
      insert into script_versions (team_id, lesson_id, version, text)
        select 1, id, 1, 'stop' from lessons where slug = 'stop-short';
      insert into sample_sets (robot_id, socket, kind, surface, readings, taken_at) values
        (1, 'K2', 'distance', '10 cm', '{10,11}', '2026-03-10T10:20:00Z'),
        (1, 'K3', 'light', 'quay boards', '{70,71}', '2026-03-10T10:21:00Z'),
        (1, 'K3', 'light', 'quay boards', '{70,71}', '2026-01-10T10:21:00Z')`);
    await migrate(two);
    const rows = await two.query<{ surface: string; slug: string | null }>(
      `select s.surface, l.slug from sample_sets s left join works w on w.id = s.work_id left join lessons l on l.id = w.lesson_id
        where s.id > $1 order by s.id`,
      [Math.max(...before.sample_sets!.map(({ id }) => id as number))],
    );
    expect(rows[0]).toEqual({ surface: '10 cm', slug: 'stop-short' });
    expect(rows[1]).toMatchObject({ surface: 'quay boards', slug: 'tide-line' });
    await two.close();
  }, 60_000);
});

describe('lessons in turn with the same robots', () => {
  let demo: DemoApp;
  let second: number;
  beforeAll(async () => {
    demo = await demoApp();
    // Another class on the first two robots.
    const [klass] = await demo.db.query<{ id: number }>(
      `insert into classes (school, name) values ('Ternmouth Harbour School', '8 Guillemot') returning id`,
    );
    second = klass!.id;
    await demo.db.query(
      `insert into teams (class_id, robot_id, name) values ($1, 1, 'Auk'), ($1, 2, 'Eider')`,
      [second],
    );
  }, 60_000);
  afterAll(() => demo.close());

  const idOf = async (table: string, where: string, value: unknown) =>
    (
      await demo.db.query<{ id: number }>(`select id from ${table} where ${where} = $1 order by id`, [value])
    ).map(({ id }) => id);
  const slugs = ['tide-line', 'follow-the-channel'] as const;

  /** Everything of every work, as boards and pages are given it. */
  async function all(): Promise<Map<string, string>> {
    const seen = new Map<string, string>();
    const roots = await demo.db.query<{ first: number; klass: number; slug: string }>(
      `select distinct p.first_id as first, p.class_id as klass, l.slug from periods p join lessons l on l.id = p.lesson_id`,
    );
    for (const { first, klass, slug } of roots) {
      const teams = await loadTeams(
        demo.db,
        await idOf('teams', 'class_id', klass),
        (await lessonBySlug(demo.db, slug))!,
        { first },
      );
      for (const { team, record: _record, ...rest } of teams) {
        // Checks of plugs are the robot's.
        const sensors = Object.values(rest.sensors).map((sensor) => ({ ...sensor, wireCheck: null }));
        seen.set(`${first} ${team.id}`, JSON.stringify({ ...rest, sensors }));
      }
    }
    return seen;
  }

  const read = (team: number, robot: number, lesson: string, surface: string, level: number) =>
    demo.api
      .post(`/api/robots/${robot}/sample-sets`)
      .send({
        socket: 'K3',
        kind: 'light',
        surface,
        values: [level, level + 1, level],
        whose: { team, lesson },
      })
      .expect(201);

  it('no record changes another, in whatever order', async () => {
    const step = fc.record({
      team: fc.constantFrom(1, 2, ...(await idOf('teams', 'class_id', second))),
      lesson: fc.constantFrom(...slugs),
      does: fc.constantFrom('reads', 'decides', 'writes', 'notes', 'begins an hour', 'begins anew'),
      level: fc.integer({ min: 5, max: 40 }),
    });
    const teams = new Map(
      (
        await demo.db.query<{ id: number; robot_id: number; class_id: number }>(
          'select id, robot_id, class_id from teams',
        )
      ).map((row) => [row.id, row]),
    );
    const surfacesOf = new Map<string, string[]>();
    for (const slug of slugs) {
      const { lesson } = (await lessonBySlug(demo.db, slug))! as { lesson: Lesson };
      surfacesOf.set(
        slug,
        lesson.read.tasks.map(({ surface }) => surface),
      );
    }
    let [steps, changed] = [0, 0];
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 7 }), async (sequence) => {
        for (const { team, lesson, does, level } of sequence) {
          steps++;
          const own = teams.get(team)!;
          const was = await all();
          const path = `/api/teams/${team}/lessons/${lesson}`;
          if (does === 'reads')
            for (const [i, surface] of surfacesOf.get(lesson)!.entries())
              await read(team, own.robot_id, lesson, surface, level + 45 * i);
          if (does === 'decides') {
            const { sensors } = (await demo.api.get(path).expect(200)).body as {
              sensors: Record<string, { sets: { id: number; surface: string }[] }>;
            };
            const sets = (sensors.K3?.sets ?? []).filter(({ surface }) =>
              surfacesOf.get(lesson)!.includes(surface),
            );
            if (sets.length < 2) continue;
            await demo.api.post(`/api/robots/${own.robot_id}/thresholds`).send({
              socket: 'K3',
              value: 45,
              method: 'own choice',
              setIds: sets.slice(0, 2).map(({ id }) => id),
              whose: { team, lesson },
            });
          }
          if (does === 'writes') {
            const { script } = (await demo.api.get(path).expect(200)).body as {
              script: { version: number } | null;
            };
            await demo.api
              .post(`${path}/script-versions`)
              .send({
                text: `sensor floor is light on K3\ndrive ${level} %\n`,
                basedOn: script?.version ?? 0,
              })
              .expect(201);
          }
          if (does === 'notes') {
            const { notes } = (await demo.api.get(path).expect(200)).body as {
              notes: Record<string, { revision: number }>;
            };
            const reflect = Object.keys(notes)[0] ?? 'reflect';
            await demo.api
              .put(`${path}/notes`)
              .send({ step: reflect, text: `it was ${level}`, revision: notes[reflect]?.revision ?? 0 });
          }
          if (does === 'begins an hour' || does === 'begins anew')
            await demo.api
              .post('/api/periods')
              .send({ classId: own.class_id, lesson, minutes: 50, anew: does === 'begins anew' })
              .expect(201);
          const now = await all();
          const { hour } = (await demo.api.get(path).expect(200)).body as { hour: { id: number } | null };
          const mine = `${hour?.id ?? 0} ${team}`;
          for (const [key, value] of was) {
            if (now.get(key) === value) continue;
            expect([does, key]).toEqual([does, mine]);
            changed++;
          }
        }
      }),
      { numRuns: 10 },
    );
    console.log(`${steps} steps, ${changed} records changed, each its own`);
    expect(changed).toBeGreaterThan(3);
  }, 240_000);

  it('the same lesson goes on where it stood, or begins with nothing while the old one stays', async () => {
    const path = '/api/teams/3/lessons/tide-line';
    type Page = {
      hour: { id: number };
      script: object | null;
      notes: object;
      sensors: Record<string, { sets: object[] }>;
    };
    const page = async () => {
      // Around the stand-in lies the mat of the newest hour, whatever it is.
      const { room: _room, ...own } = (await demo.api.get(path).expect(200)).body as Page & { room: unknown };
      return own;
    };
    const first = await page();
    const begin = async (anew: boolean) =>
      (
        (
          await demo.api
            .post('/api/periods')
            .send({ classId: 1, lesson: 'tide-line', minutes: 50, anew })
            .expect(201)
        ).body as { id: number }
      ).id;
    await begin(false);
    expect(await page()).toEqual({ ...first, now: expect.any(Number) as unknown as number });
    const again = await begin(true);
    const clean = await page();
    expect(clean.hour.id).toBe(again);
    expect([clean.script, clean.notes, clean.sensors.K3!.sets]).toEqual([null, {}, []]);
    const board = async (period: number) =>
      (
        (await demo.api.get(`/api/periods/${period}/board?teams=3`).expect(200)).body as {
          teams: { stages: object[]; help: unknown; lastAt: unknown }[];
        }
      ).teams[0]!;
    const untouched = await board(again);
    // Nobody is stuck, and nothing is done, before anybody has begun.
    expect([untouched.help, untouched.lastAt]).toEqual([null, null]);
    expect((await board(1)).lastAt).not.toBeNull();
  });

  it('a robot that is read on its own page reads for the hour in which its team is, by the ruler for itself', async () => {
    const whose = async (id: number) =>
      (
        await demo.db.query<{ team: number | null; slug: string | null }>(
          `select w.team_id as team, l.slug from sample_sets s left join works w on w.id = s.work_id
             left join lessons l on l.id = w.lesson_id where s.id = $1`,
          [id],
        )
      )[0];
    const post = async (robot: number, more: object = {}) =>
      (
        (
          await demo.api
            .post(`/api/robots/${robot}/sample-sets`)
            .send({ socket: 'K3', kind: 'light', surface: 'card', values: [1, 2], ...more })
            .expect(201)
        ).body as { id: number }
      ).id;
    expect(await whose(await post(4))).toEqual({ team: 4, slug: 'tide-line' });
    expect(await whose(await post(9))).toEqual({ team: null, slug: null });
    expect(
      await whose(await post(4, { socket: 'K2', kind: 'distance', surface: '10 cm', truth: 10 })),
    ).toEqual({
      team: null,
      slug: null,
    });
    // A team cannot read with a robot that another drives.
    await demo.api
      .post('/api/robots/4/sample-sets')
      .send({
        socket: 'K3',
        kind: 'light',
        surface: 'card',
        values: [1],
        whose: { team: 5, lesson: 'tide-line' },
      })
      .expect(404);
  });

  it('what was read before is offered, and taken over only where five looks say that it holds', async () => {
    const begin = (lesson: string) =>
      demo.api.post('/api/periods').send({ classId: 1, lesson, minutes: 50, anew: true }).expect(201);
    const path = '/api/teams/6/lessons/tide-line';
    type Offers = {
      older: { set: { id: number; surface: string; at: number }; lesson: string | null }[];
      sensors: Record<string, { sets: { surface: string; at: number }[] }>;
    };
    const page = async () => (await demo.api.get(path).expect(200)).body as Offers;
    await begin('tide-line');
    await read(6, 6, 'tide-line', 'tide line', 21);
    await read(6, 6, 'tide-line', 'quay boards', 76);
    expect((await page()).older).toEqual([]);
    await begin('tide-line');
    const { older, sensors } = await page();
    // Nothing counts by itself; the newest of each surface is offered.
    expect(sensors.K3!.sets).toEqual([]);
    expect(older.map(({ set, lesson }) => [set.surface, lesson]).sort()).toEqual([
      ['quay boards', 'Tide line'],
      ['tide line', 'Tide line'],
    ]);
    const of = (surface: string) => older.find(({ set }) => set.surface === surface)!.set;
    const carry = (set: number, values: (number | null)[], status: number) =>
      demo.api.post(`${path}/carried`).send({ set, values }).expect(status);
    const refused = await carry(of('tide line').id, [35, 36, 35, 36, 35], 409);
    expect((refused.body as { detail: string }).detail).toMatch(
      /^Nothing was taken over\. The tide line reads 35/,
    );
    await carry(of('tide line').id, [21, 22, null, null, null], 409);
    await carry(of('quay boards').id, [76, 77, 76, 77, 76], 201);
    await carry(of('quay boards').id, [76, 77, 76, 77, 76], 404);
    await carry(999_999, [76, 77, 76, 77, 76], 404);
    const after = await page();
    // It keeps the day on which it was read.
    expect(after.sensors.K3!.sets.map(({ surface, at }) => [surface, at])).toEqual([
      ['quay boards', of('quay boards').at],
    ]);
    expect(after.older.map(({ set }) => set.surface)).toEqual(['tide line']);
    // Another team's readings are not offered: it has another robot.
    expect(
      ((await demo.api.get('/api/teams/7/lessons/tide-line').expect(200)).body as Offers).older.some(
        ({ set }) => set.id === of('tide line').id,
      ),
    ).toBe(false);
  });

  it('hours far apart begin anew by themselves', async () => {
    const later = new Date(NOW.getTime() + 200 * 86_400_000);
    const lessonId = (await lessonBySlug(demo.db, 'count-the-lanes'))!.id;
    const hour = { classId: 1, lessonId, minutes: 50, began: true, anew: false };
    const one = await addHour(demo.db, { ...hour, startsAt: NOW });
    const two = await addHour(demo.db, { ...hour, startsAt: new Date(NOW.getTime() + 7 * 86_400_000) });
    const three = await addHour(demo.db, { ...hour, startsAt: later });
    expect([two.first_id, three.first_id]).toEqual([one.id, three.id]);
  });
});
