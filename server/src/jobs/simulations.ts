import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Proof } from '@vigilum/core/expect';
import type { Solve } from '@vigilum/core/year';
import { Problem } from '../http/problems.ts';
import { bundled } from '../program.ts';
import type { Found, Given, Inspected, Inspection } from './inspections.ts';
import { Turns } from './turns.ts';
import type { ProveJob, RehearseJob, RehearseResult } from './tasks.ts';

export interface ProveOptions {
  /** Whose it is: those who ask for much wait behind those who ask for little. */
  fair?: string;
  /** Ends it: whoever asked is gone. */
  signal?: AbortSignal;
}

/** Long work in worker threads, so that nobody else waits for it. */
export interface Simulations {
  rehearse(job: RehearseJob): Promise<RehearseResult>;
  prove(job: ProveJob, options?: ProveOptions): Promise<Proof>;
  /**
   * Looks at what strangers made, for so long at most; throws what is wrong with it as a Problem. `fair`: whose it is. It must not be
   * awaited within a transaction.
   */
  inspect<W extends Inspection>(what: W, given: Given<W>, fair: string): Promise<Found<W>>;
  /** Solves a timetable's integer program. */
  solve: Solve;
  /** Jobs that run or wait. */
  count(): number;
  /** Starts the first worker before it is needed. */
  warm(): void;
  close(): Promise<void>;
}

/** Worker threads that are started when they are needed, and stay until closed. */
function lane(threads: number): { pool: () => Piscina; close: () => Promise<void> } {
  let started: Piscina | null = null;
  return {
    pool: () => {
      started ??= new Piscina({
        filename: bundled('tasks', import.meta.dirname) ?? join(import.meta.dirname, 'tasksFromSource.mjs'),
        minThreads: 1,
        maxThreads: threads,
        idleTimeout: Infinity,
        maxQueue: MOST_WAITING,
      });
      return started;
    },
    close: async () => started?.destroy(),
  };
}

/** A single run takes less than this on the slowest machine, and a proof of 500 runs less than that, ms. */
const TRY_MS = 60_000;
const PROOF_MS = 300_000;
/** A file that somebody chose is read in less than this, ms. */
const INSPECT_MS = 1500;
/** Files that are looked at together: while one is hostile another is read. */
const INSPECTED_AT_ONCE = 2;
/** Jobs that may wait in one lane. */
const MOST_WAITING = 300;

/** Whoever asked has left the page: this reaches nobody, and is no fault of the server. */
export const nobodyWaits = (): Problem =>
  new Problem(422, 'Ended', 'Nothing was saved: the page that asked was left.');

const takesTooLong = (ms: number): Problem =>
  new Problem(
    422,
    'Takes too long',
    `Nothing was saved: this was not read within ${ms / 1000} s and was stopped. Take out what repeats, or send a smaller part of it.`,
  );

/** Runs a job for so long at most; its worker is replaced when it is ended. */
async function within<T>(
  ms: number,
  run: (signal: AbortSignal) => Promise<T>,
  asker?: AbortSignal,
): Promise<T> {
  const time = AbortSignal.timeout(ms);
  try {
    return await run(asker ? AbortSignal.any([time, asker]) : time);
  } catch (error) {
    if (asker?.aborted) throw nobodyWaits();
    const { name, message } = error as Error;
    if (name === 'AbortError' || name === 'TimeoutError')
      throw new Problem(
        422,
        'Takes too long',
        `Nothing was saved: this was not done within ${ms / 1000} s and was ended. Shorten the time limit of the lesson, or its runs.`,
      );
    if (/queue is at limit/i.test(message))
      throw new Problem(503, 'Busy', 'Nothing was saved: too many runs wait already. Try again in a minute.');
    if (/worker/i.test(message) && /exit|terminat/i.test(message))
      throw new Problem(503, 'Run ended', 'Nothing was saved: the run was ended from outside. Try again.');
    throw error;
  }
}

/** Up to `threads` workers for proofs, and one of its own for single runs: somebody waits for a try, and never behind a class. */
export function startSimulations(
  threads = 2,
  { tryMs = TRY_MS, proofMs = PROOF_MS, inspectMs = INSPECT_MS } = {},
): Simulations {
  const tries = lane(1);
  const proofs = lane(threads);
  const plans = lane(1);
  const files = lane(INSPECTED_AT_ONCE);
  const turns = new Turns(INSPECTED_AT_ONCE);
  let count = 0;
  const counted = async <T>(job: Promise<T>): Promise<T> => {
    count++;
    return job.finally(() => count--);
  };
  return {
    count: () => count,
    rehearse: (job) =>
      counted(
        within(
          tryMs,
          (signal) => tries.pool().run(job, { name: 'rehearseJob', signal }) as Promise<RehearseResult>,
        ),
      ),
    prove: (job, { signal: asker } = {}) =>
      counted(
        within(
          proofMs,
          (signal) => proofs.pool().run(job, { name: 'proveJob', signal }) as Promise<Proof>,
          asker,
        ),
      ),
    solve: (lp) =>
      counted(
        within(tryMs, (signal) => plans.pool().run(lp, { name: 'solveJob', signal }) as ReturnType<Solve>),
      ),
    inspect: (what, given, fair) =>
      counted(
        turns.take(fair, async () => {
          const signal = AbortSignal.timeout(inspectMs);
          const answer = await (
            files.pool().run({ what, given }, { name: 'inspectJob', signal }) as Promise<Inspected>
          ).catch((error: unknown) => {
            if (signal.aborted) throw takesTooLong(inspectMs);
            throw error;
          });
          const { refused, found } = answer;
          if (refused) throw new Problem(refused.status, refused.title, refused.detail, refused.fields);
          return found as never;
        }),
      ),
    warm: () => {
      tries.pool();
      files.pool();
    },
    close: async () => {
      await Promise.all([tries.close(), proofs.close(), plans.close(), files.close()]);
    },
  };
}
