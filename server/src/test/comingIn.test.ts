import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import express from 'express';
import request from 'supertest';
import type { Route } from '@vigilum/contract/types';
import { noted, type AccessNote } from '../access/accessLog.ts';
import { Brake, type Rule } from '../access/brake.ts';
import { identify } from '../access/identify.ts';
import { isEasyToGuess } from '../access/secrets.ts';
import { Sessions, type Holder } from '../access/sessions.ts';
import { NOBODY, whoOf, type Who } from '../access/who.ts';
import { inSchool } from '../db/reach.ts';
import { Problem } from '../http/problems.ts';
import { demoApp, NOW, signedIn, type DemoApp } from './harness.ts';

// How long sessions last, what is stored, and what isn't.

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
});
afterAll(() => demo.close());

const DAY = 86_400_000;
const stranger = () => signedIn(demo.app, 'other=1');
const sessionCount = async () =>
  (await demo.db.query<{ n: number }>('select count(*)::int as n from sessions'))[0]!.n;

describe('a session', () => {
  it.each<[string, Holder, number]>([
    ['an account', { account: 1 }, 14],
    ['a tablet', { team: 1 }, 120],
    ['a projector', { board: 1 }, 120],
  ])('of %s lasts its days, and begins anew with every use', async (_, holder, days) => {
    let now = NOW.getTime();
    const sessions = new Sessions(demo.db, () => new Date(now));
    const { token, lastsMs } = await inSchool(1, () => sessions.begin(holder));
    expect(lastsMs).toBe(days * DAY);
    const left = async () => {
      await sessions.forget();
      return (await sessions.find(token)).role;
    };
    now += days * DAY - 1000;
    expect(await left()).not.toBe('nobody');
    // It was used a moment ago: so many days from then.
    now += days * DAY - 1000;
    expect(await left()).not.toBe('nobody');
    now += days * DAY + 1000;
    expect(await left()).toBe('nobody');
  });

  it('is noted as seen once a minute, not with every request', async () => {
    let now = NOW.getTime();
    const sessions = new Sessions(demo.db, () => new Date(now));
    const { token } = await inSchool(1, () => sessions.begin({ team: 2 }));
    const seen = async () => {
      await sessions.forget();
      await sessions.find(token);
      const [row] = await demo.db.query<{ seen_at: Date }>(
        'select seen_at from sessions where team_id = 2 order by id desc limit 1',
      );
      return row!.seen_at.getTime() - NOW.getTime();
    };
    now += 30_000;
    expect(await seen()).toBe(0);
    now += 31_000;
    expect(await seen()).toBe(61_000);
  });

  it('of a full disk is in memory: each ends by itself, and all are stored once there is room', async () => {
    let room = false;
    const sessions = new Sessions(
      demo.db,
      () => NOW,
      () => room,
    );
    const before = await sessionCount();
    const begin = (holder: Holder) => inSchool(1, () => sessions.begin(holder));
    const [one, other, tablet] = [
      await begin({ board: 2 }),
      await begin({ board: 1 }),
      await begin({ team: 1 }),
    ];
    expect(await sessionCount()).toBe(before);
    const roles = async () => {
      await sessions.forget();
      return Promise.all([one, other, tablet].map(async ({ token }) => (await sessions.find(token)).role));
    };
    expect(await roles()).toEqual(['board', 'board', 'team']);
    await inSchool(1, () => sessions.end({ board: 2 }));
    expect(await roles()).toEqual(['nobody', 'board', 'team']);
    room = true;
    expect(await roles()).toEqual(['nobody', 'board', 'team']);
    expect(await sessionCount()).toBe(before + 2);
  });
});

describe('the demo on its own machine', () => {
  it('is signed in by itself, and nobody once that account is gone', async () => {
    const app = (demoAccount: number | null) =>
      express()
        .use(identify(demo.db, { sessions: demo.services.access.sessions, localKey: null, demoAccount }))
        .use((_req, res) => void res.json(whoOf(res)));
    const asks = async (demoAccount: number | null, cookie = '') =>
      ((await request(app(demoAccount)).get('/').set('cookie', cookie)).body as Who).role;
    expect(await asks(1)).toBe('owner');
    expect(await asks(null)).toBe('nobody');
    expect(await asks(987_654)).toBe('nobody');
    // Who has signed out stays out.
    expect(await asks(1, 'vigilum=out')).toBe('nobody');
    expect(await asks(1, 'vigilum=forged')).toBe('nobody');
  });
});

describe('what the log is told', () => {
  const notes: unknown[][] = [];
  const note: AccessNote = (what, facts) => void notes.push([what, facts]);
  const told = async (route: string, answer: () => Promise<unknown>) => {
    notes.length = 0;
    await noted(note, route as Route, NOBODY, answer).catch(() => undefined);
    return notes.map(([what, facts]) => [what, facts]);
  };

  it('is who came in, by numbers alone', async () => {
    const me = { role: 'team', first: false, account: null, team: { id: 7, class: '7 Auk' }, name: 'Auk' };
    expect(await told('POST /doors/cards', () => Promise.resolve(me))).toEqual([
      ['access', expect.objectContaining({ role: 'nobody', cameInAs: 'team', ofAccount: null, ofTeam: 7 })],
    ]);
    for (const reply of [undefined, null, 'text', { role: 'owner', by: 'x' }, { first: true }]) {
      const [[, facts]] = (await told('POST /doors/cards', () => Promise.resolve(reply))) as [
        [string, object],
      ];
      expect(Object.keys(facts)).not.toContain('cameInAs');
    }
    expect(JSON.stringify(notes)).not.toContain('Auk');
  });

  it('is what was refused, with its status; what is no door is told only where it was not allowed', async () => {
    const refused = (status: number) => () => Promise.reject(new Problem(status, 'x', 'y'));
    const status = async (route: string, answer: () => Promise<unknown>) =>
      ((await told(route, answer))[0] as [string, { status: number }] | undefined)?.[1].status ?? null;
    expect(await status('POST /sessions', refused(401))).toBe(401);
    expect(await status('POST /sessions', refused(429))).toBe(429);
    expect(await status('POST /sessions', () => Promise.reject(new Error('ours')))).toBe(500);
    expect(await status('GET /today', refused(403))).toBe(403);
    expect(await status('GET /today', refused(404))).toBeNull();
    expect(await told('GET /today', () => Promise.resolve({}))).toEqual([]);
  });
});

describe('secrets', () => {
  it('a password is too easy below a million guesses, and good enough from there on', () => {
    // Scores by zxcvbn: 1, 2 and 4.
    expect(isEasyToGuess('harbour1', [])).toBe(true);
    expect(isEasyToGuess('tiderope', [])).toBe(false);
    expect(isEasyToGuess('seven quiet lanterns', [])).toBe(false);
    expect([isEasyToGuess('brinkmann9', ['Brinkmann']), isEasyToGuess('vigilum1', [])]).toEqual([true, true]);
  });

  it('the link of an invitation is not kept with the answers of writes', async () => {
    const send = () =>
      demo.api
        .post('/api/invitations')
        .send({ role: 'teacher' })
        .set('idempotency-key', 'invite-me-once')
        .expect(201);
    const [first, second] = [await send(), await send()] as { body: { token: string } }[];
    expect(second!.body.token).not.toBe(first!.body.token);
    expect(await demo.db.query(`select 1 from writes where key = 'invite-me-once'`)).toEqual([]);
  });

  it('an owner’s own invitations are not the office’s to take back', async () => {
    await demo.api.post('/api/invitations').send({ role: 'guest' }).expect(201);
    const [row] = await demo.db.query<{ by_office: boolean }>(
      'select by_office from invitations order by id desc limit 1',
    );
    expect(row!.by_office).toBe(false);
  });
});

describe('wrong guesses', () => {
  it('of two servers add up, and are forgotten after an hour on both', async () => {
    let now = NOW.getTime();
    const brakes = [0, 1].map(() => new Brake(demo.db, { now: () => now }));
    const rules: Rule[] = [{ key: 'two servers', most: 4 }];
    const wrong = (i: number) =>
      brakes[i]!.attempt(rules, () => Promise.reject(new Problem(404, 'x', 'wrong')));
    // Both read before either writes.
    await Promise.allSettled([wrong(0), wrong(1)]);
    await Promise.allSettled([wrong(0), wrong(1)]);
    // Two of each pair were counted, and the one that comes next closes it.
    await expect(wrong(0)).rejects.toThrow('wrong');
    await expect(wrong(1)).rejects.toThrow(/Wait/);
    now += 3_601_000;
    await expect(wrong(1)).rejects.toThrow('wrong');
    const rows = () => demo.db.query<{ wrong: number }>('select wrong from wrong_tries');
    expect((await rows()).map((row) => row.wrong)).toEqual([1]);
    // Old rows are deleted for every key.
    now += 3_601_000;
    await expect(
      brakes[0]!.attempt([{ key: 'another', most: 4 }], () => Promise.reject(new Problem(404, 'x', 'wrong'))),
    ).rejects.toThrow('wrong');
    expect(await rows()).toHaveLength(1);
    await demo.db.query('delete from wrong_tries');
  });

  it('name the seconds to wait, never none', async () => {
    let now = NOW.getTime();
    const brake = new Brake(demo.db, { now: () => now });
    const rules: Rule[] = [{ key: 'seconds', most: 1 }];
    const problem = () =>
      brake
        .attempt(rules, () => Promise.reject(new Problem(404, 'x', 'wrong')))
        .catch((error: unknown) => error as Problem);
    await problem();
    now += 3_600_000 - 119_000;
    expect((await problem()).message).toContain('Wait 119 s');
    now -= 2000;
    expect((await problem()).message).toContain('Wait 3 minutes');
    now += 2000 + 118_900;
    expect((await problem()).extra).toEqual({ waitS: 1 });
    await demo.db.query('delete from wrong_tries');
  });

  it('an account keeps its latest twenty browsers in mind', async () => {
    const { token } = (await demo.api.post('/api/invitations').send({ role: 'teacher' }).expect(201))
      .body as {
      token: string;
    };
    const who = { name: 'Many Browsers', password: 'nine slow barges go by' };
    await stranger().post(`/api/invitations/${token}/acceptance`).send(who).expect(201);
    await demo.db.query('delete from account_devices');
    for (let i = 0; i < 21; i++)
      await request(demo.app)
        .post('/api/sessions')
        .set('cookie', `vigilum=out; vigilum-device=a-browser-with-the-number-${10 + i}`)
        .send(who)
        .expect(201);
    const kept = await demo.db.query<{ device: string }>('select device from account_devices');
    expect(kept).toHaveLength(20);
  });
});
