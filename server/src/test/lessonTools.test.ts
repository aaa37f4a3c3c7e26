import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import { buildCourse, courseFamilies, familyOf } from '@vigilum/core/course';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import { courseSchema } from '@vigilum/contract/files';
import { harbourLessons } from '../starter/lessons/index.ts';
import { bundled } from '../program.ts';
import { demoApp, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => (demo = await demoApp()));
afterAll(() => demo.close());

const gannet = '/api/teams/1/lessons/tide-line';

describe('courses', () => {
  it('are kept, changed, taken away and brought back', async () => {
    const course = buildCourse(familyOf('channel'));
    const made = await demo.api
      .post('/api/courses')
      .send({ course, family: 'channel', parameters: { sharpMm: 170 } })
      .expect(201);
    const id = (made.body as { id: number }).id;
    await demo.api
      .put(`/api/courses/${id}`)
      .send({ revision: 1, course: { ...course, name: 'Ours' } })
      .expect(200);
    // Another page still has the first one: it is told, and what was there stays among the earlier states.
    const late = await demo.api
      .put(`/api/courses/${id}`)
      .send({ revision: 1, course: { ...course, name: 'Theirs' } })
      .expect(409);
    expect(late.body).toMatchObject({ theirs: { revision: 2, value: { course: { name: 'Ours' } } } });
    const kept = await demo.api.get(`/api/kept-versions?of=course&key=${id}`).expect(200);
    expect((kept.body as { versions: object[] }).versions).toMatchObject([
      { revision: 2, value: { course: { name: 'Ours' } } },
      { revision: 1, note: 'as it was', value: { course: { name: course.name }, family: 'channel' } },
    ]);
    expect((await demo.api.get(`/api/courses/${id}`).expect(200)).body).toMatchObject({
      name: 'Ours',
      family: null,
    });
    await demo.api.delete(`/api/courses/${id}`).expect(204);
    await demo.api.get(`/api/courses/${id}`).expect(404);
    await demo.api.post(`/api/courses/${id}/restoration`).send({}).expect(204);
    const list = (await demo.api.get('/api/courses').expect(200)).body as {
      courses: unknown[];
      lessons: unknown[];
    };
    expect([list.courses.length, list.lessons.length]).toEqual([1, 16]);
    expect(
      (await demo.api.post('/api/course-families/lanes/builds').send({ lines: 3 }).expect(200)).body.marks,
    ).toHaveLength(5);
    await demo.api.post('/api/course-families/nowhere/builds').send({}).expect(404);
  });

  it.each<[string, object, RegExp]>([
    ['no start', { starts: [] }, /starts/],
    ['a mark of no known kind', { marks: [{ kind: 'spiral' }] }, /kind/],
    [
      'a path of one point',
      {
        marks: [
          {
            kind: 'path',
            surface: { name: 'x', reflectance: 0.2 },
            points: [{ xMm: 0, yMm: 0 }],
            widthMm: 9,
          },
        ],
      },
      /points/,
    ],
    ['a track along a disc', { tracks: [{ id: 't', name: 't', mark: 1, side: 'left' }] }, /must follow/],
    ['a number out of this world', { widthMm: 1e9 }, /widthMm/],
    [
      'two boxes of one name',
      { boxes: [1, 2].map(() => ({ id: 'b', name: 'b', xMm: 1, yMm: 1, widthMm: 9, depthMm: 9 })) },
      /boxes/,
    ],
    ['something nobody knows', { surprise: 1 }, /surprise/],
  ])('%s: refused with the field', async (_, change, says) => {
    const course = { ...buildCourse(familyOf('channel')), ...change };
    const { body } = await demo.api.post('/api/courses').send({ course }).expect(422);
    expect((body as { detail: string }).detail).toMatch(says);
  });

  it('the published schema takes every family’s and lesson’s course, and refuses what the server refuses', () => {
    const file = join(import.meta.dirname, '../../../docs/schemas/course.schema.json');
    const check = new Ajv2020({ strict: false }).compile(JSON.parse(readFileSync(file, 'utf8')) as object);
    const good = [
      ...courseFamilies.map((family) => buildCourse(family)),
      ...harbourLessons.map(({ course }) => course),
    ];
    for (const course of good) {
      const plain = JSON.parse(JSON.stringify(course)) as unknown;
      expect([
        course.name,
        check(plain),
        check.errors?.[0]?.message,
        courseSchema.validate(plain).error?.message,
      ]).toEqual([course.name, true, undefined, undefined]);
    }
    const first = JSON.parse(JSON.stringify(good[0])) as Record<string, unknown>;
    for (const bad of [
      { ...first, starts: [] },
      { ...first, rim: 'lava' },
      { ...first, extra: 1 },
      { ...first, marks: [{ kind: 'disc' }] },
    ])
      expect([check(bad), courseSchema.validate(bad).error === undefined]).toEqual([false, false]);
  });
});

describe('the courses of lessons', () => {
  it('are those of their usual numbers where a twist makes them', async () => {
    const draft = async () =>
      (await demo.api.get('/api/lessons/stop-short/draft')).body as { revision: number; lesson: Lesson };
    const { revision, lesson } = await draft();
    const far = {
      ...lesson,
      twist: { ...lesson.twist!, family: { id: 'quay', values: { distanceMm: '20 * way' } } },
    };
    await demo.api.put('/api/lessons/stop-short/draft').send({ revision, lesson: far }).expect(200);
    const { lessons } = (await demo.api.get('/api/courses').expect(200)).body as {
      lessons: { slug: string; course: { heightMm: number } }[];
    };
    const shown = lessons.find(({ slug }) => slug === 'stop-short')!.course.heightMm;
    expect(shown).toBe(variantOf(far).course.heightMm);
    expect(shown).not.toBe(lesson.course.heightMm);
    await demo.api.post('/api/lessons/stop-short/shipped-form').send({}).expect(200);
  });
});

describe('what a lesson expects', () => {
  it('is changed by a teacher, survives a restart, and goes back to how it was shipped', async () => {
    const before = (await demo.api.get('/api/lessons/round-the-buoy/bench').expect(200)).body as {
      lesson: { expectations: object[] };
      revision: number;
      changed: boolean;
      kit: { slug: string };
    };
    expect([before.changed, before.kit.slug]).toEqual([false, 'cobble']);
    const expectations = [
      ...before.lesson.expectations,
      { kind: 'formula', says: 'Is calm', formula: 'always speed < 300' },
    ];
    await demo.api
      .patch('/api/lessons/round-the-buoy')
      .send({ revision: before.revision, expectations })
      .expect(200);
    // A second save from the same revision is refused with what is there; nothing is lost.
    const late = await demo.api
      .patch('/api/lessons/round-the-buoy')
      .send({ revision: before.revision, expectations: [] })
      .expect(409);
    expect(late.body).toMatchObject({ theirs: { revision: before.revision + 1 } });
    const after = (await demo.api.get('/api/lessons/round-the-buoy/bench')).body as typeof before;
    expect([after.changed, after.lesson.expectations.length]).toEqual([true, expectations.length]);
    await demo.api.post('/api/lessons/round-the-buoy/shipped-form').send({}).expect(200);
    expect(
      ((await demo.api.get('/api/lessons/round-the-buoy/bench')).body as typeof before).lesson.expectations,
    ).toEqual(before.lesson.expectations);
  });

  it('goes on following its twist where it was left alone', async () => {
    type Bench = { revision: number; lesson: { expectations: object[] } };
    const { lesson, revision } = (await demo.api.get('/api/lessons/stop-short/bench')).body as Bench;
    const [gap, ...rest] = lesson.expectations;
    const looser = { ...gap, toleranceMm: 35 };
    const { body } = await demo.api
      .patch('/api/lessons/stop-short')
      .send({ revision, expectations: [...rest, looser], proof: { runs: 20, bar: 0.8, seed: 1 } })
      .expect(200);
    expect(body).toMatchObject({ freed: 0, lesson: { proof: { runs: 20 } } });
    const draft = (await demo.api.get('/api/lessons/stop-short/draft')).body as {
      lesson: { twist: { bindings: { at: string }[] } };
    };
    expect(draft.lesson.twist.bindings.map(({ at }) => at)).toContain(`/expectations/${rest.length}/gapMm`);
    await demo.api.post('/api/lessons/stop-short/shipped-form').send({}).expect(200);
  });

  it.each<[string, object]>([
    ['an unknown kind', { expectations: [{ kind: 'flies' }] }],
    ['a missing number', { expectations: [{ kind: 'ends with gap', gapMm: 3 }] }],
    ['a condition that runs backwards in bounds only', { conditions: { alongMm: [1, 'x'] } }],
    ['too many runs', { proof: { runs: 100_000, bar: 0.9, seed: 1 } }],
    ['nothing', {}],
  ])('%s: 422, and nothing is changed', async (_, change) => {
    await demo.api
      .patch('/api/lessons/tide-line')
      .send({ revision: 1, ...change })
      .expect(422);
    expect((await demo.api.get('/api/lessons/tide-line/bench')).body).toMatchObject({ changed: false });
  });
});

describe('the floor', () => {
  it('takes a trial by any measure, judged by the same sentences, and none without a number', async () => {
    const stop = '/api/teams/2/lessons/stop-short';
    await demo.api
      .post(`${stop}/floor-trials`)
      .send({ gapMm: 151, rested: true, tookS: null, changed: 'threshold 18' })
      .expect(201);
    await demo.api.post(`${stop}/floor-trials`).send({ rested: true, tookS: null }).expect(422);
    const { trials } = (await demo.api.get(stop)).body as {
      trials: { gapMm: number; changed: string; judgements: { verdict: string }[] }[];
    };
    expect(trials).toMatchObject([{ gapMm: 151, changed: 'threshold 18' }]);
    expect(trials[0]!.judgements.map((j) => j.verdict)).toEqual([
      'holds',
      'cannot tell',
      'holds',
      'cannot tell',
    ]);
    // What was seen alone is a trial; what the lesson does not ask for is none.
    const seen = { rested: null, tookS: null, seen: { touched: true } };
    const touched = await demo.api.post(`${stop}/floor-trials`).send(seen).expect(201);
    const { judgements } = (touched.body as { trial: { judgements: { verdict: string; says: string }[] } })
      .trial;
    expect(judgements).toContainEqual(expect.objectContaining({ verdict: 'broken', says: 'by eye: yes' }));
    const odd = await demo.api
      .post(`${stop}/floor-trials`)
      .send({ ...seen, seen: { bumps: 3 } })
      .expect(422);
    expect(odd.text).toMatch(/“bumps” is not asked in this lesson/);
  });

  it('keeps a log, refuses one that is uneven or goes back in time, and forgets it on demand', async () => {
    const log = {
      name: 'run.csv',
      times: [0, 0.1, 0.2],
      signals: { K3: { unit: '%', values: [75, null, 20] } },
    };
    const { body } = await demo.api.post(`${gannet}/logs/imports`).send(log).expect(201);
    await demo.api
      .post(`${gannet}/logs/imports`)
      .send({ ...log, times: [0, 0.2, 0.1] })
      .expect(422);
    await demo.api
      .post(`${gannet}/logs/imports`)
      .send({ ...log, times: [0, 1] })
      .expect(422);
    await demo.api
      .post(`${gannet}/logs/imports`)
      .send({ ...log, signals: {} })
      .expect(422);
    const logs = async () =>
      ((await demo.api.get(`${gannet}/logs`)).body as { logs: { trace: object }[] }).logs;
    expect(await logs()).toMatchObject([
      { name: 'run.csv', trace: { times: log.times, signals: log.signals } },
    ]);
    const { id } = body as { id: number };
    await demo.api.delete(`/api/run-logs/${id}`).expect(204);
    expect(await logs()).toEqual([]);
    await demo.api.post(`/api/run-logs/${id}/restoration`).send({}).expect(204);
    expect(await logs()).toHaveLength(1);
  });

  it('lets the simulation use a robot’s own braking, and go back', async () => {
    await demo.api
      .put('/api/robots/1/braking')
      .send({ braking: { commandDelayMs: 8, tauBrakeS: 0.2 } })
      .expect(200);
    const past = async (seed: number) =>
      (
        (
          await demo.api
            .post(`${gannet}/tries`)
            .send({ scriptVersion: 1, start: 'A', seed, predicted: 20 })
            .expect(201)
        ).body as { pastMm: number }
      ).pastMm;
    const slow = await past(7);
    await demo.api.put('/api/robots/1/braking').send({ braking: null }).expect(200);
    // 30 % of full speed times the difference of the time constants.
    expect(slow - (await past(7))).toBeCloseTo(0.3 * 534.07 * (0.2 - 0.045), 0);
    await demo.api
      .put('/api/robots/1/braking')
      .send({ braking: { commandDelayMs: 8, tauBrakeS: 99 } })
      .expect(422);
  });
});

describe('trials of a robot by itself', () => {
  const trials = async (robot: number) =>
    (await demo.api.get(`/api/robots/${robot}/trials`).expect(200)).body as {
      trials: { id: number; trial: { kind: string } }[];
      stops: { team: string; trial: { speedPercent: number; samplePeriodMs: number } }[];
      braking: object | null;
    };
  const way = { kind: 'way', speedPercent: 100, seconds: 2, wentMm: 1040, asideMm: null };

  it('are kept, taken away, brought back, and told to every page that shows them', async () => {
    const { body } = await demo.api.post('/api/robots/2/trials').send(way).expect(201);
    const { id } = body as { id: number };
    // Two classes share it: both teams hear of it.
    expect(demo.told.at(-1)).toEqual({ what: 'robot', robot: 2, teams: [2, 10], part: 'trials' });
    await demo.api
      .post('/api/robots/2/trials')
      .send({ kind: 'creep', speedPercent: 2, moved: false })
      .expect(201);
    expect((await trials(2)).trials.map(({ trial }) => trial.kind)).toEqual(['creep', 'way']);
    await demo.api.delete(`/api/robot-trials/${id}`).expect(204);
    expect((await trials(2)).trials).toHaveLength(1);
    await demo.api.post(`/api/robot-trials/${id}/restoration`).send({}).expect(204);
    expect((await trials(2)).trials).toContainEqual(expect.objectContaining({ id, trial: way }));
    expect((await trials(3)).trials).toEqual([]);
  });

  it('have the stops beside them that teams logged in lessons, with their speed and the sensor’s period', async () => {
    const { stops } = await trials(1);
    expect(stops.length).toBeGreaterThan(0);
    for (const { team, trial } of stops)
      expect([team, trial.speedPercent, trial.samplePeriodMs]).toEqual(['Gannet', 30, 50]);
    expect((await trials(9)).stops).toEqual([]);
  });

  it.each([
    [{ ...way, speedPercent: 200 }, 'speedPercent must be less than or equal to 100'],
    [{ ...way, seconds: 0.1 }, 'seconds must be greater than or equal to 0.5'],
    [{ ...way, turnedDeg: 3 }, 'turnedDeg is not allowed'],
    [{ kind: 'fly' }, 'kind must be one of'],
    [{ kind: 'creep', speedPercent: 3 }, 'moved is required'],
    [{}, 'kind is required'],
  ])('refuses %j in one sentence', async (body, says) => {
    const answer = await demo.api.post('/api/robots/2/trials').send(body).expect(422);
    expect((answer.body as { detail: string }).detail).toMatch(says);
  });

  it('keeps part of a drive and leaves the rest to the kit', async () => {
    const put = (braking: object | null) => demo.api.put('/api/robots/4/braking').send({ braking });
    await put({ scrub: 0.1, deadPercent: 4 }).expect(200);
    expect((await trials(4)).braking).toEqual({ scrub: 0.1, deadPercent: 4 });
    await put({ scrub: 5 }).expect(422);
    await put({ topDegPerS: null }).expect(422);
    await put(null).expect(200);
    await demo.api.get('/api/robots/99/trials').expect(404);
    await demo.api.delete('/api/robot-trials/99999').expect(404);
  });
});

describe('npm run check', () => {
  const folder = mkdtempSync(join(tmpdir(), 'check-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  const script = (name: string, text: string) => writeFileSync(join(folder, name), text);
  /** Exit status and what was printed. */
  const check = (...args: string[]): [number, string] => {
    const command = [bundled('check')!, ...args];
    try {
      return [0, execFileSync(process.execPath, command, { stdio: ['ignore', 'pipe', 'pipe'] }).toString()];
    } catch (error) {
      const { status, stdout, stderr } = error as { status: number; stdout: Buffer; stderr: Buffer };
      return [status, `${stdout.toString()}${stderr.toString()}`];
    }
  };

  it('judges a folder of teams’ files at once: 0 when all are proved, 1 when not, 2 when it could not judge', () => {
    const teams = join(folder, 'teams');
    mkdirSync(teams);
    script('teams/gannet.txt', tide('stop\n'));
    expect(check('--lesson', 'tide-line', '--script', teams)).toEqual([
      0,
      expect.stringContaining('gannet.txt: proved'),
    ]);
    script('teams/fulmar.txt', tide(''));
    const [status, text] = check(
      '--lesson',
      'tide-line',
      '--script',
      teams,
      '--json',
      '--runs',
      '20',
      '--seed',
      '5',
    );
    expect(status).toBe(1);
    const told = JSON.parse(text) as { runs: number; scripts: { script: string; verdict: string }[] };
    expect(told.scripts.map(({ script: name, verdict }) => [name, verdict])).toEqual([
      ['fulmar.txt', 'fails'],
      ['gannet.txt', 'proved'],
    ]);
    expect(check('--lesson', 'tide-line', '--script', teams)).toEqual([
      1,
      expect.stringMatching(/fulmar\.txt: fails.*\n {2}refused by: Stops within 24 mm past/),
    ]);
    script('teams/shag.txt', 'drive fast');
    expect(check('--lesson', 'tide-line', '--script', teams)[0]).toBe(2);
  });
  const tide = (last: string) =>
    `sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\n${last}`;

  it('judges a lesson from a file, and says what is wrong with one that is none', () => {
    script('lesson.json', JSON.stringify(harbourLessons.find(({ slug }) => slug === 'stop-short')));
    expect(check('--lesson', join(folder, 'lesson.json'), '--runs', '40')).toEqual([
      0,
      expect.stringContaining('model answer: proved'),
    ]);
    script('bad.json', JSON.stringify({ slug: 'x', course: { marks: 'all' } }));
    expect(check('--lesson', join(folder, 'bad.json'))).toEqual([
      2,
      expect.stringMatching(/is no lesson[\s\S]*title/),
    ]);
    expect(check('--lesson', 'nowhere')[0]).toBe(2);
    expect(check('--lesson', 'tide-line', '--runs', '3')[0]).toBe(2);
    expect(check()[0]).toBe(2);
  });

  it('stops a hostile script by its budget and says so', () => {
    script('endless.txt', 'repeat\nend\n');
    script('huge.txt', 'let n = 99999999\nrepeat 999999999 times\nset n to n * n\nend\n');
    const from = Date.now();
    const [status, text] = check(
      '--lesson',
      'tide-line',
      '--script',
      join(folder, 'endless.txt'),
      '--script',
      join(folder, 'huge.txt'),
    );
    expect(status).toBe(1);
    expect(text).toContain('endless.txt: fails');
    expect(Date.now() - from).toBeLessThan(60_000);
  });
});
