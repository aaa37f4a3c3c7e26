import { deserialize, serialize } from 'node:v8';
import PgBoss from 'pg-boss';
import type { Proof } from '@vigilum/core/expect';
import type { Database, Wire } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { nobodyWaits, type ProveOptions, type Simulations } from './simulations.ts';
import type { ProveJob } from './tasks.ts';

const QUEUE = 'proofs';
const SCHEMA = 'vigilum_jobs';
/** On which is said that there is work, and that some is done. */
const [WORK, DONE] = ['vigilum_work', 'vigilum_done'];
/** A word may be lost: so often is looked without one, ms. */
const LOOK_MS = 2000;
/** Whoever holds a job and does not end it in its time has lost it, and another takes it: looked at this often, s. */
const EXPIRY_LOOK_S = 5;
const TRIES = 2;

/** What travels keeps every number as it is, also those that JSON has no word for. */
const packed = (value: unknown) => ({ packed: serialize(value).toString('base64') });
const unpacked = <T>({ packed: text }: { packed: string }): T =>
  deserialize(Buffer.from(text, 'base64')) as T;

/** A refusal as it travels: it is an answer, and no failure to try again. */
interface Refusal {
  refused: { status: number; title: string; detail: string };
}

/** So long a proof may take before it is somebody else's, s: by its simulated time, twenty times slower than usual. */
export const allowedS = ({ lesson, runs }: ProveJob): number =>
  Math.round(Math.min(300, 30 + (runs * lesson.timeLimitS) / 10));

export interface QueueOptions {
  url: string;
  db: Database & { wire: Wire };
  /** Where the work is done by this process, and single runs, which never wait in a queue. */
  local: Simulations;
  /** Proofs that this process does at a time; 0 leaves them all to others. */
  works: number;
  log: (error: unknown) => void;
  /** How long a job may take before it is another's, s. */
  allowed?: (job: ProveJob) => number;
}

interface Waiting {
  resolve: (proof: Proof) => void;
  reject: (error: unknown) => void;
}

/**
 * Proofs go through a queue that all servers and workers on one database share (pg-boss): whoever is free does the next. A class that asks
 * for many at once waits behind one that asks for a few; a proof that somebody waits for alone comes before both.
 */
export async function queuedSimulations({
  url,
  db,
  local,
  works,
  log,
  allowed = allowedS,
}: QueueOptions): Promise<Simulations> {
  const boss = new PgBoss({
    connectionString: url,
    schema: SCHEMA,
    application_name: 'vigilum jobs',
    max: 4,
    maintenanceIntervalSeconds: EXPIRY_LOOK_S,
    // What is done is of no use to anybody after a while.
    archiveCompletedAfterSeconds: 3600,
    deleteAfterDays: 1,
  });
  boss.on('error', log);
  // Its tables are made by one at a time: two at once stand in each other's way.
  await db.alone('jobs', async () => {
    await boss.start();
    await boss.createQueue(QUEUE);
  });

  const workers: string[] = [];
  const nudge = () => workers.forEach((id) => boss.notifyWorker(id));
  async function work([job]: PgBoss.Job<{ packed: string }>[]): Promise<object> {
    try {
      return packed(await local.prove(unpacked<ProveJob>(job!.data)));
    } catch (error) {
      if (!(error instanceof Problem) || error.status >= 500) throw error;
      const { status, title, message: detail } = error;
      return { refused: { status, title, detail } } satisfies Refusal;
    } finally {
      // Who has done one looks for the next at once.
      nudge();
      // Told when it is stored, which is a moment after this.
      setTimeout(() => void db.query(`select pg_notify('${DONE}', '')`).catch(log), 5).unref();
    }
  }
  for (let i = 0; i < works; i++)
    workers.push(await boss.work<{ packed: string }>(QUEUE, { pollingIntervalSeconds: 2 }, work));

  const waiting = new Map<string, Waiting>();
  const settle = (id: string, how: (one: Waiting) => void) => {
    const one = waiting.get(id);
    waiting.delete(id);
    if (one) how(one);
  };
  let looking = false;
  let again = false;
  async function look(): Promise<void> {
    again = true;
    if (looking) return;
    looking = true;
    try {
      while (again) {
        again = false;
        if (waiting.size === 0) break;
        const rows = await db.query<{ id: string; state: string; output: unknown }>(
          `select id, state, output from ${SCHEMA}.job
            where name = $1 and id = any($2::uuid[]) and state in ('completed', 'failed', 'cancelled')`,
          [QUEUE, [...waiting.keys()]],
        );
        for (const { id, state, output } of rows) {
          settle(id, ({ resolve, reject }) => {
            if (state !== 'completed')
              reject(new Problem(503, 'Run ended', 'Nothing was saved: the proof was not done. Try again.'));
            else if ((output as Partial<Refusal>).refused) {
              const { status, title, detail } = (output as Refusal).refused;
              reject(new Problem(status, title, detail));
            } else resolve(unpacked<Proof>(output as { packed: string }));
          });
        }
      }
    } catch (error) {
      log(error);
    } finally {
      looking = false;
    }
  }
  const heard = () => void look();
  const stops = [await db.wire.listen(DONE, heard, heard), await db.wire.listen(WORK, nudge, nudge)];
  const timer = setInterval(heard, LOOK_MS);
  timer.unref();

  /** How many somebody waits for, by whose they are. */
  const asked = new Map<string, number>();
  async function ask(job: ProveJob, before: number, signal?: AbortSignal): Promise<Proof> {
    const id = await boss.send(QUEUE, packed(job), {
      priority: -before,
      retryLimit: TRIES,
      retryBackoff: true,
      expireInSeconds: allowed(job),
    });
    if (id === null) throw new Error('The queue took no job.');
    const done = new Promise<Proof>((resolve, reject) => waiting.set(id, { resolve, reject }));
    // It may be settled before it is waited for below: that is no failure that nobody hears of.
    done.catch(() => undefined);
    const leave = () => {
      settle(id, ({ reject }) => reject(nobodyWaits()));
      void boss.cancel(QUEUE, id).catch(log);
    };
    if (signal?.aborted) leave();
    else signal?.addEventListener('abort', leave, { once: true });
    await db.query(`select pg_notify('${WORK}', '')`);
    return done.finally(() => signal?.removeEventListener('abort', leave));
  }

  return {
    ...local,
    count: () => local.count() + waiting.size,
    async prove(job: ProveJob, { fair = '', signal }: ProveOptions = {}) {
      if (signal?.aborted) throw nobodyWaits();
      // Counted before anything is waited for: they come many at once.
      const before = asked.get(fair) ?? 0;
      asked.set(fair, before + 1);
      try {
        return await ask(job, before, signal);
      } finally {
        const left = asked.get(fair)! - 1;
        if (left > 0) asked.set(fair, left);
        else asked.delete(fair);
      }
    },
    async close() {
      clearInterval(timer);
      await Promise.all(stops.map((stop) => stop()));
      // What this process is at goes on elsewhere once its time is over; nothing waits for it here.
      await boss.stop({ graceful: false });
      await local.close();
    },
  };
}
