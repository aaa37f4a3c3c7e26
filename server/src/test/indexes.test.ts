import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import request from 'supertest';
import { createApp } from '../app.ts';
import { grouped } from '../classes/rows.ts';
import { inSchool } from '../db/reach.ts';
import { joining } from '../http/scope.ts';
import { demoApp, onPostgres, type DemoApp } from './harness.ts';
import { fillWithYears } from './manyRows.ts';

// Years of many schools lie in one database, and a page still reads only what it shows.

/** Tables of which there is much: none is ever read from its beginning to its end for a page of one class, team, robot or hour. */
const LARGE = new Set(
  (
    'classes teams robots periods works script_versions script_documents script_updates sample_sets thresholds tries proofs ' +
    'floor_trials step_visits step_notes quick_looks recordings sessions writes kits lessons accounts meta'
  ).split(' '),
);
// Filling takes minutes on the embedded database: npm run test:postgres.
const many = onPostgres ? describe : describe.skip;
// A whole district takes a quarter of an hour to make: DISTRICT=1 does.
const amount = process.env.DISTRICT
  ? { schools: 1000, classes: 30, teams: 1, hours: 40 }
  : { schools: 1000, classes: 4, teams: 4, hours: 20 };
const FILLING_MS = process.env.DISTRICT ? 3_600_000 : 400_000;

interface Plan {
  'Node Type': string;
  'Relation Name'?: string;
  Plans?: Plan[];
}
const readsWhole = (plan: Plan): string[] => [
  ...(plan['Node Type'] === 'Seq Scan' && LARGE.has(plan['Relation Name'] ?? '')
    ? [plan['Relation Name']!]
    : []),
  ...(plan.Plans ?? []).flatMap(readsWhole),
];

let demo: DemoApp;
let asked: { sql: string; params: readonly unknown[]; ms: number }[] = [];
const middleOf = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? 0;
let of: number;
let get: (path: string) => request.Test;
async function setUp(): Promise<void> {
  demo = await demoApp();
  await fillWithYears(demo.services.db, amount);
  const { db } = demo.services;
  const watched = joining({
    ...db,
    async query(sql, params = []) {
      const began = performance.now();
      const rows = await db.query<never>(sql, params);
      asked.push({ sql, params, ms: performance.now() - began });
      return rows;
    },
  });
  const app = createApp({ services: { ...demo.services, db: watched }, log: (e) => demo.logged.push(e) });
  // Somebody of the school in the middle.
  of = (await middle()).of;
  const cookie = await inSchool(of, async () => {
    const [row] = await db.query<{ id: number }>(
      `insert into accounts (name, role, made_at) values ('Far Owner', 'owner', now()) returning id`,
    );
    return (await demo.services.access.sessions.begin({ account: row!.id })).token;
  });
  get = (path) => request(app).get(path).set('Cookie', `vigilum=${cookie}`);
}

/** A class in the middle of all, with its first team, robot, hour and lesson. */
async function middle() {
  const [row] = await demo.db.query<
    Record<'class' | 'team' | 'robot' | 'period' | 'of', number> & { slug: string }
  >(
    `select c.id as class, c.school_id as of, t.id as team, t.robot_id as robot, p.id as period, l.slug
       from classes c join teams t on t.class_id = c.id join periods p on p.class_id = c.id join lessons l on l.id = p.lesson_id
      where c.school = 'Far Harbour School' order by abs(c.id - (select avg(id) from classes)), p.id, t.id limit 1`,
  );
  return row!;
}

many('a page of one thing among the years of many', () => {
  beforeAll(setUp, FILLING_MS);
  afterAll(() => demo.close());

  it.each([
    ['a team’s lesson', '/api/teams/TEAM/lessons/SLUG'],
    ['a script that is open', '/api/teams/TEAM/lessons/SLUG/script'],
    ['the walk of a team', '/api/teams/TEAM/lessons/SLUG/walk'],
    ['a tablet’s hour', '/api/teams/TEAM/hour'],
    ['a class', '/api/classes/CLASS'],
    ['what a class has shown', '/api/classes/CLASS/skills'],
    ['an hour', '/api/periods/PERIOD'],
    ['the live sheet', '/api/periods/PERIOD/sheet'],
    ['the board', '/api/periods/PERIOD/board'],
    ['a robot', '/api/robots/ROBOT'],
    ['the readings of a robot', '/api/robots/ROBOT/readings'],
    ['a logbook', '/api/teams/TEAM/logbook'],
    ['today', '/api/today'],
    ['the classes of a school', '/api/classes'],
    ['the teams of a school', '/api/teams'],
    ['the plan of a school', '/api/plan'],
    ['the lessons of a school', '/api/lessons'],
    ['the robots of a school', '/api/robots'],
    ['the courses of a school', '/api/courses'],
    ['who has an account', '/api/accounts'],
  ])('%s finds its rows by an index', async (_, pattern) => {
    const at = await middle();
    const path = pattern.replace(/[A-Z]{4,}/, (name) => String(at[name.toLowerCase() as 'team']));
    const url = path.replace('SLUG', at.slug);
    await get(url);
    asked = [];
    const times: number[] = [];
    for (let i = 0; i < 5; i++) {
      const began = performance.now();
      const { status, text } = await get(url);
      expect([url, status, status === 200 ? '' : text]).toEqual([url, 200, '']);
      times.push(performance.now() - began);
    }
    const found: string[] = [];
    for (const { sql, params } of new Map(asked.map((one) => [one.sql, one])).values()) {
      if (!/^\s*(select|with)/i.test(sql)) continue;
      const [row] = await inSchool(of, () =>
        demo.db.query<{ 'QUERY PLAN': { Plan: Plan }[] }>(`explain (format json) ${sql}`, params),
      );
      const whole = readsWhole(row!['QUERY PLAN'][0]!.Plan);
      if (whole.length > 0) found.push(`${whole.join(', ')}: ${sql.replaceAll(/\s+/g, ' ').slice(0, 400)}`);
    }
    expect(found).toEqual([]);
    const statements = grouped(asked, ({ sql }) => sql);
    const slowest = Math.max(...[...statements.values()].map((all) => middleOf(all.map(({ ms }) => ms))));
    console.log(
      `${pattern}: ${middleOf(times).toFixed(0)} ms, its slowest statement ${slowest.toFixed(1)} ms`,
    );
  });
});
