import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Proof } from '@vigilum/core/expect';
import type { Database, Wire } from '../db/database.ts';
import { openPostgres } from '../db/postgres.ts';
import { Problem } from '../http/problems.ts';
import { queuedSimulations } from '../jobs/queued.ts';
import { startSimulations, type Simulations } from '../jobs/simulations.ts';
import type { ProveJob } from '../jobs/tasks.ts';
import { usualLessons } from '../starter/lessons/index.ts';
import { onPostgres, ownDemo } from './databases.ts';
import { lessonRobot } from './lessonRobot.ts';

// Proofs go through a queue where servers share a database: npm run test:postgres.
const several = onPostgres ? describe : describe.skip;

const lesson = usualLessons[0]!;
const job = (seed: number = lesson.proof.seed): ProveJob => ({
  lesson,
  known: lessonRobot(lesson),
  text: lesson.modelScript,
  seed,
  runs: 4,
});

/** Simulations that tell what they were asked, and do it when they are let. */
function told(done: (job: ProveJob) => Promise<Proof>): Simulations & { asked: number[] } {
  const asked: number[] = [];
  return {
    asked,
    rehearse: () => Promise.reject(new Error('not here')),
    prove: (one) => {
      asked.push(one.seed);
      return done(one);
    },
    inspect: () => Promise.reject(new Error('not asked')),
    solve: () => Promise.resolve(null),
    warm: () => undefined,
    count: () => 0,
    close: () => Promise.resolve(),
  };
}
const quick = (one: ProveJob) => Promise.resolve({ seed: one.seed } as unknown as Proof);
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

several('proofs of several servers', () => {
  let own: Awaited<ReturnType<typeof ownDemo>>;
  const dbs: Database[] = [];
  const open: Simulations[] = [];
  beforeAll(async () => {
    own = await ownDemo();
  }, 120_000);
  afterAll(async () => {
    await Promise.all(open.map((one) => one.close()));
    await Promise.all(dbs.map((db) => db.close()));
    await own.drop();
  });
  async function server(local: Simulations, works: number, allowed?: () => number): Promise<Simulations> {
    const db = (await openPostgres(own.url, { most: 2 })) as Database & { wire: Wire };
    dbs.push(db);
    const one = await queuedSimulations({
      url: own.url,
      db,
      local,
      works,
      log: () => undefined,
      ...(allowed ? { allowed } : {}),
    });
    open.push(one);
    return one;
  }
  const end = async (one: Simulations) => {
    open.splice(open.indexOf(one), 1);
    await one.close();
  };

  it('come out as they do without a queue, to the last digit, done by another process', async () => {
    const alone = startSimulations(1);
    const asks = await server(
      told(() => Promise.reject(new Error('not here'))),
      0,
    );
    const does = await server(startSimulations(1), 1);
    const [direct, queued] = await Promise.all([alone.prove(job()), asks.prove(job())]);
    expect(queued).toEqual(direct);
    expect(Object.is(queued, direct)).toBe(false);
    await alone.close();
    await end(does);
    await end(asks);
  }, 60_000);

  it('are shared, and a refusal is an answer in its own words', async () => {
    const [one, two] = [
      told((j) => pause(30).then(() => quick(j))),
      told((j) => pause(30).then(() => quick(j))),
    ];
    const [a, b] = [await server(one, 1), await server(two, 1)];
    const all = await Promise.all(Array.from({ length: 20 }, (_, i) => (i % 2 ? a : b).prove(job(i))));
    expect(all.map((p) => (p as unknown as { seed: number }).seed)).toEqual(all.map((_, i) => i));
    expect(one.asked.length + two.asked.length).toBe(20);
    expect(Math.min(one.asked.length, two.asked.length)).toBeGreaterThan(3);
    await end(a);
    await end(b);
    const refusing = await server(
      told(() => Promise.reject(new Problem(422, 'Takes too long', 'Nothing was saved: shorten it.'))),
      1,
    );
    await expect(refusing.prove(job())).rejects.toMatchObject({ status: 422, message: /shorten it/ });
    await end(refusing);
  }, 60_000);

  it('of who asks for one come before the tenth of who asks for many', async () => {
    const order: string[] = [];
    const worker = told((j) => pause(20).then(() => quick(j)));
    const asks = await server(told(quick), 0);
    const many = Array.from({ length: 12 }, (_, i) =>
      asks.prove(job(i), { fair: 'class 1' }).then(() => order.push(`many ${i}`)),
    );
    await pause(100);
    const few = asks.prove(job(100), { fair: 'class 2' }).then(() => order.push('one'));
    const does = await server(worker, 1);
    await Promise.all([...many, few]);
    expect(order.indexOf('one')).toBeLessThan(4);
    await end(does);
    await end(asks);
  }, 60_000);

  it('that nobody waits for any more are not begun', async () => {
    const asks = await server(told(quick), 0);
    const gone = new AbortController();
    const waiting = asks.prove(job(7), { signal: gone.signal });
    await pause(50);
    gone.abort();
    await expect(waiting).rejects.toThrow(/was left/);
    // Left at any moment on its way into the queue, also before it is there.
    for (let ms = 0; ms < 12; ms++) {
      const early = new AbortController();
      const left = asks.prove(job(9), { signal: early.signal });
      setTimeout(() => early.abort(), ms);
      await expect(left).rejects.toThrow(/was left/);
    }
    const worker = told(quick);
    await pause(100);
    const does = await server(worker, 1);
    await does.prove(job(8));
    expect(worker.asked).toEqual([8]);
    await end(does);
    await end(asks);
  }, 60_000);

  it('that a process took which then died are taken over, and answered once', async () => {
    const dying = told(() => new Promise<Proof>(() => undefined));
    const asks = await server(told(quick), 0, () => 2);
    const dead = await server(dying, 1);
    const answer = asks.prove(job(55));
    while (dying.asked.length === 0) await pause(20);
    await end(dead);
    const worker = told(quick);
    const began = performance.now();
    const does = await server(worker, 1);
    expect(await answer).toEqual({ seed: 55 });
    expect(worker.asked).toEqual([55]);
    console.log(`taken over ${((performance.now() - began) / 1000).toFixed(1)} s later, 2 s were allowed`);
    await end(does);
    await end(asks);
  }, 60_000);
});
