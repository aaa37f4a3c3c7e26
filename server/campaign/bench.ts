import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** What a part of the campaign came to. */
export interface Outcome {
  part: string;
  tried: number;
  held: number;
  /** What did not hold, in words; and what else is worth saying. */
  notes: string[];
}

export const root = join(import.meta.dirname, '../..');
export const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** The same numbers every time. */
export function dice(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * n);
  };
}

export interface Running {
  url: string;
  child: ChildProcess;
  /** Everything that it said. */
  said: () => string;
  kill: (signal?: NodeJS.Signals) => Promise<number | null>;
}
export interface Failed {
  code: number | null;
  said: string;
}

/** Starts the built server on a folder; what it says when it does not start comes back as `Failed`. */
export async function start(
  folder: string,
  env: Record<string, string> = {},
  withinMs = 90_000,
): Promise<Running | Failed> {
  const child = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, VIGILUM_DEMO: '1', PORT: '0', DATA_DIR: folder, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  child.stdout.on('data', (text) => (said += String(text)));
  child.stderr.on('data', (text) => (said += String(text)));
  const ended = new Promise<number | null>((done) => child.once('exit', (code) => done(code)));
  const kill = (signal: NodeJS.Signals = 'SIGKILL') => {
    child.kill(signal);
    return ended;
  };
  const until = Date.now() + withinMs;
  for (;;) {
    const url = /http:\/\/\S+/.exec(said)?.[0];
    if (url && said.includes('is ready')) return { url, child, said: () => said, kill };
    if (child.exitCode !== null || child.signalCode !== null) return { code: child.exitCode, said };
    if (Date.now() > until) {
      await kill();
      return { code: null, said: `${said}\n(no answer within ${withinMs / 1000} s)` };
    }
    await wait(50);
  }
}
export const isRunning = (one: Running | Failed): one is Running => 'url' in one;

/** A server that must start. */
export async function started(folder: string, env: Record<string, string> = {}): Promise<Running> {
  const one = await start(folder, env);
  if (!isRunning(one)) throw new Error(`The server did not start: ${one.said}`);
  return one;
}

/** A folder for one part, taken away at its end. */
export async function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'vigilum-campaign-'));
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const trials = '/api/teams/1/lessons/tide-line/floor-trials';

/** Writes trials until told to stop; the ids that were acknowledged. */
export function writing(url: string, lanes = 8): { acknowledged: number[]; stop: () => Promise<void> } {
  const acknowledged: number[] = [];
  let going = true;
  const lane = async () => {
    while (going) {
      await fetch(url + trials, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ pastMm: 12, rested: true, tookS: null }),
      })
        .then(async (answer) => {
          if (answer.status === 201) acknowledged.push(((await answer.json()) as { id: number }).id);
          else await wait(50);
        })
        .catch(() => wait(20));
    }
  };
  const all = Promise.all(Array.from({ length: lanes }, lane));
  return {
    acknowledged,
    stop: async () => {
      going = false;
      await all;
    },
  };
}

/** Ids of the trials that a server has. */
export async function stored(url: string): Promise<Set<number>> {
  const answer = await fetch(`${url}/api/teams/1/lessons/tide-line`);
  const { trials: all } = (await answer.json()) as { trials: { id: number }[] };
  return new Set(all.map(({ id }) => id));
}
