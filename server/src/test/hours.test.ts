import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Hour, Period, TeamGoes, TeamRecordThen, Today } from '@vigilum/contract/types';
import { hourState } from '@vigilum/core/classroom';
import { demoApp, NOW, type DemoApp } from './harness.ts';

const MIN = 60_000;
const DAY = 86_400_000;
const clock = { now: NOW };
const at = (ms: number) => {
  clock.now = new Date(NOW.getTime() + ms);
};
let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp(clock);
}, 60_000);
afterAll(() => demo.close());

const today = async () => (await demo.api.get('/api/today').expect(200)).body as Today;
const act = (id: number, body: object, status = 200) =>
  demo.api.patch(`/api/periods/${id}`).send(body).expect(status);
const goes = async (team: number) => (await demo.api.get(`/api/teams/${team}`).expect(200)).body as TeamGoes;
const detail = (body: unknown) => (body as { detail: string }).detail;

describe('lesson hours', () => {
  it('stand on Today by what they are: going on, next, before', async () => {
    const { periods, next, past } = await today();
    expect(periods.map(({ lesson, current }) => [lesson.slug, current])).toEqual([['tide-line', true]]);
    // The other class has its own; what is planned for later weeks is not for today.
    expect(next.map(({ lesson }) => lesson.slug)).toEqual(['tide-line', 'follow-the-channel']);
    expect(past[0]!.lesson.slug).toBe('bump-and-turn');
    expect(new Set(past.map((hour) => hour.class.name))).toEqual(new Set(['7 Kittiwake', '8 Razorbill']));
    const old = (await demo.api.get(`/api/periods/${past[0]!.id}`).expect(200)).body as { period: Period };
    // Its board shows what was done then, whatever is done now.
    const done = old.period.teams.filter(({ stages }) => stages.every(({ state }) => state === 'done'));
    expect(done.length).toBeGreaterThan(3);
    expect((await goes(1)).why).toBe('running');
  });

  it('are paused, made longer, ended and reopened, and say why where they cannot', async () => {
    const [period] = (await today()).periods;
    const id = period!.id;
    expect(detail((await act(id, { action: 'begin' }, 409)).body)).toBe(
      'Nothing was changed. It is going on already.',
    );
    await act(id, { startsAt: NOW.getTime() + DAY }, 409);
    await act(id, { action: 'pause' });
    at(30 * MIN);
    expect(hourState((await today()).periods[0]!, clock.now.getTime())).toBe('paused');
    await act(id, { action: 'resume' });
    at(55 * MIN);
    // 28 minutes were gone before the pause, 25 since it.
    expect(hourState((await today()).periods[0]!, clock.now.getTime())).toBe('over');
    await act(id, { minutes: 60 });
    expect(hourState((await today()).periods[0]!, clock.now.getTime())).toBe('running');
    await act(id, { action: 'end' });
    expect((await today()).periods).toEqual([]);
    expect((await today()).past.map((hour) => hour.id)).toContain(id);
    await act(id, { action: 'end' }, 409);
    await act(id, { action: 'reopen' });
    expect((await today()).periods.map((hour) => hour.id)).toEqual([id]);
    await act(999, { action: 'end' }, 404);
    await act(id, {}, 422);
    await act(id, { action: 'explode' }, 422);
    await act(id, { minutes: 4 }, 422);
  });

  it('that nobody ended are over after a day, and stay reachable for ever', async () => {
    at(3 * DAY);
    const { periods, past } = await today();
    expect(periods).toEqual([]);
    expect(past[0]!.lesson.slug).toBe('tide-line');
    const { hours } = (await demo.api.get('/api/classes/1/hours').expect(200)).body as { hours: Hour[] };
    expect(hours.map(({ lesson }) => lesson.slug)).toEqual([
      'stop-short',
      'piers-edge',
      'count-the-lanes',
      'follow-the-channel',
      'tide-line',
      'bump-and-turn',
      'hold-a-bearing',
    ]);
    await demo.api.get('/api/classes/99/hours').expect(404);
  });

  it('keep what each team left, to be read whatever it does now', async () => {
    const { past } = await today();
    const old = past.find(({ lesson }) => lesson.slug === 'bump-and-turn')!;
    const { evidence, hour } = (await demo.api.get(`/api/periods/${old.id}/teams/1`).expect(200))
      .body as TeamRecordThen;
    expect([hour.id, evidence.team.name, evidence.trials.length]).toEqual([old.id, 'Gannet', 3]);
    expect(evidence.script!.text).toContain('back');
    await demo.api.get(`/api/periods/${old.id}/teams/99`).expect(404);
    await demo.api.get('/api/periods/99/teams/1').expect(404);
  });

  it('three days later a team goes on with what it left, and when all is done to its homework', async () => {
    at(3 * DAY);
    expect(await goes(4)).toMatchObject({ why: 'left', lesson: 'tide-line', step: null });
    const done = await goes(1);
    expect(done).toMatchObject({ why: 'homework', lesson: 'tide-line' });
    expect(done.step).not.toBeNull();
    // What it writes there belongs to the hour that it is the homework of.
    await demo.api
      .put('/api/teams/1/lessons/tide-line/notes')
      .send({ step: done.step, text: 'done at home', revision: 0 })
      .expect(200);
    const { period } = (await demo.api.get('/api/periods/1').expect(200)).body as { period: Period };
    expect(period.current).toBe(true);
    const notes = (await demo.api.get('/api/periods/1/notes').expect(200)).body as {
      teams: { id: number; notes: Record<string, string> }[];
    };
    expect(notes.teams.find(({ id }) => id === 1)!.notes[done.step!]).toBe('done at home');
    await demo.api.get('/api/teams/99').expect(404);
  });

  it('are planned, moved, begun when their time has come, removed and brought back', async () => {
    at(3 * DAY);
    const made = (
      await demo.api
        .post('/api/periods')
        .send({ classId: 1, lesson: 'tide-line', minutes: 45, startsAt: NOW.getTime() + 7 * DAY })
        .expect(201)
    ).body as { id: number };
    const next = async () => (await today()).next.find(({ id }) => id === made.id);
    expect(await next()).toMatchObject({ minutes: 45, beganAt: null, first: 1 });
    // A planned hour changes nothing of what teams are in.
    expect((await goes(4)).why).toBe('left');
    await act(made.id, { startsAt: NOW.getTime() + 8 * DAY });
    expect((await next())!.startsAt).toBe(NOW.getTime() + 8 * DAY);
    await demo.api.delete(`/api/periods/${made.id}`).expect(204);
    expect(await next()).toBeUndefined();
    await demo.api.post(`/api/periods/${made.id}/restoration`).send({}).expect(204);
    at(8 * DAY + 3 * MIN);
    await act(made.id, { action: 'begin' });
    const [period] = (await today()).periods;
    expect(period).toMatchObject({ id: made.id, startsAt: clock.now.getTime(), first: 1, current: true });
    // It goes on where the first one stood.
    expect(period!.teams[0]!.stages.every(({ state }) => state === 'done')).toBe(true);
  });

  it('a planned one that nobody began changes nothing when its time has gone by', async () => {
    at(8 * DAY + 5 * MIN);
    const { id } = (
      await demo.api
        .post('/api/periods')
        .send({
          classId: 1,
          lesson: 'tide-line',
          minutes: 50,
          anew: true,
          startsAt: NOW.getTime() + 8.5 * DAY,
        })
        .expect(201)
    ).body as { id: number };
    at(9 * DAY);
    const page = (await demo.api.get('/api/teams/1/lessons/tide-line').expect(200)).body as {
      hour: { id: number };
      script: object | null;
    };
    expect([page.hour.id, page.script === null]).toEqual([1, false]);
    await demo.api.delete(`/api/periods/${id}`).expect(204);
  });

  it('begun anew, the one before keeps its board, which no longer leads to the teams’ pages', async () => {
    at(9 * DAY);
    const { id } = (
      await demo.api
        .post('/api/periods')
        .send({ classId: 1, lesson: 'tide-line', minutes: 50, anew: true })
        .expect(201)
    ).body as { id: number };
    const board = async (period: number) =>
      ((await demo.api.get(`/api/periods/${period}`).expect(200)).body as { period: Period }).period;
    const [old, fresh] = [await board(1), await board(id)];
    expect([old.current, fresh.current]).toEqual([false, true]);
    expect(fresh.teams.map(({ lastAt }) => lastAt)).toEqual(fresh.teams.map(() => null));
    expect(fresh.teams.flatMap(({ stages }) => stages).filter(({ state }) => state === 'done')).toEqual([]);
    expect(old.teams[0]!.stages.every(({ state }) => state === 'done')).toBe(true);
    // Taken away, the pages hold the old record again.
    await demo.api.delete(`/api/periods/${id}`).expect(204);
    expect((await board(1)).current).toBe(true);
  });

  it('get what was driven in them, though it comes when the next has begun', async () => {
    const begin = async () =>
      (
        (
          await demo.api
            .post('/api/periods')
            .send({ classId: 1, lesson: 'tide-line', minutes: 50, anew: true })
            .expect(201)
        ).body as { id: number }
      ).id;
    at(40 * DAY);
    const first = await begin();
    at(40 * DAY + 55 * MIN);
    const second = await begin();
    at(40 * DAY + 60 * MIN);
    const send = (driven?: number) =>
      demo.api
        .post('/api/teams/2/lessons/tide-line/floor-trials')
        .send({ pastMm: 12, rested: true, tookS: null, ...(driven === undefined ? {} : { at: driven }) })
        .expect(201);
    await send(NOW.getTime() + 40 * DAY + 50 * MIN);
    await send();
    const trials = async (hour: number) =>
      ((await demo.api.get(`/api/periods/${hour}/teams/2`).expect(200)).body as TeamRecordThen).evidence
        .trials.length;
    expect([await trials(first), await trials(second)]).toEqual([1, 1]);
  });
});
