import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { ChangeSet, Text } from '@codemirror/state';
import { recordOf, stagesOf, type TeamEvidence } from '@vigilum/core/classroom';
import type { ScriptUpdate } from '@vigilum/contract/types';
import { ChangeFeed } from '../http/events.ts';
import { sampleOldSets } from '../readings/store.ts';
import { demoApp, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
});
afterAll(async () => {
  expect(demo.logged).toEqual([]);
  await demo.close();
});

const at = (team: number, lesson = 'tide-line') => `/api/teams/${team}/lessons/${lesson}`;
const workspace = async (team: number, lesson?: string) =>
  (await demo.api.get(at(team, lesson)).expect(200)).body as TeamEvidence;
/** SQL statements of a piece of work. */
async function statements(work: () => Promise<unknown>): Promise<number> {
  const before = demo.counted.statements;
  await work();
  return demo.counted.statements - before;
}
let keys = 0;
const key = () => `key-of-a-test-${++keys}`;

interface Script {
  revision: number;
  text: string;
  saved: { version: number; sameSince: number; text: string } | null;
}
const script = async (team: number, lesson?: string) =>
  (await demo.api.get(`${at(team, lesson)}/script`).expect(200)).body as Script;
const inserting = (text: string, from: number, insert: string, client = 'a'): ScriptUpdate => ({
  client,
  changes: ChangeSet.of(
    { from, insert: Text.of(insert.split('\n')) },
    text.length,
  ).toJSON() as ScriptUpdate['changes'],
});
const push = (team: number, body: object) => demo.api.post(`${at(team)}/script-updates`).send(body);

describe('small saves', () => {
  it('take at most four statements each: a place, a note, a script', async () => {
    const { revision, text } = await script(1);
    const written = (await workspace(1)).notes.predict?.revision ?? 0;
    const place = () =>
      demo.api
        .put(`${at(1)}/place`)
        .set('idempotency-key', key())
        .send({ step: 'wire' })
        .expect(204);
    const note = () =>
      demo.api
        .put(`${at(1)}/notes`)
        .set('idempotency-key', key())
        .send({ step: 'predict', text: 'about 12 mm', revision: written })
        .expect(200);
    const typed = () =>
      push(1, { from: revision, updates: [inserting(text, 0, '# ours\n')], settle: { by: 'Ida' } }).expect(
        201,
      );
    const counts = [await statements(place), await statements(note), await statements(typed)];
    // Where servers share a database, telling the others and hearing it oneself are two more.
    expect(Math.max(...counts)).toBeLessThanOrEqual(demo.db.wire ? 6 : 4);
  });

  it('a trial that was sent twice with one key is stored once, and answers the same', async () => {
    const send = (own: string) =>
      demo.api
        .post(`${at(6)}/floor-trials`)
        .set('idempotency-key', own)
        .send({ pastMm: 11, rested: true, tookS: 3 })
        .expect(201);
    const mine = key();
    const [first, second] = [await send(mine), await send(mine)];
    expect(second.body).toEqual(first.body);
    expect((await workspace(6)).trials).toHaveLength(1);
    await send(key());
    expect((await workspace(6)).trials).toHaveLength(2);
    // Two at once as well.
    const both = key();
    const [a, b] = await Promise.all([send(both), send(both)]);
    expect((a.body as { id: number }).id).toBe((b.body as { id: number }).id);
    expect((await workspace(6)).trials).toHaveLength(3);
  });

  it('a save that arrives twice at once is no conflict with itself', async () => {
    // The second finds the revision that the first has just made.
    for (let round = 0; round < 5; round++) {
      const { body: before } = await demo.api.get(`${at(6)}/script`).expect(200);
      const { revision, text } = before as { revision: number; text: string };
      const mine = key();
      const send = () =>
        demo.api
          .post(`${at(6)}/script-updates`)
          .set('idempotency-key', mine)
          .send({
            from: revision,
            updates: [
              { client: 'twice', changes: [[0, '# once', ''], ...(text === '' ? [] : [text.length])] },
            ],
          });
      const answers = await Promise.all([send(), send(), send()]);
      expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
      for (const { body } of answers) expect(body).toEqual(answers[0].body);
      const { body: after } = await demo.api.get(`${at(6)}/script`).expect(200);
      expect(after).toMatchObject({ revision: revision + 1, text: `# once\n${text}` });
    }
  });

  it('a write that is refused leaves its key free', async () => {
    const mine = key();
    const send = (step: string) =>
      demo.api
        .put(`${at(6)}/place`)
        .set('idempotency-key', mine)
        .send({ step });
    await send('nowhere').expect(422);
    await send('reflect').expect(204);
    expect((await workspace(6)).place).toBe('reflect');
  });

  it('a trial that waited for the network is dated when it was driven, unless its clock is far off', async () => {
    const { now } = (await workspace(6)) as TeamEvidence & { now: number };
    const log = async (own: number) =>
      (
        (
          await demo.api
            .post(`${at(6)}/floor-trials`)
            .send({ pastMm: 9, rested: true, tookS: null, at: own })
            .expect(201)
        ).body as { trial: { at: number } }
      ).trial.at;
    expect(await log(now - 90_000)).toBe(now - 90_000);
    expect(await log(now + 3_600_000)).toBe(now);
    expect(await log(1)).toBe(now);
  });

  it.each(['', 'short', 'with blanks in it', 'x'.repeat(65)])(
    'a key such as “%s” is refused',
    async (bad) => {
      if (bad === '') return;
      await demo.api
        .put(`${at(6)}/place`)
        .set('idempotency-key', bad)
        .send({ step: 'wire' })
        .expect(400);
    },
  );
});

describe('texts with blanks around them', () => {
  it('are trimmed, never refused', async () => {
    const draft = (await demo.api.get('/api/lessons/first-watch/draft')).body as {
      revision: number;
      lesson: { title: string; steps: { text: string; cautions: string[] }[] };
    };
    const { lesson } = draft;
    const [first, ...steps] = lesson.steps;
    const { body } = await demo.api
      .put('/api/lessons/first-watch/draft')
      .send({
        revision: draft.revision,
        lesson: {
          ...lesson,
          title: `${lesson.title} `,
          steps: [{ ...first, text: ' Look at it. \n', cautions: ['Mind the edge. '] }, ...steps],
        },
      })
      .expect(200);
    expect((body as typeof draft).lesson).toMatchObject({
      title: lesson.title,
      steps: [{ text: 'Look at it.', cautions: ['Mind the edge.'] }, ...steps.map(() => ({}))],
    });
    // A number stays a number: text that looks like one is refused as before.
    await demo.api.post('/api/periods').send({ classId: 1, lesson: 'tide-line', minutes: '50' }).expect(422);
  });
});

describe('a script that several write', () => {
  it('takes updates at the newest revision, hands the others what they missed, and loses no letter', async () => {
    const { revision, text } = await script(2);
    const mine = inserting(text, 0, '# mine\n', 'a');
    await push(2, { from: revision, updates: [mine] }).expect(201);
    const late = await push(2, { from: revision, updates: [inserting(text, 0, '# theirs\n', 'b')] }).expect(
      409,
    );
    expect(late.body).toMatchObject({ updates: [mine] });
    // Sent again after a lost answer, it is told that it is there already.
    const again = await push(2, { from: revision, updates: [mine] }).expect(409);
    expect(again.body).toMatchObject({ updates: [mine] });
    const now = await script(2);
    expect([now.revision, now.text]).toEqual([revision + 1, `# mine\n${text}`]);
    const missed = await demo.api.get(`${at(2)}/script-updates?from=${revision}`).expect(200);
    expect(missed.body).toMatchObject({ updates: [mine] });
    // No version before typing rests.
    expect(now.saved?.text ?? '').not.toContain('# mine');
    const rested = await push(2, { from: now.revision, updates: [], settle: { by: 'Ida' } }).expect(201);
    expect((rested.body as Script).saved).toMatchObject({ text: now.text });
    // Resting twice makes one version.
    const twice = await push(2, { from: now.revision, updates: [], settle: { by: 'Ida' } }).expect(201);
    expect((twice.body as Script).saved!.version).toBe((rested.body as Script).saved!.version);
  });

  it('refuses what fits no text, and changes nothing', async () => {
    const { revision, text } = await script(2);
    for (const changes of [[text.length + 5], [[text.length + 5, 'x']], [-3], [['x']], [[0.5]]])
      await push(2, { from: revision, updates: [{ client: 'a', changes }] }).expect(422);
    const flood = [0, 1, 2].map(() => inserting('', 0, 'x'.repeat(90_000)));
    await push(2, { from: revision, updates: flood }).expect(422);
    expect(await script(2)).toMatchObject({ revision, text });
  });

  it('tells an editor of another script that nothing can be rebased', async () => {
    const { revision, text } = await script(2);
    const { body } = await push(2, { from: revision + 40, updates: [inserting(text, 0, 'x')] }).expect(409);
    expect(body).toMatchObject({ document: { revision, text } });
    await demo.api.get(`${at(2)}/script-updates?from=99999`).expect(409);
  });

  it('takes a whole text from whoever has no editor, as an update for those who have', async () => {
    const before = await script(2);
    const text = `${before.text}\nstop`;
    await demo.api
      .post(`${at(2)}/script-versions`)
      .send({ text, basedOn: before.saved!.version })
      .expect(201);
    const { body } = await demo.api.get(`${at(2)}/script-updates?from=${before.revision}`).expect(200);
    const [update] = (body as { updates: ScriptUpdate[] }).updates;
    expect(
      ChangeSet.fromJSON(update!.changes)
        .apply(Text.of(before.text.split('\n')))
        .toString(),
    ).toBe(text);
  });

  it('begins with the lesson’s first lines where the team has none', async () => {
    const { text, revision, saved } = await script(3, 'count-the-lanes');
    expect([revision, saved]).toEqual([0, null]);
    expect(text).toBe((await workspace(3, 'count-the-lanes')).lesson.startScript);
  });

  it('keeps tries and proofs through blanks and comments, and voids them when the program changes', async () => {
    const state = async (stage: string) =>
      stagesOf(recordOf(await workspace(1))).find((one) => one.stage === stage)!.state;
    expect([await state('try'), await state('prove')]).toEqual(['done', 'done']);
    const typed = async (insert: string) => {
      const { revision, text } = await script(1);
      await push(1, { from: revision, updates: [inserting(text, 0, insert)], settle: { by: '' } }).expect(
        201,
      );
    };
    await typed('# a remark\n\n   \n');
    expect([await state('try'), await state('prove')]).toEqual(['done', 'done']);
    await typed('wait 0.1 s\n');
    expect([await state('try'), await state('prove')]).not.toContain('done');
  });
});

describe('notes of two tablets', () => {
  it('are refused from an older text, with both sides at hand, and every text can be brought back', async () => {
    const put = (page: string, text: string, revision: number) =>
      demo.api
        .put(`${at(7)}/notes`)
        .set('x-vigilum-page', page)
        .send({ step: 'reflect', text, revision });
    await put('tablet-one', 'It rolled on.', 0).expect(200);
    await put('tablet-one', 'It rolled on a bit.', 1).expect(200);
    await put('tablet-two', 'Too fast.', 2).expect(200);
    const late = await put('tablet-one', 'It rolled on a bit further.', 2).expect(409);
    expect(late.body).toMatchObject({ theirs: { revision: 3, value: 'Too fast.' } });
    await put('tablet-two', 'x', 0).expect(409);
    const { body } = await demo.api.get('/api/kept-versions?of=note&key=7/tide-line/reflect@1').expect(200);
    // Saves of one tablet in one sitting are one state.
    expect((body as { versions: object[] }).versions).toMatchObject([
      { revision: 3, value: 'Too fast.' },
      { revision: 2, value: 'It rolled on a bit.' },
    ]);
    await demo.api.get('/api/kept-versions?of=secrets&key=1').expect(422);
  });
});

describe('a team’s page after a long import', () => {
  it('stays under 25 kB, keeps the figures of the whole, and keeps the lesson’s own readings', async () => {
    const path = at(5);
    const before = (await demo.api.get(path)).text.length;
    const many = Array.from({ length: 5000 }, (_, i) => (i % 40 === 0 ? null : 70 + (i % 9)));
    const set = (surface: string, truth?: number) => ({
      socket: 'K3',
      kind: 'light',
      surface,
      values: many,
      ...(truth === undefined ? {} : { truth }),
    });
    const robot = (await workspace(5)).robot.id;
    await demo.api
      .post(`/api/robots/${robot}/imports`)
      .send({ sets: [set('quay boards'), ...Array.from({ length: 9 }, (_, i) => set(`table ${i}`))] })
      .expect(201);
    // Forty short ones on top.
    await demo.api
      .post(`/api/robots/${robot}/imports`)
      .send({ sets: Array.from({ length: 40 }, (_, i) => ({ ...set(`row ${i}`, i), values: [i, i + 1] })) })
      .expect(201);
    const { text } = await demo.api.get(path).expect(200);
    expect(before).toBeLessThan(25_000);
    expect(text.length).toBeLessThan(25_000);
    const { sets } = (JSON.parse(text) as TeamEvidence).sensors.K3!;
    const own = sets.find(({ surface }) => surface === 'quay boards')!;
    expect(own.of).toMatchObject({ n: 4875, noReadings: 125, min: 70, max: 78 });
    expect(sets.some(({ surface }) => surface === 'tide line')).toBe(true);
  });

  it('gives figures to long sets that were stored before there were any', async () => {
    await demo.db.query('update sample_sets set figures = null, sample = null');
    const sets = async () =>
      (await workspace(5)).sensors.K3!.sets.find(({ surface }) => surface === 'quay boards')!;
    await sampleOldSets(demo.db);
    expect((await sets()).of).toMatchObject({ n: 4875 });
  });
});

describe('the change feed', () => {
  const told = (feed: ChangeFeed, n: number) => {
    for (let i = 0; i < n; i++) feed.tell({ what: 'kit', kit: `kit-${i}` });
  };

  it('tells what a page missed, and says when it cannot', () => {
    const feed = new ChangeFeed(1000);
    expect(feed.since(1000)).toEqual([]);
    told(feed, 3);
    expect(feed.since(1001)!.map(({ change }) => change.revision)).toEqual([1002, 1003]);
    expect(feed.since(1003)).toEqual([]);
    // Of an earlier life of the server, or of a later one.
    expect([feed.since(12), feed.since(5000)]).toEqual([null, null]);
    told(feed, 600);
    expect(feed.since(1003)).toBeNull();
    expect(feed.since(1503)!.at(-1)!.change.revision).toBe(1603);
  });

  it('names the page that made a change, and tells nothing of what was refused', async () => {
    const before = demo.told.length;
    await demo.api
      .put(`${at(6)}/notes`)
      .send({ step: 'nowhere', text: '', revision: 0 })
      .expect(422);
    expect(demo.told).toHaveLength(before);
    await demo.api
      .put(`${at(6)}/notes`)
      .set('x-vigilum-page', 'a-page-of-mine')
      .send({ step: 'extend', text: 'next time slower', revision: 0 })
      .expect(200);
    expect(demo.told.at(-1)).toEqual({
      what: 'evidence',
      team: 6,
      lesson: 'tide-line',
      part: 'notes',
      of: 1,
    });
  });
});

describe('some rows of a board', () => {
  it('are those of the whole board', async () => {
    const { periods } = (await demo.api.get('/api/today').expect(200)).body as {
      periods: { id: number; teams: { id: number }[] }[];
    };
    const [period] = periods;
    const { body } = await demo.api.get(`/api/periods/${period!.id}/board?teams=3,5,999,x`).expect(200);
    expect((body as { teams: object[] }).teams).toEqual(
      period!.teams.filter(({ id }) => id === 3 || id === 5),
    );
    await demo.api.get('/api/periods/999/board?teams=1').expect(404);
  });
});
