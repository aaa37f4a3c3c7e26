import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { queueOf, standingIn, waitingIn } from '@vigilum/core/hour';
import type { PublicBoard, Sheet, TeamHour, Workspace } from '@vigilum/contract/types';
import { demoApp, NOW, type DemoApp, type signedIn } from './harness.ts';

let demo: DemoApp;
const clock = { now: NOW };
const later = (minutes: number) => (clock.now = new Date(clock.now.getTime() + minutes * 60_000));
beforeAll(async () => {
  demo = await demoApp(clock);
});
afterAll(() => demo.close());

type Api = ReturnType<typeof signedIn>;
const sheet = async (api: Api = demo.api, hour = 1) =>
  (await api.get(`/api/periods/${hour}/sheet`).expect(200)).body as Sheet;
const hourOf = async (team: number, api: Api = demo.api) =>
  (await api.get(`/api/teams/${team}/hour`).expect(200)).body as TeamHour;
const row = async (name: string) => (await sheet()).teams.find((team) => team.name === name)!;
const patch = (body: object) => demo.api.patch('/api/periods/1/run').send(body);
const queue = async () => {
  const { steps, teams, turns } = await sheet();
  return queueOf(waitingIn(steps, teams, turns)).map(({ team }) => team);
};

describe('the live sheet', () => {
  it('tells where each team is in the lesson’s own steps, since when, and what came out', async () => {
    const { steps, teams, hour } = await sheet();
    expect(hour.lesson.slug).toBe('tide-line');
    const at = Object.fromEntries(
      teams.map((team) => [team.name, steps[standingIn(steps, team.strip, team.visits).at]?.id]),
    );
    expect(at).toMatchObject({ Gannet: 'reflect', Plover: 'decide', Fulmar: 'script', Avocet: 'wire' });
    expect(teams.find(({ name }) => name === 'Avocet')!.finding!.says).toMatch(/on K4/);
    expect(teams.find(({ name }) => name === 'Gannet')!.provedMin).toBeCloseTo(14, 0);
    // Homework is no part of the hour.
    expect(steps.map(({ id }) => id)).not.toContain('homework');
  });

  it('shows a change at once, though rows are remembered; a step that a tablet opens is a visit', async () => {
    const tablet = await demo.as({ team: 2 });
    const before = await row('Plover');
    await tablet.put('/api/teams/2/lessons/tide-line/place').send({ step: 'script' }).expect(204);
    await tablet.put('/api/teams/2/lessons/tide-line/place').send({ step: 'script' }).expect(204);
    later(1);
    const after = await row('Plover');
    expect(after.place).toBe('script');
    // Opened twice in a row it is one visit.
    expect(after.visits).toHaveLength(before.visits.length + 1);
    expect(after.visits.at(-1)).toMatchObject({ step: 'script' });
    expect(after.visits.at(-1)!.atMin).toBeCloseTo(28, 5);
    // A pause does not count.
    await demo.api.patch('/api/periods/1').send({ action: 'pause' }).expect(200);
    later(10);
    await demo.api.patch('/api/periods/1').send({ action: 'resume' }).expect(200);
    await tablet.put('/api/teams/2/lessons/tide-line/place').send({ step: 'decide' }).expect(204);
    expect((await row('Plover')).visits.at(-1)!.atMin).toBeCloseTo(29, 5);
    // What is recorded shows in the row.
    await demo.api
      .post('/api/teams/2/lessons/tide-line/script-versions')
      .send({ text: 'sensor floor is light on K3\nstop\n', basedOn: 0 })
      .expect(201);
    expect((await row('Plover')).strip.find(({ id }) => id === 'script')!.figure).toBe('1 step');
    // Within the same second: it is the change that is followed, not the clock.
    const driven = async () => (await row('Gannet')).lastAt;
    const last = await driven();
    await demo.api
      .post('/api/teams/1/lessons/tide-line/floor-trials')
      .send({ pastMm: 9, rested: true, tookS: 3 })
      .expect(201);
    expect(await driven()).toBeGreaterThan(last!);
  });

  it('a plan that is changed changes what teams are asked; unknown steps are refused, Undo brings all back', async () => {
    const trials = async () =>
      ((await demo.api.get('/api/teams/1/lessons/tide-line').expect(200)).body as Workspace).lesson.floor
        .trials;
    const asked = await trials();
    const { plan } = (await sheet()).run;
    expect((await patch({ plan: { skipped: ['no-such'] } }).expect(422)).text).toMatch(/no step “no-such”/);
    await patch({ plan: { trials: { floor: 2 }, minutes: { floor: 5 }, atHome: ['extend'] } }).expect(200);
    expect(await trials()).toBe(2);
    const changed = await sheet();
    expect(changed.steps.find(({ id }) => id === 'floor')).toMatchObject({ trials: 2, minutes: 5 });
    expect(changed.steps.map(({ id }) => id)).not.toContain('extend');
    await patch({ plan }).expect(200);
    expect(await trials()).toBe(asked);
  });

  it('learns from earlier hours of the lesson, of this class first', async () => {
    const made = await demo.api
      .post('/api/periods')
      .send({ classId: 1, lesson: 'tide-line', minutes: 50, anew: true })
      .expect(201);
    const { id } = made.body as { id: number };
    const { before, teams, turns } = await sheet(demo.api, id);
    expect(before.length).toBeGreaterThan(20);
    expect(before.every(({ minutes }) => minutes >= 0.25)).toBe(true);
    // It is another hour: nothing of the old one is in it.
    expect(
      teams.every(({ visits, notes, call }) => visits.length + notes.length === 0 && call === null),
    ).toBe(true);
    expect(turns).toEqual([]);
    await demo.api.delete(`/api/periods/${id}`).expect(204);
  });
});

describe('what goes to and fro between teacher and teams', () => {
  it('a call, its change and its end from either side', async () => {
    const tablet = await demo.as({ team: 7 });
    const call = (about: string) => tablet.put('/api/teams/7/hour/call').send({ about }).expect(204);
    await call('No step says stop.');
    await call('Something else');
    expect((await row('Petrel')).call).toMatchObject({ about: 'Something else' });
    await tablet.delete('/api/teams/7/hour/call').expect(204);
    expect((await row('Petrel')).call).toBeNull();
    await call('Again');
    demo.told.length = 0;
    await demo.api.delete('/api/periods/1/teams/7/call').expect(204);
    expect(demo.told).toContainEqual(expect.objectContaining({ what: 'hour', period: 1, team: 7 }));
    expect((await hourOf(7, tablet)).call).toBeNull();
    // No team calls in the name of another.
    await tablet.put('/api/teams/6/hour/call').send({ about: 'x' }).expect(403);
  });

  it('a note is seen by its team alone, marked as seen, and can be taken back; a hint names a step', async () => {
    const [mine, other] = [await demo.as({ team: 7 }), await demo.as({ team: 1 })];
    const send = (body: object) => demo.api.post('/api/periods/1/teams/7/notes').send(body);
    const { id } = (await send({ kind: 'note', says: 'Change one thing.' }).expect(201)).body as {
      id: number;
    };
    expect((await hourOf(7, mine)).notes[0]).toMatchObject({ says: 'Change one thing.', seenAt: null });
    expect((await hourOf(1, other)).notes).toEqual([]);
    await other.put(`/api/teams/1/hour/notes/${id}/seen`).send({}).expect(404);
    await mine.put(`/api/teams/7/hour/notes/${id}/seen`).send({}).expect(204);
    expect((await row('Petrel')).notes[0]!.seenAt).not.toBeNull();
    await demo.api.delete(`/api/hour-notes/${id}`).expect(204);
    expect((await hourOf(7, mine)).notes).toEqual([]);
    await send({ kind: 'hint', says: 'x' }).expect(422);
    await send({ kind: 'hint', says: 'A hint is open.', step: 'script' }).expect(201);
    await demo.api.post('/api/periods/1/teams/99999/notes').send({ kind: 'note', says: 'x' }).expect(404);
  });

  it('stop everyone, a sentence to all: on every tablet and board until taken off', async () => {
    const [tablet, board] = [await demo.as({ team: 5 }), await demo.as({ board: 1 })];
    await patch({ stopped: 'Stop. Eyes to the front.', told: 'Ten minutes more.' }).expect(200);
    expect((await hourOf(5, tablet)).run).toMatchObject({
      stopped: 'Stop. Eyes to the front.',
      told: { says: 'Ten minutes more.' },
    });
    expect(((await board.get('/api/board').expect(200)).body as PublicBoard).run).toMatchObject({
      stopped: 'Stop. Eyes to the front.',
    });
    await patch({ stopped: null }).expect(200);
    expect((await hourOf(5, tablet)).run).toMatchObject({
      stopped: null,
      told: { says: 'Ten minutes more.' },
    });
    await patch({ told: null }).expect(200);
    await tablet.patch('/api/periods/1/run').send({ stopped: 'x' }).expect(403);
  });

  it('a board shows how far teams are, and nothing that is wrong with anybody', async () => {
    const board = await demo.as({ board: 1 });
    const { body, text } = await board.get('/api/board').expect(200);
    const shown = body as PublicBoard;
    expect(shown.teams).toHaveLength(8);
    expect(new Set(shown.teams.flatMap(({ strip }) => strip.map(({ state }) => state)))).toEqual(
      new Set(['done', 'now', 'none']),
    );
    expect(shown.teams.flatMap(({ strip }) => strip.map(({ figure }) => figure)).join('')).toBe('');
    for (const secret of ['finding', 'call', 'notes', 'help', 'It never stops'])
      expect(text).not.toContain(secret);
  });
});

describe('the mats', () => {
  it('a turn is handed over by one press; a mat takes one team, a team one mat; Undo puts it back', async () => {
    const turns = async () =>
      (await sheet()).turns.filter(({ endedMin }) => endedMin === null).map(({ team, mat }) => [mat, team]);
    expect(await turns()).toEqual([[1, 5]]);
    const begin = (team: number, mat: number) => demo.api.post('/api/periods/1/turns').send({ team, mat });
    // Dunlin makes room for Shag; the place that the teacher had set is used up.
    await begin(8, 1).expect(201);
    expect(await turns()).toEqual([[1, 8]]);
    expect((await row('Shag')).pinned).toBeNull();
    expect(await queue()).not.toContain(8);
    // Pressed twice it is the same turn.
    const [first, second] = [await begin(8, 1).expect(201), await begin(8, 1).expect(201)];
    expect((second.body as { id: number }).id).toBe((first.body as { id: number }).id);
    // Shag moves over to mat 2: it is on one mat only.
    await begin(8, 2).expect(201);
    expect(await turns()).toEqual([[2, 8]]);
    expect((await begin(8, 3).expect(422)).text).toMatch(/has 2 mats/);
    const { turns: all } = await sheet();
    const on = all.find(({ team, endedMin }) => team === 8 && endedMin === null)!;
    await demo.api.delete(`/api/periods/1/turns/${on.id}`).expect(204);
    expect(await turns()).toEqual([]);
    await demo.api.post(`/api/periods/1/turns/${on.id}/restoration`).send({}).expect(204);
    expect(await turns()).toEqual([[2, 8]]);
    await begin(3, 2).expect(201);
    expect(
      (await demo.api.post(`/api/periods/1/turns/${on.id}/restoration`).send({}).expect(409)).text,
    ).toMatch(/another team is on this mat/);
    // With fewer mats, who was on those that are gone is off.
    await patch({ mats: 1 }).expect(200);
    expect(await turns()).toEqual([]);
    await patch({ mats: 2 }).expect(200);
    await demo.api.delete('/api/periods/1/turns/99999').expect(404);
  });

  it('a tablet knows its place, its turn, and ticks its cautions; others’ it cannot', async () => {
    const [dunlin, shag] = [await demo.as({ team: 5 }), await demo.as({ team: 8 })];
    await demo.api.put('/api/periods/1/teams/5/pin').send({ place: 1 }).expect(204);
    await demo.api.put('/api/periods/1/teams/8/pin').send({ place: 2 }).expect(204);
    expect((await hourOf(8, shag)).mat).toMatchObject({ is: 'waiting', place: 2, of: 2 });
    await demo.api.put('/api/periods/1/teams/5/pin').send({ place: null }).expect(204);
    expect((await hourOf(8, shag)).mat).toMatchObject({ place: 1, of: 1 });
    expect((await hourOf(5, dunlin)).mat).toBeNull();
    const { id } = (await demo.api.post('/api/periods/1/turns').send({ team: 8, mat: 1 }).expect(201))
      .body as { id: number };
    const { mat, at } = await hourOf(8, shag);
    expect(mat).toMatchObject({ is: 'on', mat: 1, ticked: false, step: 'floor' });
    expect(mat!.is === 'on' && mat!.cautions.join(' ')).toMatch(/catcher/);
    expect(at!.step).toBe('try');
    await dunlin.put(`/api/teams/5/hour/turns/${id}/tick`).send({}).expect(404);
    await shag.put(`/api/teams/8/hour/turns/${id}/tick`).send({}).expect(204);
    expect((await hourOf(8, shag)).mat).toMatchObject({ ticked: true });
    // Two presses at once: the mat has one team.
    const both = await Promise.all(
      [1, 6].map((team) => demo.api.post('/api/periods/1/turns').send({ team, mat: 2 })),
    );
    expect(both.map(({ status }) => status)).toEqual([201, 201]);
    expect(
      (await sheet()).turns.filter(({ mat: on, endedMin }) => on === 2 && endedMin === null),
    ).toHaveLength(1);
  });

  it('without an hour there is nothing to run: said in a sentence', async () => {
    await demo.api.patch('/api/periods/1').send({ action: 'end' }).expect(200);
    const tablet = await demo.as({ team: 2 });
    expect(await hourOf(2, tablet)).toMatchObject({ hour: null, mat: null, steps: [] });
    expect((await tablet.put('/api/teams/2/hour/call').send({ about: 'x' }).expect(409)).text).toMatch(
      /no lesson hour/,
    );
    expect((await demo.api.post('/api/periods/1/turns').send({ team: 2, mat: 1 }).expect(409)).text).toMatch(
      /the hour is ended/,
    );
    const board = await demo.as({ board: 1 });
    expect(((await board.get('/api/board').expect(200)).body as PublicBoard).hour).toBeNull();
    await demo.api.patch('/api/periods/1').send({ action: 'reopen' }).expect(200);
    expect((await hourOf(2, tablet)).hour).not.toBeNull();
  });
});
