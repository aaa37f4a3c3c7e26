import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Proof } from '@vigilum/core/expect';
import { bundled } from '../program.ts';
import type { ProveJob, RehearseJob, RehearseResult } from './tasks.ts';

/** Simulation in warm worker threads. */
export interface Simulations {
  rehearse(job: RehearseJob): Promise<RehearseResult>;
  prove(job: ProveJob): Promise<Proof>;
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
      });
      return started;
    },
    close: async () => started?.destroy(),
  };
}

/** Up to `threads` workers for proofs, and one of its own for single runs: somebody waits for a try, and never behind a class. */
export function startSimulations(threads = 2): Simulations {
  const tries = lane(1);
  const proofs = lane(threads);
  return {
    rehearse: (job) => tries.pool().run(job, { name: 'rehearseJob' }),
    prove: (job) => proofs.pool().run(job, { name: 'proveJob' }),
    warm: () => void tries.pool(),
    close: async () => {
      await Promise.all([tries.close(), proofs.close()]);
    },
  };
}
