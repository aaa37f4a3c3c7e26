import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import { lessonToJson, lessonToMarkdown } from '@vigilum/core/formats';
import { canonical, newStep, type Lesson, type TwistValues } from '@vigilum/core/lesson';
import { harbourLessons } from '../starter/lessons/index.ts';
import { demoApp, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
});
afterAll(() => demo.close());

interface Draft {
  lesson: Lesson;
  revision: number;
  model: string;
  changed: boolean;
}
const draft = async (slug: string) =>
  (await demo.api.get(`/api/lessons/${slug}/draft`).expect(200)).body as Draft;
const put = (slug: string, revision: number, lesson: object, note = '') =>
  demo.api.put(`/api/lessons/${slug}/draft`).send({ revision, lesson, note });
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
const listed = async () =>
  ((await demo.api.get('/api/lessons').expect(200)).body as { lessons: Lesson[] }).lessons.map(
    ({ slug }) => slug,
  );

const send = (text: string) => demo.api.post('/api/lessons/imports').send({ text });

describe('a lesson in work', () => {
  it.each(harbourLessons.map(({ slug }) => [slug]))('%s is opened and saved without loss', async (slug) => {
    const { lesson, revision } = await draft(slug);
    const saved = (await put(slug, revision, lesson).expect(200)).body as Draft;
    expect(canonical(saved.lesson)).toBe(canonical(lesson));
    expect(canonical((await draft(slug)).lesson)).toBe(canonical(lesson));
    // Nothing was changed: it still follows newer versions only where nobody saved it.
    expect(saved.revision).toBe(revision + 1);
  });

  it('refuses a save from an older one, hands over what is there, and loses neither', async () => {
    const { lesson, revision } = await draft('first-watch');
    await put('first-watch', revision, { ...lesson, title: 'Mine' }).expect(200);
    const answer = await put('first-watch', revision, { ...lesson, title: 'Theirs' }).expect(409);
    const body = answer.body as { theirs: { value: Lesson; revision: number }; detail: string };
    expect([body.theirs.value.title, body.theirs.revision]).toEqual(['Mine', revision + 1]);
    expect(body.detail).toMatch(/changed on another screen/);
  });

  it('keeps its address, and says so when another is sent', async () => {
    const { lesson, revision } = await draft('tide-line');
    await put('tide-line', revision, { ...lesson, slug: 'other' }).expect(422);
    expect((await draft('tide-line')).revision).toBe(revision);
  });

  it('has its model answer judged, and asks again only when something that is judged has changed', async () => {
    const proved = await demo.api.post('/api/lessons/stop-short/model-proofs').send({}).expect(201);
    expect((proved.body as { proof: { verdict: string } }).proof.verdict).toBe('proved');
    const { lesson, revision, model } = await draft('stop-short');
    expect(model).toBe('proved');
    const told = await put('stop-short', revision, { ...lesson, aim: 'Stops {gap} cm short.' }).expect(200);
    expect((told.body as Draft).model).toBe('proved');
    const changed = await put('stop-short', revision + 1, { ...lesson, timeLimitS: 11 }).expect(200);
    expect((changed.body as Draft).model).toBe('never proved');
  });

  it('says why a lesson without a robot cannot be judged', async () => {
    const { lesson } = await draft('tide-line');
    const bare: Partial<Lesson> = { ...lesson };
    delete bare.robot;
    const made = (await demo.api.post('/api/lessons').send({ lesson: bare }).expect(201)).body as Draft;
    const answer = await demo.api.post(`/api/lessons/${made.lesson.slug}/model-proofs`).send({}).expect(409);
    expect((answer.body as { detail: string }).detail).toMatch(/no robot to prove its model answer on/);
  });

  it('judges a model answer that fails as failing', async () => {
    const { lesson } = await draft('tide-line');
    const wrong = { ...lesson, title: 'Wrong', modelScript: lesson.faults![0]!.script };
    const made = (await demo.api.post('/api/lessons').send({ lesson: wrong }).expect(201)).body as Draft;
    const { proof } = (
      await demo.api.post(`/api/lessons/${made.lesson.slug}/model-proofs`).send({}).expect(201)
    ).body as { proof: { verdict: string } };
    expect(proof.verdict).toBe('fails');
    expect((await draft(made.lesson.slug)).model).toBe('not proved');
  });
});

describe('versions', () => {
  it('begin with what was there, gather a sitting, and bring any of them back', async () => {
    const slug = 'round-the-buoy';
    const { lesson, revision } = await draft(slug);
    await put(slug, revision, { ...lesson, aim: 'One.' }).expect(200);
    await put(slug, revision + 1, { ...lesson, aim: 'Two.' }).expect(200);
    await put(slug, revision + 2, { ...lesson, aim: 'Three.' }, 'before the fair').expect(200);
    const list = async () =>
      (
        (await demo.api.get(`/api/lessons/${slug}/versions`).expect(200)).body as {
          versions: { version: number; note: string }[];
        }
      ).versions.map(({ version, note }) => `${version} ${note}`);
    const numbers = await list();
    expect(numbers[0]).toMatch(/ before the fair$/);
    expect(numbers.at(-1)).toBe('1 as it was');
    const first = await demo.api.get(`/api/lessons/${slug}/versions/1`).expect(200);
    expect(canonical((first.body as { lesson: Lesson }).lesson)).toBe(canonical(lesson));
    const back = await demo.api.post(`/api/lessons/${slug}/versions/1/restoration`).send({}).expect(200);
    expect((back.body as Draft).lesson.aim).toBe(lesson.aim);
    expect((await list())[0]).toMatch(/ version 1 brought back$/);
    await demo.api.get(`/api/lessons/${slug}/versions/99`).expect(404);
  });
});

describe('copies and the list', () => {
  it('a copy has an address of its own and remembers where it came from', async () => {
    const copy = async () =>
      (
        (
          await demo.api
            .post('/api/lessons/tide-line/copies')
            .send({ title: 'Ebb line', from: 'a colleague' })
            .expect(201)
        ).body as Draft
      ).lesson;
    const [first, second] = [await copy(), await copy()];
    expect([first.slug, second.slug]).toEqual(['ebb-line', 'ebb-line-2']);
    expect(first.origin).toEqual({ title: 'Tide line', slug: 'tide-line', from: 'a colleague' });
    expect(await listed()).toContain('ebb-line-2');
  });

  it('a lesson is taken off the list and brought back; teams in it keep it', async () => {
    await demo.api.delete('/api/lessons/tide-line').expect(204);
    expect(await listed()).not.toContain('tide-line');
    await demo.api.get('/api/teams/1/lessons/tide-line').expect(200);
    await demo.api.post('/api/lessons/tide-line/restoration').send({}).expect(204);
    expect(await listed()).toContain('tide-line');
    await demo.api.delete('/api/lessons/nowhere').expect(404);
  });
});

describe('a stranger’s file', () => {
  const wrong = async (text: string, status = 422) =>
    (await send(text).expect(status)).body as { detail: string; fields?: { field: string; says: string }[] };

  it.each(harbourLessons.map((lesson) => [lesson.slug, lesson] as const))(
    '%s goes out as JSON and as Markdown, and comes back the same',
    async (_, lesson) => {
      for (const text of [lessonToJson(lesson), lessonToMarkdown(lesson)]) {
        const { body } = await send(text).expect(200);
        expect(canonical((body as { lesson: Lesson }).lesson)).toBe(canonical(plain(lesson)));
      }
    },
  );

  it('lists everything that is wrong with it at once, with its place', async () => {
    const [lesson] = harbourLessons;
    const bad = plain(lesson) as Record<string, unknown> & { steps: object[] };
    bad.minutes = 'long';
    bad.steps[0] = { ...bad.steps[0], kind: 'dance' };
    delete bad.course;
    const { detail, fields } = await wrong(lessonToJson(bad as unknown as Lesson));
    expect(detail).toBe('3 parts of the lesson cannot be taken. Nothing was changed.');
    expect(fields!.map(({ field }) => field)).toEqual(['minutes', 'course', 'steps.0.kind']);
  });

  it.each<[string, () => string, RegExp]>([
    ['broken JSON', () => '{"format": ', /not whole JSON/],
    ['another program’s JSON', () => '{"blocks": []}', /not a lesson/],
    ['plain words', () => 'Dear colleague,', /has no fence/],
    [
      'a wrong version',
      () => lessonToJson(harbourLessons[0]!).replace('"version": 1', '"version": 2'),
      /version 2/,
    ],
    ['deep nesting', () => `[${'['.repeat(500)}`, /nested too deeply/],
    [
      'steps that are called alike',
      () => {
        const step = newStep('brief', []);
        return lessonToJson({ ...harbourLessons[0]!, steps: [step, step] });
      },
      /1 part of the lesson cannot be taken/,
    ],
    [
      'a twist that points outside the lesson’s numbers',
      () =>
        lessonToJson({
          ...harbourLessons[0]!,
          twist: { parameters: [], constraints: [], bindings: [{ at: 'slug', value: '1' }] },
        }),
      /1 part of the lesson/,
    ],
    [
      'a script that is far too long',
      () => lessonToJson({ ...harbourLessons[0]!, modelScript: 'stop\n'.repeat(100_000) }),
      /1 part of the lesson/,
    ],
  ])('%s: 422 with a sentence, and nothing is changed', async (_, text, says) => {
    const before = await listed();
    expect((await wrong(text())).detail).toMatch(says);
    expect(await listed()).toEqual(before);
  });

  it('of ten megabytes is refused before it is read', async () => {
    await demo.api
      .post('/api/lessons/imports')
      .send({ text: 'x'.repeat(10_000_000) })
      .expect(413);
    await demo.api
      .post('/api/lessons')
      .send({ lesson: { title: 'x'.repeat(3_000_000) } })
      .expect(413);
  });

  it('with a script in its Markdown keeps it as text: nothing of it is run or stored as anything else', async () => {
    const [lesson] = harbourLessons;
    const evil =
      '<script>fetch("/api/lessons/tide-line", {method: "DELETE"})</script>[x](javascript:alert(1))';
    const given = { ...lesson!, steps: [{ ...newStep('brief', []), text: evil }] };
    const { body } = await send(lessonToMarkdown(given)).expect(200);
    expect((body as { lesson: Lesson }).lesson.steps![0]!.text).toBe(evil);
  });
});

describe('the published schema', () => {
  const schema = (name: string) =>
    JSON.parse(
      readFileSync(join(import.meta.dirname, `../../../docs/schemas/${name}.schema.json`), 'utf8'),
    ) as object;
  const ajv = new Ajv2020({ strict: false, schemas: [schema('course'), schema('robot-build')] });
  const check = ajv.compile(schema('lesson'));

  it('takes every lesson that Vigilum writes', () => {
    for (const lesson of harbourLessons)
      expect([lesson.slug, check(JSON.parse(lessonToJson(lesson))), check.errors?.[0]]).toEqual([
        lesson.slug,
        true,
        undefined,
      ]);
  });

  it('and the server refuse alike', async () => {
    const [lesson] = harbourLessons;
    const bad: Record<string, unknown>[] = [
      { minutes: 3 },
      { slug: 'Not A Slug' },
      { need: { kind: 'smell', socket: 'K1', name: 'nose' } },
      { steps: [{ ...newStep('brief', []), minutes: -1 }] },
      { steps: [{ ...newStep('brief', []), surprise: 1 }] },
      { twist: { parameters: [], constraints: [], bindings: [{ at: 'x', value: '1' }] } },
      {
        twist: {
          parameters: [{ is: 'word', name: 'a b', says: 'x', words: ['y'], usual: 'y' }],
          constraints: [],
          bindings: [],
        },
      },
      { floor: { trials: 99, landmark: '' } },
      { surprise: 1 },
    ];
    for (const change of bad) {
      const text = lessonToJson({ ...lesson!, ...change });
      expect([change, check(JSON.parse(text))]).toEqual([change, false]);
      await send(text).expect(422);
    }
  });
});

describe('every team its own twist', () => {
  const hand = (slug: string, body: object) =>
    demo.api.post(`/api/lessons/${slug}/variants`).send({ classId: 1, seed: 3, level: 0, ...body });
  const variants = async (slug: string) =>
    (
      (await demo.api.get(`/api/lessons/${slug}/variants/1`).expect(200)).body as {
        variants: {
          team: { id: number };
          values: TwistValues | null;
          says: string;
          proof: { verdict: string } | null;
        }[];
      }
    ).variants;

  it('is drawn, proved and handed out; the team’s lesson follows it', async () => {
    await hand('count-the-lanes', {}).expect(201);
    const all = await variants('count-the-lanes');
    expect(all).toHaveLength(8);
    expect(all.every(({ proof }) => proof?.verdict === 'proved')).toBe(true);
    expect(new Set(all.map(({ says }) => says)).size).toBeGreaterThan(4);
    for (const { team, values } of all.slice(0, 3)) {
      const own = (await demo.api.get(`/api/teams/${team.id}/lessons/count-the-lanes`)).body as {
        lesson: Lesson;
      };
      expect(own.lesson.expectations[0]).toMatchObject({ kind: 'counts', count: values!.lanes });
      const dark = own.lesson.course.marks.filter(({ surface }) => surface.name === 'lane line');
      expect(dark).toHaveLength(values!.lanes as number);
    }
    // The same seed hands out the same again.
    const says = all.map((one) => one.says);
    await hand('count-the-lanes', {}).expect(201);
    expect((await variants('count-the-lanes')).map((one) => one.says)).toEqual(says);
    await demo.api.delete('/api/lessons/count-the-lanes/variants/1').expect(204);
    expect((await variants('count-the-lanes')).every(({ values }) => values === null)).toBe(true);
  });

  it('keeps to the ranges of a level', async () => {
    await hand('stop-short', { level: 3 }).expect(201);
    for (const { values } of await variants('stop-short')) {
      expect(values!.gap as number).toBeGreaterThanOrEqual(10);
      expect(values!.gap as number).toBeLessThanOrEqual(12);
    }
  });

  it('is never handed out when its model answer does not pass', async () => {
    const { lesson, revision } = await draft('back-off-five');
    await put('back-off-five', revision, { ...lesson, modelScript: lesson.faults![0]!.script }).expect(200);
    const answer = await hand('back-off-five', {}).expect(422);
    expect((answer.body as { detail: string }).detail).toMatch(
      /no variant was found whose model answer is proved/,
    );
    expect((await variants('back-off-five')).every(({ values }) => values === null)).toBe(true);
  });

  it('is refused where there is none, where it has a fault, and for a class that is not here', async () => {
    const plain = await draft('first-watch');
    const bare = { ...plain.lesson };
    delete bare.twist;
    await put('first-watch', plain.revision, bare).expect(200);
    await hand('first-watch', {}).expect(409);
    await hand('stop-short', { classId: 77 }).expect(404);
    const { lesson, revision } = await draft('stop-short');
    const twist = { ...lesson.twist!, constraints: ['gap > 99'] };
    await put('stop-short', revision, { ...lesson, twist }).expect(200);
    const answer = await hand('stop-short', {}).expect(422);
    expect((answer.body as { detail: string }).detail).toMatch(/No values were found that keep “gap > 99”/);
  });
});

describe('where a team is in its lesson', () => {
  it('is kept, and is one of the lesson’s steps', async () => {
    const path = '/api/teams/3/lessons/guard-the-island';
    expect(((await demo.api.get(path)).body as { place: unknown }).place).toBeNull();
    await demo.api.put(`${path}/place`).send({ step: 'reflect' }).expect(204);
    await demo.api.put(`${path}/place`).send({ step: 'nowhere' }).expect(422);
    expect(((await demo.api.get(path)).body as { place: string }).place).toBe('reflect');
  });

  it('has what the team wrote down in its steps', async () => {
    const path = '/api/teams/6/lessons/tide-line';
    const notes = async () => ((await demo.api.get(path)).body as { notes: object }).notes;
    expect(await notes()).toEqual({});
    await demo.api.put(`${path}/notes`).send({ step: 'predict', text: '12 mm', revision: 0 }).expect(200);
    await demo.api
      .put(`${path}/notes`)
      .send({ step: 'predict', text: '15 mm, because it rolls', revision: 1 })
      .expect(200);
    await demo.api.put(`${path}/notes`).send({ step: 'nowhere', text: 'x', revision: 0 }).expect(422);
    await demo.api
      .put(`${path}/notes`)
      .send({ step: 'reflect', text: 'x'.repeat(2001), revision: 0 })
      .expect(422);
    expect(await notes()).toEqual({ predict: { text: '15 mm, because it rolls', revision: 2 } });
  });

  it('decides what a run is judged by: a step may have expectations of its own', async () => {
    const slug = 'tide-line';
    const { lesson, revision } = await draft(slug);
    const own = {
      ...newStep('try', lesson.steps!),
      part: { expectations: [{ kind: 'comes to rest' as const }] },
    };
    await put(slug, revision, { ...lesson, steps: [...lesson.steps!, own] }).expect(200);
    const run = async (step?: string) => {
      const { script } = (await demo.api.get(`/api/teams/1/lessons/${slug}`)).body as {
        script: { version: number };
      };
      const body = { scriptVersion: script.version, start: 'A', seed: 5, ...(step ? { step } : {}) };
      await demo.api.post(`/api/teams/1/lessons/${slug}/tries`).send(body).expect(201);
      const { tries } = (await demo.api.get(`/api/teams/1/lessons/${slug}`)).body as {
        tries: { judgements: unknown[] }[];
      };
      return tries[0]!.judgements.length;
    };
    expect([await run(), await run(own.id)]).toEqual([lesson.expectations.length, 1]);
  });
});
