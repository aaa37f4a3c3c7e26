import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Trial } from '@vigilum/core/tuning';
import { demoApp, NOW, type DemoApp } from './harness.ts';

let demo: DemoApp;
const clock = { now: NOW };
beforeAll(async () => {
  demo = await demoApp(clock);
});
afterAll(() => demo.close());

const url = (team: number, lesson = 'tide-line') => `/api/teams/${team}/lessons/${lesson}`;
/** Moves the clock on, so that trials come one after the other. */
const later = () => (clock.now = new Date(clock.now.getTime() + 60_000));
const walk = async (team: number, lesson?: string): Promise<Trial[]> =>
  ((await demo.api.get(`${url(team, lesson)}/walk`).expect(200)).body as { trials: Trial[] }).trials;
const knob = (trial: Trial | undefined, name: string) => trial?.knobs.find((one) => one.name === name)?.value;

describe('the walk of a team', () => {
  it('holds its tries, proofs and floor trials in order, with what came out and the numbers that the script had', async () => {
    const trials = await walk(1);
    expect(trials.map(({ source }) => source)).toEqual(expect.arrayContaining(['try', 'proof', 'floor']));
    expect([...trials].sort((a, b) => a.at - b.at)).toEqual(trials);
    for (const trial of trials) expect(knob(trial, 'speed')).toBe(30);
    const proof = trials.find(({ source }) => source === 'proof')!;
    expect([proof.results['pass rate'], proof.kept, proof.runs]).toEqual([100, true, 20]);
    expect(
      trials.filter(({ source }) => source === 'floor').every(({ results }) => results.past !== undefined),
    ).toBe(true);
  });

  it('a run with other numbers is kept with them, computed here, and says nothing of the script as it stands', async () => {
    const before = (await demo.api.get(url(1)).expect(200)).body as { tries: { id: number }[] };
    later();
    const made = await demo.api
      .post(`${url(1)}/tries`)
      .send({ scriptVersion: 1, start: 'A', seed: 1, knobs: { speed: 70, 'floor threshold': 40 } })
      .expect(201);
    const after = (await demo.api.get(url(1)).expect(200)).body as { tries: { id: number }[] };
    // The board's state and the stage rest on runs of the script itself.
    expect(after.tries).toEqual(before.tries);
    const last = (await walk(1)).at(-1)!;
    expect(last.id).toBe(`try ${(made.body as { id: number }).id}`);
    expect([knob(last, 'speed'), knob(last, 'floor threshold')]).toEqual([70, 40]);
    expect(last.results.past).toBeGreaterThan(24);
    // Nearer to one of their two surfaces it misreads more, by their own readings of both.
    expect(last.results.misreads).toBeDefined();
    later();
    const near = { scriptVersion: 1, start: 'A', seed: 1, knobs: { 'floor threshold': 23 } };
    await demo.api
      .post(`${url(1)}/tries`)
      .send(near)
      .expect(201);
    expect((await walk(1)).at(-1)!.results.misreads!).toBeGreaterThan(10 + last.results.misreads!);
    expect([last.kept, last.shape]).toEqual([false, (await walk(1))[0]!.shape]);
    // The same with the script’s own numbers is a try as any other.
    later();
    await demo.api
      .post(`${url(1)}/tries`)
      .send({ scriptVersion: 1, start: 'A', seed: 1, knobs: { speed: 30 } })
      .expect(201);
    expect(((await demo.api.get(url(1))).body as { tries: unknown[] }).tries.length).toBe(
      before.tries.length + 1,
    );
  });

  it.each([
    ['a number that the script has not', { gain: 1 }, 422, /no number that is called “gain”/],
    ['no number', { speed: 'fast' }, 422, /./],
    ['one without end', { speed: 1e9 }, 422, /./],
    ['a name from the engine room', JSON.parse('{"__proto__": 3, "constructor": 2}') as object, 422, /./],
  ])('%s is refused in a sentence, and nothing is kept', async (_, knobs, status, says) => {
    const before = await walk(1);
    const answer = await demo.api
      .post(`${url(1)}/tries`)
      .send({ scriptVersion: 1, start: 'A', seed: 1, knobs })
      .expect(status);
    expect(JSON.stringify(answer.body)).toMatch(says);
    expect(await walk(1)).toEqual(before);
  });

  it('what was changed on the robot stays for the next trial of the same script, and ends with the next version', async () => {
    const drive = async (body: object) => {
      later();
      await demo.api
        .post(`${url(1)}/floor-trials`)
        .send({ pastMm: 12, rested: true, tookS: null, ...body })
        .expect(201);
      return (await walk(1)).at(-1)!;
    };
    expect(knob(await drive({ knobs: { speed: 20 } }), 'speed')).toBe(20);
    expect(knob(await drive({}), 'speed')).toBe(20);
    const said = await drive({ changed: 'speed 25 %' });
    expect([knob(said, 'speed'), said.said]).toEqual([25, 'speed 25 %']);
    await demo.api
      .post(`${url(1)}/floor-trials`)
      .send({ pastMm: 12, rested: true, tookS: null, knobs: { gain: 3 } })
      .expect(422);
    const { body } = await demo.api.get(`${url(1)}/script`).expect(200);
    const { text, saved } = body as { text: string; saved: { version: number } };
    await demo.api
      .post(`${url(1)}/script-versions`)
      .send({ text: text.replace('30 %', '35 %'), basedOn: saved.version })
      .expect(201);
    const next = await drive({});
    expect([knob(next, 'speed'), next.shape]).toEqual([35, said.shape]);
  });

  it('without a script has what was said, and without anything is empty', async () => {
    expect(await walk(2, 'stop-short')).toEqual([]);
    later();
    await demo.api
      .post(`${url(2, 'stop-short')}/floor-trials`)
      .send({ gapMm: 292, rested: true, tookS: null, changed: 'threshold 30' })
      .expect(201);
    const [only] = await walk(2, 'stop-short');
    expect([only!.knobs, only!.results.gap]).toEqual([[{ name: 'threshold', value: 30, unit: '' }], 29.2]);
    await demo.api.get(`${url(424242)}/walk`).expect(404);
    await demo.api.get(`${url(1, 'no-lesson')}/walk`).expect(404);
  });

  it('a trial that was taken back is not in it', async () => {
    const [only] = await walk(2, 'stop-short');
    await demo.api.delete(`/api/floor-trials/${only!.id.replace('floor ', '')}`).expect(204);
    expect(await walk(2, 'stop-short')).toEqual([]);
  });
});
