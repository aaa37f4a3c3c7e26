import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Stage } from '@vigilum/core/classroom';
import request from 'supertest';
import { createApp } from '../app.ts';
import { cobbleBuild } from '../starter/build.ts';
import { demoApp, type DemoApp } from './harness.ts';

interface BoardTeam {
  id: number;
  name: string;
  stages: Stage[];
  current: string;
  help: { stage: string; grade: string; says: string; mend: string; quietMin: number | null } | null;
}

let demo: DemoApp;
let teams: Map<string, BoardTeam>;
const lesson = (team: string) => `/api/teams/${teams.get(team)!.id}/lessons/tide-line`;
const robotOf = async (team: string): Promise<number> =>
  ((await demo.api.get(lesson(team))).body as { robot: { id: number } }).robot.id;
const board = async (): Promise<Map<string, BoardTeam>> => {
  const { body } = await demo.api.get('/api/today').expect(200);
  const [period] = (body as { periods: { teams: BoardTeam[] }[] }).periods;
  return new Map(period!.teams.map((team) => [team.name, team]));
};
const figures = (team: BoardTeam) => team.stages.map((s) => `${s.state} ${s.figure}`.trim());
const count = async (table: string) =>
  (await demo.db.query<{ n: number }>(`select count(*)::int as n from ${table}`))[0]!.n;

beforeAll(async () => {
  demo = await demoApp();
  teams = await board();
});
afterAll(async () => {
  expect(demo.logged).toEqual([]);
  await demo.close();
});

describe('today', () => {
  it('shows the class with its eight teams in the order of the room', () => {
    expect([...teams.keys()]).toEqual([
      'Gannet',
      'Plover',
      'Curlew',
      'Fulmar',
      'Dunlin',
      'Avocet',
      'Petrel',
      'Shag',
    ]);
  });

  it('tells the teams truly apart, by computation', () => {
    expect(figures(teams.get('Gannet')!).every((f) => f.startsWith('done'))).toBe(true);
    expect(teams.get('Gannet')!.help).toBeNull();
    expect(teams.get('Plover')!.current).toBe('decide');
    expect(teams.get('Avocet')!.help).toMatchObject({
      stage: 'wire',
      grade: 'fault',
      mend: 'Move the plug from K4 to K3 and push until it clicks.',
    });
    expect(teams.get('Fulmar')!.help).toMatchObject({
      stage: 'script',
      grade: 'fault',
      says: 'No step says stop.',
    });
    expect(figures(teams.get('Shag')!)[5]).toBe('fault 0/20');
    expect(figures(teams.get('Curlew')!)[5]).toMatch(/^risk 1\d\/20$/);
    expect(teams.get('Petrel')!.stages[0]).toMatchObject({ state: 'risk' });
  });

  it('gives a team’s workspace with everything the stages work from', async () => {
    const { body } = await demo.api.get(lesson('Gannet')).expect(200);
    expect(body).toMatchObject({
      team: { name: 'Gannet' },
      robot: { name: 'Cobble 1' },
      trials: [{ pastMm: 15 }, { pastMm: 17 }, { pastMm: 14 }],
    });
    expect(body.sensors.K3.sets.map((s: { surface: string }) => s.surface)).toEqual([
      'across the edge',
      'quay boards',
      'tide line',
    ]);
    expect(body.sensors.K3.sweep.values).toHaveLength(180);
    expect(body.lesson.slug).toBe('tide-line');
  });

  it('lists lessons and robots', async () => {
    expect((await demo.api.get('/api/lessons').expect(200)).body.lessons).toHaveLength(16);
    expect((await demo.api.get('/api/lessons/tide-line').expect(200)).body.title).toBe('Tide line');
    expect((await demo.api.get('/api/robots').expect(200)).body.robots).toHaveLength(11);
  });
});

describe('a team’s way through the lesson', () => {
  it('moves the plug, checks the sensor, reads, decides, writes, tries, proves and measures', async () => {
    const robot = await robotOf('Avocet');
    await demo.api.patch(`/api/robots/${robot}/fittings/K4`).send({ socket: 'K3' }).expect(200);
    await demo.api
      .post(`/api/robots/${robot}/wire-checks`)
      .send({ socket: 'K3', kind: 'light', reacts: true, lowest: 3, highest: 90 })
      .expect(201);

    const read = async (surface: string, values: number[]) =>
      (
        await demo.api
          .post(`/api/robots/${robot}/sample-sets`)
          .send({ socket: 'K3', kind: 'light', surface, values })
          .expect(201)
      ).body.id as number;
    const dark = await read('tide line', [21, 22, 22, 23, 22, 21]);
    const light = await read('quay boards', [75, 76, 78, 74, 77, 76]);

    await demo.api
      .post(`/api/robots/${robot}/thresholds`)
      .send({ socket: 'K3', value: 49, method: 'halfway', setIds: [dark, light] })
      .expect(201);

    const text = 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop\n';
    const saved = await demo.api
      .post(`${lesson('Avocet')}/script-versions`)
      .send({ text, basedOn: 0 })
      .expect(201);
    expect(saved.body).toEqual({ version: 1 });

    const tried = await demo.api
      .post(`${lesson('Avocet')}/tries`)
      .send({ scriptVersion: 1, start: 'A', seed: 7 })
      .expect(201);
    expect(tried.body.judgements.map((j: { verdict: string }) => j.verdict)).toEqual([
      'holds',
      'holds',
      'holds',
    ]);
    const proved = await demo.api
      .post(`${lesson('Avocet')}/proofs`)
      .send({ scriptVersion: 1, seed: 12, runs: 20 })
      .expect(201);
    expect(proved.body.proof).toMatchObject({ verdict: 'proved', passes: 20, runs: 20 });

    for (const pastMm of [14, 16, 13]) {
      await demo.api
        .post(`${lesson('Avocet')}/floor-trials`)
        .send({ pastMm, rested: true, tookS: 3, note: 'start A' })
        .expect(201);
    }
    const now = (await board()).get('Avocet')!;
    expect(figures(now)).toEqual([
      'done K3 light',
      'done 22 · 76',
      'done 49 %',
      'done 3 steps',
      `done ${Math.round(tried.body.pastMm)} mm`,
      'done 20/20',
      'done 3 of 3',
    ]);
    expect(now.help).toBeNull();
    const team = teams.get('Avocet')!.id;
    for (const part of ['build', 'check', 'readings', 'threshold'])
      expect(demo.told).toContainEqual({
        what: 'robot',
        robot,
        teams: expect.arrayContaining([team]),
        part,
      });
    for (const part of ['script', 'version', 'try', 'proof', 'trial'])
      expect(demo.told).toContainEqual(
        expect.objectContaining({ what: 'evidence', team, lesson: 'tide-line', part }),
      );
  });

  it('computes the same try again from the same script, readings and seed', async () => {
    const send = () =>
      demo.api
        .post(`${lesson('Gannet')}/tries`)
        .send({ scriptVersion: 1, start: 'B', seed: 99 })
        .expect(201);
    const [one, two] = [await send(), await send()];
    expect(one.body.pastMm).toBe(two.body.pastMm);
    expect(one.body.id).not.toBe(two.body.id);
  });

  it('says in one sentence that a kit which was stored with a distance in % cannot be simulated', async () => {
    const unit = (to: string) =>
      demo.db.query(
        `update kits set definition = jsonb_set(definition, '{sensors}', (
           select jsonb_agg(case when s->>'id' = 'sounder' then jsonb_set(s, '{modes,0,unit}', to_jsonb($1::text)) else s end)
             from jsonb_array_elements(definition->'sensors') s)) where slug = 'cobble'`,
        [to],
      );
    await unit('%');
    for (const what of ['tries', 'proofs']) {
      const { body } = await demo.api
        .post(`${lesson('Shag')}/${what}`)
        .send({ scriptVersion: 1, seed: 1, ...(what === 'tries' ? { start: 'A' } : { runs: 20 }) })
        .expect(422);
      expect(body.detail).toBe(
        'The sounder of the Cobble cannot be simulated: distance is told in cm or mm or in, not in %. Change it on the kit’s page.',
      );
    }
    await unit('cm');
    await demo.api
      .post(`${lesson('Shag')}/tries`)
      .send({ scriptVersion: 1, start: 'A', seed: 1 })
      .expect(201);
  });

  it('lets no try wait behind the proofs of a class', async () => {
    const done: string[] = [];
    const text = 'sensor floor is light on K3\ndrive 20 %\nwait until floor < threshold\nstop\n';
    await demo.api
      .post(`${lesson('Shag')}/script-versions`)
      .send({ text, basedOn: 1 })
      .expect(201);
    const send = (what: 'proof' | 'try', body: object) =>
      demo.api
        .post(`${lesson('Shag')}/${what === 'try' ? 'tries' : 'proofs'}`)
        .send({ scriptVersion: 2, ...body })
        .expect(201)
        .then(() => done.push(what));
    const proofs = [1, 2, 3, 4, 5, 6].map((seed) => send('proof', { seed, runs: 100 }));
    await send('try', { start: 'A', seed: 3 });
    expect(done.filter((what) => what === 'proof').length).toBeLessThan(4);
    await Promise.all(proofs);
  });

  it('takes back what was removed, and brings it again', async () => {
    type Seen = { sensors: { K3: { sets: { id: number }[] } } };
    const setsOf = async () =>
      ((await demo.api.get(lesson('Plover'))).body as Seen).sensors.K3.sets.map((s) => s.id);
    const before = await setsOf();
    await demo.api.delete(`/api/sample-sets/${before[0]}`).expect(204);
    expect(await setsOf()).toHaveLength(before.length - 1);
    await demo.api.post(`/api/sample-sets/${before[0]}/restoration`).send({}).expect(204);
    expect((await setsOf()).sort()).toEqual(before.sort());

    const trialsOf = async () =>
      ((await demo.api.get(lesson('Dunlin'))).body as { trials: { id: number }[] }).trials;
    const [trial] = await trialsOf();
    await demo.api.delete(`/api/floor-trials/${trial!.id}`).expect(204);
    expect(await trialsOf()).toHaveLength(2);
    await demo.api.post(`/api/floor-trials/${trial!.id}/restoration`).send({}).expect(204);
    expect(await trialsOf()).toHaveLength(3);
  });

  it('keeps every version of a script and refuses to overwrite another’s', async () => {
    const url = `${lesson('Petrel')}/script-versions`;
    await demo.api.post(url).send({ text: 'drive 20 %', basedOn: 1 }).expect(201);
    const clash = await demo.api.post(url).send({ text: 'drive 99 %', basedOn: 1 }).expect(409);
    expect(clash.body).toMatchObject({
      title: 'Changed meanwhile',
      newest: { version: 2, text: 'drive 20 %' },
    });
    const { versions } = (await demo.api.get(url).expect(200)).body as { versions: { version: number }[] };
    expect(versions.map((v) => v.version)).toEqual([2, 1]);
  });

  it('knows who saved a version, when, and which one it brought back', async () => {
    const url = `${lesson('Dunlin')}/script-versions`;
    const old = (await demo.api.get(`${url}/2`).expect(200)).body as { text: string };
    expect(old.text).toContain('drive 60 %');
    await demo.api.post(url).send({ text: old.text, basedOn: 3, by: 'Ines', restoredFrom: 2 }).expect(201);
    await demo.api.post(url).send({ text: '', basedOn: 4, restoredFrom: 9 }).expect(422);
    await demo.api.get(`${url}/99`).expect(404);
    await demo.api.get(`${url}/two`).expect(404);
    const { versions } = (await demo.api.get(url).expect(200)).body as { versions: object[] };
    expect(versions).toMatchObject([
      { version: 4, by: 'Ines', restoredFrom: 2, steps: 3, tries: 0 },
      { version: 3, by: 'Ines', restoredFrom: null, tries: 1 },
      { version: 2, by: 'Tomo', steps: 3 },
      { version: 1, by: 'Tomo', steps: 2 },
    ]);
  });

  it('lowers a sensor and keeps the rest of the build', async () => {
    const robot = await robotOf('Petrel');
    const { body } = await demo.api
      .patch(`/api/robots/${robot}/fittings/K3`)
      .send({ heightMm: 12 })
      .expect(200);
    expect(body.fittings.find((f: { socket: string }) => f.socket === 'K3')).toMatchObject({
      heightMm: 12,
      aheadMm: 80,
    });
    expect(body.fittings).toHaveLength(cobbleBuild.fittings.length);
  });
});

const newCobbles = { kit: 'cobble', cupboard: '', take: 'new' };
describe('a class of one’s own', () => {
  it('is set up with its teams and robots, and starts a period', async () => {
    const made = await demo.api
      .post('/api/classes')
      .send({ school: 'Own School', name: '6 Tern', teams: ['Wren', 'Lark'], robots: newCobbles })
      .expect(201);
    await demo.api
      .post('/api/periods')
      .send({ classId: made.body.id, lesson: 'tide-line', minutes: 45 })
      .expect(201);
    const { periods } = (await demo.api.get('/api/today')).body as {
      periods: { class: { name: string }; teams: BoardTeam[] }[];
    };
    const own = periods.find((period) => period.class.name === '6 Tern')!;
    expect(own.teams.map((team) => [team.name, team.current, team.help])).toEqual([
      ['Wren', 'wire', null],
      ['Lark', 'wire', null],
    ]);
    const { classes } = (await demo.api.get('/api/classes')).body as {
      classes: { name: string; teams: number }[];
    };
    expect(classes).toContainEqual(expect.objectContaining({ name: '6 Tern', teams: 2 }));
  });

  it('is made whole or not at all', async () => {
    const before = await count('robots');
    const again = await demo.api
      .post('/api/classes')
      .send({ school: 'Own School', name: '6 Tern', teams: ['Finch'], robots: newCobbles })
      .expect(409);
    expect((JSON.parse(again.text) as { detail: string }).detail).toMatch(/has a class 6 Tern already/);
    expect(await count('robots')).toBe(before);
  });
});

describe('a robot of another kit', () => {
  type Work = {
    robot: { id: number; name: string };
    lesson: { need: { socket: string }; startScript: string };
    sensors: object;
  };
  const work = async (team: string) => (await demo.api.get(lesson(team)).expect(200)).body as Work;

  it('is given to a team, whose lesson then names its sockets; two of a class exchange theirs', async () => {
    const { robots } = (await demo.api.get('/api/robots')).body as {
      robots: { id: number; name: string; kit: { slug: string } }[];
    };
    const skiff = robots.find(({ kit }) => kit.slug === 'skiff')!;
    const before = await work('Shag');
    await demo.api.put('/api/teams/8/robot').send({ robot: skiff.id }).expect(200);
    const on = await work('Shag');
    expect([on.robot.name, on.lesson.need.socket, Object.keys(on.sensors)]).toEqual([
      skiff.name,
      'S-b',
      ['S-b'],
    ]);
    expect(on.lesson.startScript).toContain('on S-b');
    const exchanged = await demo.api.put('/api/teams/7/robot').send({ robot: skiff.id }).expect(200);
    expect((exchanged.body as { exchanged: boolean }).exchanged).toBe(true);
    await demo.api
      .put('/api/teams/7/robot')
      .send({ robot: (await work('Shag')).robot.id })
      .expect(200);
    await demo.api.put('/api/teams/8/robot').send({ robot: before.robot.id }).expect(200);
    expect(await work('Shag')).toMatchObject({
      robot: before.robot,
      lesson: { need: { socket: 'K3' } },
    });
    await demo.api.put('/api/teams/8/robot').send({ robot: 9999 }).expect(404);
    await demo.api.put('/api/teams/999/robot').send({ robot: skiff.id }).expect(404);
    const { teams } = (await demo.api.get('/api/teams')).body as { teams: { name: string; class: string }[] };
    expect(teams).toContainEqual(expect.objectContaining({ name: 'Shag', class: '7 Kittiwake' }));
  });
});

describe('what a class wrote down', () => {
  it('stands side by side, by the steps that ask for it', async () => {
    await demo.api
      .put(`${lesson('Plover')}/notes`)
      .send({ step: 'predict', text: '14 mm', revision: 0 })
      .expect(200);
    const { periods } = (await demo.api.get('/api/today')).body as {
      periods: { id: number; class: { name: string } }[];
    };
    const period = periods.find((p) => p.class.name === '7 Kittiwake')!;
    const { body } = await demo.api.get(`/api/periods/${period.id}/notes`).expect(200);
    expect(body).toMatchObject({ class: '7 Kittiwake', lesson: { slug: 'tide-line' } });
    const { steps, teams } = body as {
      steps: { kind: string }[];
      teams: { name: string; notes: Record<string, string> }[];
    };
    expect(steps.map(({ kind }) => kind)).toEqual(['predict', 'reflect', 'extend', 'homework']);
    expect(teams.find(({ name }) => name === 'Plover')!.notes.predict).toBe('14 mm');
    await demo.api.get('/api/periods/9999/notes').expect(404);
  });
});

describe('bad input', () => {
  const long = 'x'.repeat(70);
  it.each<[string, string, string, unknown, number, RegExp]>([
    ['an unknown team', 'get', '/api/teams/9999/lessons/tide-line', null, 404, /no such team/],
    ['a team that is no number', 'get', '/api/teams/x/lessons/tide-line', null, 404, /no such team/],
    ['an unknown lesson', 'get', '/api/teams/1/lessons/nothing', null, 404, /no such lesson/],
    [
      'a class without teams',
      'post',
      '/api/classes',
      { school: 'S', name: 'N', teams: [], robots: newCobbles },
      422,
      /teams/,
    ],
    [
      'a team named twice',
      'post',
      '/api/classes',
      { school: 'S', name: 'N', teams: ['Wren', 'wren'], robots: newCobbles },
      422,
      /teams/,
    ],
    [
      'a period of an unknown class',
      'post',
      '/api/periods',
      { classId: 999, lesson: 'tide-line', minutes: 50 },
      404,
      /no such class/,
    ],
    [
      'a period of no length',
      'post',
      '/api/periods',
      { classId: 1, lesson: 'tide-line', minutes: 0 },
      422,
      /minutes/,
    ],
    ['an unknown path', 'get', '/api/nothing', null, 404, /nothing at GET/],
    [
      'an unknown robot',
      'post',
      '/api/robots/9999/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'x', values: [1] },
      404,
      /no such robot/,
    ],
    ['an unknown set', 'delete', '/api/sample-sets/424242', null, 404, /no such set/],
    ['an unknown trial', 'post', '/api/floor-trials/424242/restoration', {}, 404, /no such trial/],
    [
      'an empty set',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'x', values: [] },
      422,
      /values/,
    ],
    [
      'a set without any reading',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'x', values: [null, null] },
      422,
      /no reading/,
    ],
    [
      'readings that are words',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'x', values: ['9'] },
      422,
      /values/,
    ],
    [
      'too many readings',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'x', values: Array(501).fill(1) },
      422,
      /values/,
    ],
    [
      'a surface name that is too long',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: long, values: [1] },
      422,
      /surface/,
    ],
    [
      'a text that cannot be stored',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'a\u0000b', values: [1] },
      422,
      /cannot be stored/,
    ],
    [
      'a socket that is none',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3; drop', kind: 'light', surface: 'x', values: [1] },
      422,
      /socket/,
    ],
    [
      'a kind that is none',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'laser', surface: 'x', values: [1] },
      422,
      /kind/,
    ],
    [
      'an unknown field',
      'post',
      '/api/robots/1/sample-sets',
      { socket: 'K3', kind: 'light', surface: 'x', values: [1], evil: 1 },
      422,
      /evil/,
    ],
    [
      'a threshold of missing sets',
      'post',
      '/api/robots/1/thresholds',
      { socket: 'K3', value: 50, method: 'halfway', setIds: [90001, 90002] },
      422,
      /is gone/,
    ],
    [
      'a threshold of one set twice',
      'post',
      '/api/robots/1/thresholds',
      { socket: 'K3', value: 50, method: 'halfway', setIds: [1, 1] },
      422,
      /setIds/,
    ],
    [
      'a threshold outside both surfaces',
      'post',
      '/api/robots/1/thresholds',
      { socket: 'K3', value: 99, method: 'own choice', setIds: [1, 2] },
      422,
      /does not lie between/,
    ],
    [
      'a version that is not there',
      'post',
      '/api/teams/1/lessons/tide-line/tries',
      { scriptVersion: 77, start: 'A', seed: 1 },
      422,
      /no version 77/,
    ],
    [
      'a start that is not on the course',
      'post',
      '/api/teams/1/lessons/tide-line/tries',
      { scriptVersion: 1, start: 'Z', seed: 1 },
      422,
      /no start/,
    ],
    [
      'a seed that is no whole number',
      'post',
      '/api/teams/1/lessons/tide-line/tries',
      { scriptVersion: 1, start: 'A', seed: 0.5 },
      422,
      /seed/,
    ],
    [
      'far too many runs',
      'post',
      '/api/teams/1/lessons/tide-line/proofs',
      { scriptVersion: 1, seed: 1, runs: 1e9 },
      422,
      /runs/,
    ],
    [
      'a script that is no text',
      'post',
      '/api/teams/1/lessons/tide-line/script-versions',
      { text: 7, basedOn: 1 },
      422,
      /text/,
    ],
    [
      'a trial measured in words',
      'post',
      '/api/teams/1/lessons/tide-line/floor-trials',
      { pastMm: 'far', rested: true, tookS: null },
      422,
      /pastMm/,
    ],
    [
      'a trial off the earth',
      'post',
      '/api/teams/1/lessons/tide-line/floor-trials',
      { pastMm: 1e7, rested: true, tookS: null },
      422,
      /pastMm/,
    ],
    [
      'a plug into no socket',
      'patch',
      '/api/robots/1/fittings/K3',
      { socket: 'K9' },
      422,
      /no sensor socket K9/,
    ],
    [
      'a plug into a motor socket',
      'patch',
      '/api/robots/1/fittings/K3',
      { socket: 'ML' },
      422,
      /no sensor socket ML/,
    ],
    [
      'a part that the kit does not have',
      'post',
      '/api/robots/1/fittings',
      { socket: 'K6', sensorId: 'periscope', mode: 'light' },
      422,
      /has no part “periscope”/,
    ],
    [
      'a part into a motor socket',
      'post',
      '/api/robots/1/fittings',
      { socket: 'ML', sensorId: 'floor-eye', mode: 'light' },
      422,
      /Nothing was saved/,
    ],
    [
      'a plug from an empty socket',
      'patch',
      '/api/robots/1/fittings/K6',
      { socket: 'K5' },
      404,
      /Nothing is plugged into K6/,
    ],
    ['no change at all', 'patch', '/api/robots/1/fittings/K3', {}, 422, /must have at least 1/],
    ['a live view of a socket with no name', 'get', '/api/robots/1/live?socket=a%20b', null, 422, /socket/],
    [
      'a surface that is not in the room',
      'post',
      '/api/robots/1/hand',
      { put: 'over', surface: 'lava' },
      422,
      /no surface lava/,
    ],
  ])('%s gets a sentence and changes nothing', async (_, method, path, body, status, says) => {
    const tables = [
      'classes',
      'teams',
      'periods',
      'sample_sets',
      'thresholds',
      'script_versions',
      'tries',
      'proofs',
      'floor_trials',
    ];
    const counts = async () => Promise.all(tables.map(count));
    const before = await counts();
    const call = demo.api[method as 'get' | 'post' | 'patch' | 'delete'](path);
    const answer = await (body === null ? call : call.send(body));
    expect(answer.status).toBe(status);
    expect(answer.headers['content-type']).toMatch(/application\/problem\+json/);
    const problem = JSON.parse(answer.text) as { status: number; title: string; detail: string };
    expect(problem.status).toBe(status);
    expect(problem.detail).toMatch(says);
    expect(await counts()).toEqual(before);
  });

  it('refuses to run a script with faults, naming the first', async () => {
    const url = lesson('Plover');
    await demo.api
      .post(`${url}/script-versions`)
      .send({ text: 'sensor floor is light on K3\ndrvie 30 %', basedOn: 0 })
      .expect(201);
    const answer = await demo.api
      .post(`${url}/tries`)
      .send({ scriptVersion: 1, start: 'A', seed: 1 })
      .expect(422);
    expect((JSON.parse(answer.text) as { detail: string }).detail).toMatch(/Line 2: “drvie” is not a step/);
  });

  it('refuses malformed, oversized and foreign bodies', async () => {
    const url = '/api/robots/1/sample-sets';
    const problem = (text: string) => JSON.parse(text) as { title: string };
    expect(problem((await demo.api.post(url).type('json').send('{"a":').expect(400)).text).title).toBe(
      'Malformed JSON',
    );
    expect(
      problem(
        (
          await demo.api
            .post(url)
            .type('json')
            .send(JSON.stringify({ a: 'x'.repeat(310_000) }))
            .expect(413)
        ).text,
      ).title,
    ).toBe('Too large');
    await demo.api.post(url).type('text/plain').send('hello').expect(415);
    await demo.api.post(url).expect(415);
  });

  it('a hostile script ends by its time limit and holds up nothing', async () => {
    const url = lesson('Fulmar');
    const { script } = (await demo.api.get(url)).body as { script: { version: number } };
    const text = `sensor floor is light on K3\nlet n = 1\n${'repeat\n'.repeat(28)}set n to n * 999999999\n${'end\n'.repeat(28)}`;
    const saved = await demo.api
      .post(`${url}/script-versions`)
      .send({ text, basedOn: script.version })
      .expect(201);
    const from = Date.now();
    await demo.api
      .post(`${url}/proofs`)
      .send({ scriptVersion: saved.body.version, seed: 1, runs: 20 })
      .expect(201);
    expect(Date.now() - from).toBeLessThan(20_000);
  });
});

describe('plugs', () => {
  type Build = { fittings: { socket: string; sensorId: string; rightMm: number; mode: string }[] };
  const on = (build: unknown) =>
    Object.fromEntries((build as Build).fittings.map(({ socket, sensorId }) => [socket, sensorId]));

  it('are swapped by one press where the place is taken, and a second part is plugged in beside the first', async () => {
    const patch = (from: string, to: string) =>
      demo.api.patch(`/api/robots/8/fittings/${from}`).send({ socket: to }).expect(200);
    const swapped = on((await patch('K3', 'K1')).body);
    expect([swapped.K1, swapped.K3]).toEqual(['floor-eye', 'bumper']);
    expect(on((await patch('K1', 'K3')).body)).toMatchObject({ K1: 'bumper', K3: 'floor-eye' });
    const { body } = await demo.api
      .post('/api/robots/8/fittings')
      .send({ socket: 'K4', sensorId: 'floor-eye', mode: 'colour' })
      .expect(201);
    const eyes = (body as Build).fittings.filter(({ sensorId }) => sensorId === 'floor-eye');
    expect(eyes.map(({ socket, mode }) => [socket, mode])).toEqual([
      ['K3', 'light'],
      ['K4', 'colour'],
    ]);
    expect(eyes[0]!.rightMm).not.toBe(eyes[1]!.rightMm);
    // Into a taken socket: what was there is unplugged.
    const { body: again } = await demo.api
      .post('/api/robots/8/fittings')
      .send({ socket: 'K4', sensorId: 'bumper', mode: 'touch' })
      .expect(201);
    expect(on(again)).toMatchObject({ K3: 'floor-eye', K4: 'bumper' });
  });
});

describe('the door', () => {
  it('sends a policy that allows no inline script and no eval', async () => {
    const { headers } = await demo.api.get('/api/health').expect(200);
    expect(headers['content-security-policy']).toMatch(/script-src 'self'(;|$)/);
    expect(headers['content-security-policy']).not.toMatch(/unsafe/);
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
  });

  it('lets styles be set from code by the word of one answer alone, which stands in its page', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vigilum-pages-'));
    mkdirSync(join(folder, 'assets'));
    writeFileSync(join(folder, 'index.html'), '<meta name="style-nonce" content="%nonce%">');
    const app = createApp({ services: demo.services, pages: folder, log: () => undefined });
    const words = new Set<string>();
    for (const path of ['/', '/plan', '/index.html', '/plan']) {
      const { headers, text } = await request(app).get(path).expect(200).expect('content-type', /html/);
      const [, word] = /content="([^"]+)"/.exec(text)!;
      expect(headers['content-security-policy']).toContain(`style-src 'self' 'nonce-${word}'`);
      words.add(word!);
    }
    expect(words.size).toBe(4);
    await request(app).get('/assets/none.js').expect(404);
    rmSync(folder, { recursive: true });
  });

  it('opens to pages of this server only', async () => {
    await demo.api.get('/api/health').set('host', 'evil.example').expect(403);
    await demo.api.get('/api/health').set('origin', 'http://evil.example').expect(403);
    await demo.api
      .get('/api/health')
      .set('host', '127.0.0.1:4400')
      .set('origin', 'http://127.0.0.1:4400')
      .expect(200);
  });
});
