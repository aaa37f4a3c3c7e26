import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { access, type OtherRoute } from '@vigilum/contract/access';
import { shapeOfRoute } from '@vigilum/contract/schemas';
import type { Route } from '@vigilum/contract/types';
import { migrate } from '../db/migrate.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { shippedKits } from '../starter/starter.ts';
import { dice } from '../../campaign/bench.ts';
import { valueFor } from './bodies.ts';
import { demoApp, emptyDatabase, onPostgres, type DemoApp } from './harness.ts';
import { FIRST, secondSchool } from './secondSchool.ts';

// Whatever one school asks for, nothing of another comes of it. Only PostgreSQL holds several: npm run test:postgres.
const several = onPostgres ? describe : describe.skip;

/** Tables whose rows belong to a school. */
const tablesWithSchool = async (demo: DemoApp): Promise<string[]> =>
  (
    await demo.db.query<{ name: string }>(
      `select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'school_id' order by 1`,
    )
  ).map(({ name }) => name);

/** What each table holds of a school, added up. */
async function sumsOf(demo: DemoApp, school: number): Promise<Record<string, string>> {
  const sums: Record<string, string> = {};
  for (const table of await tablesWithSchool(demo)) {
    const [row] = await demo.db.query<{ sum: string }>(
      `select count(*) || ' ' || coalesce(md5(string_agg(t::text, '|' order by t::text collate "C")), '') as sum
         from ${table} t where school_id = $1`,
      [school],
    );
    sums[table] = row!.sum;
  }
  return sums;
}

several('every route, asked by another school', () => {
  let demo: DemoApp;
  let far: Awaited<ReturnType<typeof secondSchool>>;
  beforeAll(async () => {
    demo = await demoApp();
    far = await secondSchool(demo);
  }, 60_000);
  afterAll(() => demo.close());

  it('no row of one is open to another, whoever asks for it by whatever route; and no row of another is changed', async () => {
    // Every id that a row of the first school has, by the table; more of what the demo has none of.
    await demo.db.query(
      `insert into days_off (name, from_day, to_day, school_id) values ('Quay day', '2026-05-04', '2026-05-04', 1)`,
    );
    await demo.db.query(
      `insert into own_skills (id, name, shows, needs, lessons, school_id) values ('own-quay', 'Quaying', 'quays', '{}', '[]', 1)`,
    );
    await demo.db.query(
      `insert into homework (work_id, step_id, text, handed_at, school_id) select min(id), 'quay', 'Quay answer', now(), 1 from works`,
    );
    await demo.db.query(
      `insert into kits (slug, name, definition, school_id) select 'quay-kit', 'Quay kit', definition, 1 from kits where slug = 'cobble' and school_id = 1`,
    );
    await demo.db.query(
      `insert into lessons (slug, title, definition, school_id) select 'quay-lesson', 'Quay lesson', definition, 1 from lessons where slug = 'tide-line' and school_id = 1`,
    );
    const ids = new Map<string, number[]>();
    for (const table of await tablesWithSchool(demo)) {
      const rows = await demo.db
        .query<{ id: unknown }>(`select id from ${table} where school_id = 1 order by id limit 3`)
        .catch(() => []);
      const numbers = rows.flatMap(({ id }) => (typeof id === 'number' ? [id] : []));
      if (numbers.length > 0) ids.set(table, numbers);
    }
    const all = [...ids.values()].flat();
    // What only the first school says.
    const shipped = JSON.stringify([harbourLessons, shippedKits]);
    const words = (
      await demo.db.query<{ word: string }>(
        `select name as word from classes where school_id = 1 union select name from teams where school_id = 1
         union select name from accounts where school_id = 1 union select name from robots where school_id = 1
         union select name from things where school_id = 1 union select name from terms where school_id = 1
         union select 'Quay' except select name from accounts where school_id <> 1`,
      )
    )
      .map(({ word }) => word)
      .filter((word) => word.length > 3 && !shipped.includes(word) && !/^(Cobble|Skiff)/.test(word));
    expect(words.length).toBeGreaterThan(15);

    const tableOf = (area: string) => area.replaceAll('-', '_');
    const placed = (path: string, random: (n: number) => number): string => {
      const [, area = ''] = path.split('/');
      return path.replaceAll(/:\w+/g, (name) => {
        if (name === ':slug') return area === 'kits' ? 'quay-kit' : 'quay-lesson';
        if (name === ':skill') return 'own-quay';
        if (name === ':socket') return 'K3';
        if (name === ':version') return '1';
        if (name === ':token' || name === ':name') return 'none';
        const table =
          name === ':id'
            ? tableOf(area)
            : {
                ':team': 'teams',
                ':class': 'classes',
                ':term': 'terms',
                ':turn': 'mat_turns',
                ':member': 'team_members',
              }[name];
        const of = (table && ids.get(table)) ?? all;
        return String(of[random(of.length)]);
      });
    };
    const random = dice(7);
    const skipped: readonly string[] = [
      'GET /events',
      'GET /robots/:id/live',
      'DELETE /sessions/mine',
      'DELETE /sessions',
      'PUT /me/password',
    ];
    const routes = (Object.keys(access) as (Route | OtherRoute)[]).filter(
      (route) => !skipped.includes(route),
    );
    const before = await sumsOf(demo, FIRST);
    const found: string[] = [];
    let asked = 0;
    const codes: Record<number, number> = {};
    for (const [role, api] of Object.entries(far.apis)) {
      for (const route of routes) {
        const [method, path] = route.split(' ') as [string, string];
        const shape = shapeOfRoute(route)?.body?.describe();
        // Bodies as the contract describes them, with ids of the other school wherever there is an id.
        for (let i = 0; i < (shape ? 3 : 1); i++) {
          const url = `/api${placed(path, random)}`;
          const call = api[method.toLowerCase() as 'get'](url);
          const answer = await (method === 'GET' || method === 'DELETE'
            ? call
            : call.send(shape ? (valueFor(shape, random, { slip: 0, ids: all }) as object) : {}));
          asked++;
          codes[answer.status] = (codes[answer.status] ?? 0) + 1;
          const says = answer.text ?? '';
          const said = words.filter((word) => says.includes(word));
          if (said.length > 0) found.push(`${role}: ${route} told ${said.join(', ')}`);
          if (answer.status >= 500) found.push(`${role}: ${route} answered ${answer.status} ${says}`);
          // Of what the first school has none, the id may be one of its own.
          const names = /:slug\b/.test(path) || (/:id\b/.test(path) && ids.has(tableOf(path.split('/')[1]!)));
          if (names && method === 'GET' && answer.status < 300) found.push(`${role}: ${route} opened ${url}`);
        }
      }
    }
    console.log(
      `${asked} requests of ${routes.length} routes in 5 roles of another school: ${JSON.stringify(codes)}`,
    );
    expect(found).toEqual([]);
    expect(await sumsOf(demo, FIRST)).toEqual(before);
    expect(codes[404]).toBeGreaterThan(150);
    // So many wrong codes and names would have to wait now.
    await demo.db.query('delete from wrong_tries');
  }, 240_000);

  it('no row points to one of another school', async () => {
    const links = await demo.db.query<{ child: string; column: string; parent: string }>(
      `select k.conrelid::regclass::text as child, a.attname as column, k.confrelid::regclass::text as parent
         from pg_constraint k join pg_attribute a on a.attrelid = k.conrelid and a.attnum = k.conkey[1]
        where k.contype = 'f' and array_length(k.conkey, 1) = 1`,
    );
    expect(links.length).toBeGreaterThan(40);
    for (const { child, column, parent } of links) {
      const key = parent === 'script_documents' ? 'work_id' : 'id';
      const rows = await demo.db.query(
        `select 1 from ${child} c join ${parent} p on p.${key} = c.${column} where c.school_id <> p.school_id limit 1`,
      );
      expect([child, column, rows.length]).toEqual([child, column, 0]);
    }
  });
});

it('every table holds schools apart, but for those that hold nothing of one', async () => {
  const db = await emptyDatabase();
  await migrate(db);
  const open = await db.query<{ name: string }>(
    `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname = 'public' and c.relkind = 'r'
        and not (c.relrowsecurity and c.relforcerowsecurity and exists (select 1 from pg_policy p where p.polrelid = c.oid))
      order by 1`,
  );
  expect(open.map(({ name }) => name)).toEqual(['migrations', 'wrong_tries']);
  await db.close();
});
