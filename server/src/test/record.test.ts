import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { publishedSchema } from '@vigilum/contract/files';
import { readCsv, reportCsv, reportMarkdown, xapiStatements } from '@vigilum/core/formats';
import { dayOf, type ClassReport } from '@vigilum/core/year';
import type {
  HandedIn,
  HandedInOfClass,
  Logbook,
  Oblivion,
  SeriesFile,
  SeriesPreview,
  Term,
  YearPlan,
} from '@vigilum/contract/types';
import { restoreBackup } from '../backup/read.ts';
import { writeBackup } from '../backup/write.ts';
import { createApp } from '../app.ts';
import { Bench } from '../devices/bench.ts';
import { ChangeFeed } from '../http/events.ts';
import { Sessions } from '../access/sessions.ts';
import { startSimulations } from '../jobs/simulations.ts';
import { demoApp, emptyDatabase, NOW, signedIn, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
}, 60_000);
afterAll(() => demo.close());

const get = async <T>(path: string, from = demo.api): Promise<T> =>
  (await from.get(`/api${path}`).expect(200)).body as T;
const day = (at: number) => dayOf(at, 'UTC');
const uuid = (text: string): string => {
  const hex = createHash('sha256').update(text).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
};

describe('a report of a class', () => {
  it('is computed from the hours of the span alone, is as its published schema says, and says the same as text and rows', async () => {
    const plan = await get<YearPlan>('/plan');
    const [first, second] = plan.terms as [Term, Term];
    const report = await get<ClassReport>(`/classes/1/reports/${second.id}`);
    const check = new Ajv2020({ strict: false }).compile(publishedSchema('report'));
    expect([check(report), check.errors]).toEqual([true, null]);
    expect(report.lessons.map(({ slug }) => slug)).toEqual(['hold-a-bearing', 'bump-and-turn', 'tide-line']);
    const [watch] = report.lessons;
    expect(watch).toMatchObject({ teams: 7, proved: 5 });
    // Wilson 1927: of 50 each by five that proved, and one that came to nothing.
    expect(watch!.runs!.low).toBeLessThan(watch!.runs!.passes / watch!.runs!.of);
    expect(report.growth.at(-1)!.seen).toBeGreaterThanOrEqual(report.growth[0]!.seen);
    expect(report.growth.map(({ at }) => at)).toEqual(
      report.growth.map(({ at }) => at).sort((a, b) => a - b),
    );
    // Nothing of this class was in the first term; of last year’s, which is put away, all was.
    expect((await get<ClassReport>(`/classes/1/reports/${first.id}`)).lessons).toEqual([]);
    const gone = await get<ClassReport>(`/classes/3/reports/${first.id}`);
    expect(gone.lessons.map(({ slug }) => slug)).toEqual(['hold-a-bearing', 'stop-short', 'back-off-five']);
    const all = await get<ClassReport>('/classes/1/reports/all');
    expect(all.lessons).toHaveLength(3);
    await demo.api.get('/api/classes/1/reports/999').expect(404);
    await demo.api.get('/api/classes/999/reports/all').expect(404);

    const rows = readCsv(reportCsv(report, day));
    expect(rows).toMatchObject({ faults: [] });
    const text = reportMarkdown(report, day);
    for (const { name } of report.teams) expect(text).toContain(`## ${name}`);
    const one = reportMarkdown(report, day, 1);
    expect(one).toContain('# Gannet, 7 Kittiwake: Second term');
    expect(one).not.toContain('Plover');
  });

  it('leaves as xAPI statements that a validator takes, the same each time', async () => {
    const report = await get<ClassReport>('/classes/1/reports/all');
    const statements = xapiStatements(report, 'https://school.example', uuid, (at) =>
      new Date(at).toISOString(),
    );
    expect(statements.length).toBeGreaterThan(15);
    const { default: checkStatement } = createRequire(import.meta.url)('xapi-validation') as {
      default: (statement: unknown) => unknown[];
    };
    for (const statement of statements) expect(checkStatement(statement)).toEqual([]);
    expect(new Set(statements.map(({ id }) => id)).size).toBe(statements.length);
    expect(
      xapiStatements(report, 'https://school.example', uuid, (at) => new Date(at).toISOString()),
    ).toEqual(statements);
    // The validator is none that takes everything: check-values 15.12, faults of a statement.
    const [good] = statements;
    for (const bad of [
      { ...good, verb: {} },
      { ...good, id: '12' },
      { ...good, more: 1 },
      { ...good, result: { score: { scaled: 1.2 } } },
      { ...good, result: { duration: '12:30' } },
    ])
      expect(checkStatement(bad)).not.toEqual([]);
    const proved = statements.find(({ verb }) => verb.id.endsWith('/passed'))!;
    expect(proved.result.score!.scaled).toBeGreaterThan(0.8);
    expect(proved.actor.account.name).toMatch(/^team-\d+$/);
  });
});

describe('members of a team', () => {
  it('are nicknames that come and go; the record says who was in it when', async () => {
    const { id } = (await demo.api.post('/api/teams/2/members').send({ nickname: 'Puffin' }).expect(201))
      .body as { id: number };
    await demo.api.post('/api/teams/2/members').send({ nickname: 'puffin' }).expect(409);
    await demo.api.post('/api/teams/2/members').send({ nickname: ' ' }).expect(422);
    await demo.api.post('/api/teams/2/members').send({ nickname: 'Auk' }).expect(201);
    await demo.api.delete(`/api/teams/3/members/${id}`).expect(404);
    await demo.api.delete(`/api/teams/2/members/${id}`).expect(204);
    await demo.api.delete(`/api/teams/2/members/${id}`).expect(404);
    // Whoever comes back is in it again.
    await demo.api.post('/api/teams/2/members').send({ nickname: 'Puffin' }).expect(201);
    const { members } = await get<Logbook>('/teams/2/logbook');
    expect(members.map(({ nickname, leftAt }) => [nickname, leftAt === null])).toEqual([
      ['Puffin', false],
      ['Auk', true],
      ['Puffin', true],
    ]);
    const report = await get<ClassReport>('/classes/1/reports/all');
    expect(report.teams.find(({ id: team }) => team === 2)!.members).toContain('Auk');
  });
});

describe('homework', () => {
  const url = '/api/teams/1/lessons/tide-line/homework';
  it('is handed in, seen, answered, given back, and handed in anew', async () => {
    const tablet = await demo.as({ team: 1 });
    const other = await demo.as({ team: 2 });
    await tablet.post(url).send({ step: 'homework', text: '  ' }).expect(422);
    await tablet.post(url).send({ step: 'floor', text: 'x' }).expect(404);
    await other.post(url).send({ step: 'homework', text: 'not ours' }).expect(403);
    await other.get(url).expect(403);
    await tablet.post(url).send({ step: 'homework', text: 'forty times' }).expect(201);
    // Nobody has seen it: what comes now is in its place.
    const { id } = (
      await tablet.post(url).send({ step: 'homework', text: 'forty times a minute' }).expect(201)
    ).body as HandedIn;
    const list = async () => (await get<{ homework: HandedInOfClass[] }>('/classes/1/homework')).homework;
    expect((await list()).map(({ text, team, seenAt }) => [text, team.name, seenAt])).toEqual([
      ['forty times a minute', 'Gannet', null],
    ]);
    await tablet.patch(`/api/homework/${id}`).send({ answer: 'well done' }).expect(403);
    await demo.api.patch(`/api/homework/${id}`).send({}).expect(422);
    await demo.api
      .patch(`/api/homework/${id}`)
      .send({ answer: 'Say how you counted.', again: true })
      .expect(204);
    const own = async () => ((await tablet.get(url).expect(200)).body as { homework: HandedIn[] }).homework;
    expect(await own()).toMatchObject([
      { answer: 'Say how you counted.', again: true, answeredBy: 'Demo Teacher' },
    ]);
    // What was answered stays; the new one comes after it.
    await tablet.post(url).send({ step: 'homework', text: 'by the flashes' }).expect(201);
    expect((await own()).map(({ text }) => text)).toEqual(['forty times a minute', 'by the flashes']);
    await demo.api.patch('/api/homework/9999').send({ seen: true }).expect(404);
  });
});

describe('a series handed on', () => {
  it('is whole in its file, is looked at first, and comes into an empty Vigilum as it was', async () => {
    await demo.api
      .put('/api/own-skills/own-tidy')
      .send({
        name: 'tidies up',
        shows: 'the shelf is as it was',
        needs: ['loops'],
        lessons: ['first-watch'],
      })
      .expect(204);
    const file = await get<SeriesFile>('/series/1/file');
    const check = new Ajv2020({ strict: false }).compile(publishedSchema('series'));
    expect([check(file), check.errors]).toEqual([true, null]);
    expect(file.lessons).toHaveLength(5);
    expect(file.skills.map(({ id }) => id)).toEqual(['own-tidy']);
    const send = async (text: string, take: boolean, status = 200) =>
      (await demo.api.post('/api/series/imports').send({ text, take }).expect(status)).body as SeriesPreview;
    // Here all of it is there already.
    const same = await send(JSON.stringify(file), false);
    expect(same.lessons.every(({ is }) => is === 'same')).toBe(true);
    expect(same.id).toBeNull();
    // One lesson differs, one is unknown: the first comes beside its namesake, and says where it is from.
    const changed = structuredClone(file);
    changed.name = 'From next door';
    changed.from = 'Sandbank School';
    changed.lessons[0]!.aim = 'Another aim.';
    changed.lessons[1]!.slug = 'never-seen';
    const before = (await get<{ lessons: unknown[] }>('/lessons')).lessons.length;
    expect((await send(JSON.stringify(changed), false)).lessons.map(({ is }) => is)).toEqual([
      'other',
      'new',
      'same',
      'same',
      'same',
    ]);
    expect((await get<{ lessons: unknown[] }>('/lessons')).lessons).toHaveLength(before);
    const taken = await send(JSON.stringify(changed), true);
    const { series, lessons } = await get<YearPlan>('/plan');
    const made = series.find(({ id }) => id === taken.id)!;
    expect(made.lessons).toEqual([
      'first-watch-2',
      'never-seen',
      ...file.lessons.slice(2).map(({ slug }) => slug),
    ]);
    expect(lessons).toHaveLength(before + 2);
    for (const bad of [
      '',
      'hello',
      '{}',
      JSON.stringify({ ...file, lessons: [] }),
      JSON.stringify({ ...file, more: 1 }),
    ])
      await send(bad, true, 422);
    const broken = structuredClone(file);
    broken.lessons[2]!.course.starts = [];
    await send(JSON.stringify(broken), true, 422);
    expect((await get<YearPlan>('/plan')).series).toHaveLength(series.length);
  });

  it('a term of a class that is put away is taken over by another', async () => {
    const first = (await get<YearPlan>('/plan')).terms.find(({ name }) => name === 'First term')!;
    expect(first.classes.map(({ name }) => name)).toEqual(['9 Turnstone']);
    const { body } = await demo.api
      .post(`/api/terms/${first.id}/copies`)
      .send({
        name: 'First term again',
        from: '2027-01-04',
        classes: [{ from: first.classes[0]!.id, to: 2 }],
      })
      .expect(201);
    expect(body).toMatchObject({ meetings: 3, hours: 3, over: [] });
  });

  it('a term is copied to new days: same weekdays, days off left out, lessons in their order, what has no room told', async () => {
    const plan = await get<YearPlan>('/plan');
    const second = plan.terms.find(({ name }) => name === 'Second term')!;
    await demo.api
      .post('/api/days-off')
      .send({ days: [{ name: 'fair', from: '2026-09-08', to: '2026-09-08' }] })
      .expect(201);
    const done = (
      await demo.api
        .post(`/api/terms/${second.id}/copies`)
        .send({ name: 'Next year', from: '2026-09-01', classes: [{ from: 1, to: 2 }] })
        .expect(201)
    ).body as { id: number; meetings: number; hours: number; over: string[] };
    const after = await get<YearPlan>('/plan');
    const meetings = after.meetings.filter(({ term }) => term === done.id);
    expect(meetings).toHaveLength(done.meetings);
    const weekday = (at: number) => new Date(at).getUTCDay();
    const old = plan.meetings.filter((one) => one.term === second.id && one.class === 1);
    expect(new Set(meetings.map(({ startsAt }) => weekday(startsAt)))).toEqual(
      new Set(old.map(({ startsAt }) => weekday(startsAt))),
    );
    expect(meetings.some(({ startsAt }) => day(startsAt) === '2026-09-08')).toBe(false);
    // At the same time by the school’s clock, though summer time lies between.
    const clock = new Intl.DateTimeFormat('sv-SE', { timeZone: 'Europe/London', timeStyle: 'short' });
    expect(new Set([...meetings, ...old].map(({ startsAt }) => clock.format(startsAt)))).toHaveProperty(
      'size',
      1,
    );
    const order = (all: YearPlan, of: { id: number }[]) =>
      of.flatMap(({ id }) => all.hours.find(({ meeting }) => meeting === id)?.lesson.slug ?? []);
    expect(order(after, meetings)).toEqual(order(plan, old));
    // A term that begins on a Sunday has the same weekdays all the same.
    const sunday = (
      await demo.api
        .post(`/api/terms/${second.id}/copies`)
        .send({ name: 'From a Sunday', from: '2027-08-29', classes: [{ from: 1, to: 2 }] })
        .expect(201)
    ).body as { id: number };
    const fromSunday = (await get<YearPlan>('/plan')).meetings.filter(({ term }) => term === sunday.id);
    expect(new Set(fromSunday.map(({ startsAt }) => weekday(startsAt)))).toEqual(
      new Set(old.map(({ startsAt }) => weekday(startsAt))),
    );
    // In the week of its first meeting, not in the one after.
    const weeksIn = (from: string, at: number) =>
      Math.floor((Date.parse(day(at)) - Date.parse(from)) / (7 * 86_400_000));
    expect(weeksIn('2027-08-23', fromSunday[0]!.startsAt)).toBe(weeksIn(second.from, old[0]!.startsAt));
    await demo.api
      .post(`/api/terms/${second.id}/copies`)
      .send({ name: 'x', from: '2026-02-30', classes: [{ from: 1, to: 2 }] })
      .expect(422);
    await demo.api
      .post('/api/terms/999/copies')
      .send({ name: 'x', from: '2026-09-01', classes: [{ from: 1, to: 2 }] })
      .expect(404);
  });
});

describe('everything out and in again', () => {
  it('the whole demo comes back into an empty Vigilum and gives the same pages', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vigilum-out-'));
    const file = join(folder, 'all.vigilum');
    await writeBackup(demo.db, file, { vigilum: 'test', now: NOW });
    const back = await emptyDatabase();
    await restoreBackup(back, file);
    const sessions = new Sessions(back, () => NOW);
    const simulations = startSimulations(1);
    const bench = new Bench();
    const [account] = await back.query<{ id: number }>('select id from accounts order by id limit 1');
    const app = createApp({
      services: {
        ...demo.services,
        db: back,
        bench,
        simulations,
        changes: new ChangeFeed(),
        access: { ...demo.services.access, sessions },
      },
      log: () => undefined,
    });
    const there = signedIn(app, `vigilum=${(await sessions.begin({ account: account!.id })).token}`);
    const pages = [
      '/today',
      '/plan',
      '/classes',
      '/lessons',
      '/kits',
      '/robots',
      '/courses',
      '/classes/1/skills',
      '/classes/2/skills',
      '/classes/1/hours',
      '/classes/1/homework',
      '/classes/1/reports/all',
      '/classes/3/reports/all',
      '/periods/1',
      '/periods/1/sheet',
      '/periods/2/next',
      '/teams/1/logbook',
      '/teams/1/lessons/tide-line',
      '/teams/5/lessons/tide-line/walk',
      '/robots/9/readings',
    ];
    for (const path of pages) expect([path, await get(path, there)]).toEqual([path, await get(path)]);
    console.log(`${pages.length} pages of the demo are the same after it was taken out and in`);
    bench.close();
    await simulations.close();
    await back.close();
    rmSync(folder, { recursive: true });
  }, 120_000);
});

describe('a team that is forgotten', () => {
  it('is gone from every table, with a list of what was deleted; the others are as they were', async () => {
    const others = await get<Logbook>('/teams/2/logbook');
    await demo.api.post('/api/teams/1/oblivion').send({ name: 'Plover' }).expect(422);
    const before = await get<Oblivion>('/teams/1/oblivion');
    expect(before.rows.map(({ table }) => table)).toEqual(
      expect.arrayContaining([
        'teams',
        'works',
        'script_versions',
        'tries',
        'floor_trials',
        'step_notes',
        'homework',
        'sample_sets',
      ]),
    );
    const { body } = (await demo.api.post('/api/teams/1/oblivion').send({ name: 'gannet' }).expect(200)) as {
      body: Oblivion;
    };
    expect(body.rows.reduce((sum, { rows }) => sum + rows, 0)).toBe(
      before.rows.reduce((sum, { rows }) => sum + rows, 0),
    );
    await demo.api.get('/api/teams/1/logbook').expect(404);
    // Its name and its words are in no row of any table.
    const tables = await demo.db.query<{ name: string }>(
      `select relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public' and relkind = 'r'`,
    );
    for (const { name } of tables) {
      const [found] = await demo.db.query<{ n: number }>(
        `select count(*)::int as n from "${name}" t where to_jsonb(t)::text like '%by the flashes%' or to_jsonb(t)::text like '%"Gannet"%'`,
      );
      expect([name, found!.n]).toEqual([name, 0]);
    }
    expect((await get<{ forgotten: { by: string }[] }>('/forgotten')).forgotten).toMatchObject([
      { by: 'Demo Teacher' },
    ]);
    expect(await get<Logbook>('/teams/2/logbook')).toEqual(others);
    await demo.api.get('/api/periods/1').expect(200);
    await demo.api.get('/api/periods/1/sheet').expect(200);
    await demo.api.get('/api/classes/1/skills').expect(200);
  });
});
