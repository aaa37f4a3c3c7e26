import { join } from 'node:path';
import { KEY_HEADER } from '@vigilum/contract/changes';
import { follow } from '../bench/hour/pages.ts';
import { dice, inFolder, isRunning, start, wait, type Outcome, type Running } from './bench.ts';

// Several servers on one PostgreSQL database, and what happens to them.

/** A PostgreSQL server as scripts/postgres.mjs starts it. */
interface Postgres {
  url: string;
  start: () => Promise<void>;
  crash: () => Promise<void>;
  stop: () => Promise<void>;
}

async function postgres(): Promise<Postgres> {
  const path = new URL('../../scripts/postgres.mjs', import.meta.url).href;
  const { startPostgres } = (await import(path)) as {
    startPostgres: (options: { durable: boolean }) => Promise<Postgres>;
  };
  return startPostgres({ durable: true });
}

const FIRST_PORT = 4520;
const TRIALS = '/api/teams/1/lessons/tide-line/floor-trials';

/** The servers of a district, each on a port of its own; one that was killed is started again. */
class Servers {
  private readonly running: (Running | null)[] = [];
  private readonly folder: string;
  private readonly database: string;

  constructor(folder: string, database: string) {
    this.folder = folder;
    this.database = database;
  }

  url = (i: number): string => `http://127.0.0.1:${FIRST_PORT + i}`;

  async start(i: number): Promise<void> {
    for (let tries = 1; ; tries++) {
      const one = await start(join(this.folder, String(i)), {
        DATABASE_URL: this.database,
        PORT: String(FIRST_PORT + i),
        REQUESTS_PER_MINUTE: '100000',
        LOG_LEVEL: 'fatal',
      });
      if (isRunning(one)) {
        this.running[i] = one;
        return;
      }
      if (tries === 5) throw new Error(`Server ${i} did not start: ${one.said}`);
      await wait(1000);
    }
  }

  isAlive = (i: number): boolean => this.running[i]?.child.exitCode === null;

  async kill(i: number): Promise<void> {
    await this.running[i]?.kill();
    this.running[i] = null;
  }

  async stop(): Promise<void> {
    await Promise.all(this.running.flatMap((one) => (one ? [one.kill('SIGTERM')] : [])));
  }
}

interface Written {
  /** Ids by the number that was sent. */
  acknowledged: Map<number, number>;
  sent: () => number;
  stop: () => Promise<void>;
}

/** Writes trials, each with a number and a key of its own, to whichever server answers, again until it is acknowledged. */
function writing(servers: Servers, lanes: number, howMany: number): Written {
  const acknowledged = new Map<number, number>();
  let going = true;
  let next = 0;
  const lane = async (n: number) => {
    while (going) {
      const number = ++next;
      const key = `campaign-${number}-${Date.now().toString(36)}`;
      for (let tries = n; ; tries++) {
        const answer = await fetch(servers.url(tries % howMany) + TRIALS, {
          method: 'POST',
          headers: { 'content-type': 'application/json', [KEY_HEADER]: key },
          body: JSON.stringify({ pastMm: 12, rested: true, tookS: number / 1000 }),
          signal: AbortSignal.timeout(15_000),
        }).catch(() => null);
        if (answer?.status === 201) {
          acknowledged.set(number, ((await answer.json()) as { id: number }).id);
          break;
        }
        if (answer && answer.status < 500) throw new Error(`${answer.status}: ${await answer.text()}`);
        await wait(60);
      }
    }
  };
  const all = Promise.all(Array.from({ length: lanes }, (_, n) => lane(n)));
  return {
    acknowledged,
    sent: () => next,
    stop: async () => {
      going = false;
      await all;
    },
  };
}

/** Hears of the trials of the team as a page does, at one server; the revisions that it was told. */
function hearing(url: string): { told: Set<number>; missed: () => number; stop: () => void } {
  const told = new Set<number>();
  let missed = 0;
  const stop = follow(
    url,
    '',
    (change) => {
      if (change.what === 'evidence' && change.part === 'trial') told.add(change.revision);
    },
    () => missed++,
  );
  return { told, missed: () => missed, stop };
}

/** Compares what was acknowledged with what is stored: nothing lost, nothing twice. */
async function compare(
  servers: Servers,
  { acknowledged, sent }: Written,
): Promise<{ lost: number; doubled: number }> {
  const answer = await fetch(`${servers.url(0)}/api/teams/1/lessons/tide-line`);
  const { trials } = (await answer.json()) as { trials: { id: number; tookS: number | null }[] };
  const there = new Map<number, number>();
  let doubled = 0;
  for (const { id, tookS } of trials) {
    const number = Math.round((tookS ?? 0) * 1000);
    // The demo has trials of its own, which took seconds.
    if (number === 0 || number > sent()) continue;
    if (there.has(number)) doubled++;
    there.set(number, id);
  }
  const lost = [...acknowledged].filter(([number, id]) => there.get(number) !== id).length;
  return { lost, doubled };
}

/** Ends the writing and the hearing, and counts what came of them. */
async function ended(servers: Servers, written: Written, page: ReturnType<typeof hearing>) {
  await written.stop();
  await wait(2500);
  page.stop();
  const acknowledged = written.acknowledged.size;
  return {
    ...(await compare(servers, written)),
    acknowledged,
    // Where it was told to ask for everything anew it has missed nothing either.
    untold: page.missed() > 0 ? 0 : Math.max(0, acknowledged - page.told.size),
  };
}

async function inDistrict(
  work: (servers: Servers, database: Postgres) => Promise<Outcome>,
): Promise<Outcome> {
  const database = await postgres();
  try {
    return await inFolder(async (folder) => {
      const servers = new Servers(folder, database.url);
      try {
        // Both at once: one fills the database, the other waits for it.
        await Promise.all([servers.start(0), servers.start(1)]);
        return await work(servers, database);
      } finally {
        await servers.stop();
      }
    });
  } finally {
    await database.stop();
  }
}

/** One of two servers is killed, again and again, while both are written to. */
export const killServers = (times: number): Promise<Outcome> =>
  inDistrict(async (servers) => {
    const roll = dice(22);
    const page = hearing(servers.url(1));
    const written = writing(servers, 8, 2);
    for (let i = 0; i < times; i++) {
      await wait(150 + roll(500));
      const which = roll(2);
      await servers.kill(which);
      await servers.start(which);
    }
    await wait(500);
    const { acknowledged, lost, doubled, untold } = await ended(servers, written, page);
    return {
      part: `two servers on PostgreSQL, one of them killed with kill -9, ${times} times`,
      tried: times,
      held: lost + doubled + untold === 0 ? times : 0,
      notes: [
        `acknowledged ${acknowledged}, lost ${lost}, stored twice ${doubled}; a page heard of ${acknowledged - untold} of them, and was told ${page.missed()} times to ask for everything anew`,
      ],
    };
  });

/** The database crashes and is away for some time, while both servers are written to. */
export const databaseAway = (seconds: number): Promise<Outcome> =>
  inDistrict(async (servers, database) => {
    const page = hearing(servers.url(1));
    const written = writing(servers, 8, 2);
    await wait(3000);
    const before = written.acknowledged.size;
    await database.crash();
    const health: number[] = [];
    const times: number[] = [];
    const until = Date.now() + 1000 * seconds;
    while (Date.now() < until) {
      const began = performance.now();
      const answer = await fetch(`${servers.url(0)}/api/health`).catch(() => null);
      times.push(performance.now() - began);
      health.push(answer?.status ?? 0);
      await wait(1000);
    }
    await database.start();
    const back = performance.now();
    const at = written.acknowledged.size;
    while (written.acknowledged.size < at + 8 && performance.now() - back < 30_000) await wait(20);
    const again = performance.now() - back;
    await wait(3000);
    const { acknowledged, lost, doubled, untold } = await ended(servers, written, page);
    const alive = servers.isAlive(0) && servers.isAlive(1);
    const said = health.filter((status) => status === 503).length;
    return {
      part: `the database crashes and is away for ${seconds} s`,
      tried: 4,
      held: [lost + doubled === 0, untold === 0, alive && again < 30_000, said >= health.length - 1].filter(
        Boolean,
      ).length,
      notes: [
        `acknowledged ${before} before and ${acknowledged} in all, lost ${lost}, stored twice ${doubled}; the page on the other server heard of ${acknowledged - untold}`,
        `health said so ${said} of ${health.length} times, after ${Math.round(Math.max(...times))} ms at most; both servers ${alive ? 'ran on' : 'did NOT run on'}, and saved again ${Math.round(again)} ms after the database was back`,
      ],
    };
  });
