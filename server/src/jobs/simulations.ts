import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Proof } from '@vigilum/core/expect';
import type { ProveJob, RehearseJob, RehearseResult } from './tasks.ts';

/** Simulation in warm worker threads. */
export interface Simulations {
  rehearse(job: RehearseJob): Promise<RehearseResult>;
  prove(job: ProveJob): Promise<Proof>;
  close(): Promise<void>;
}

/** Starts `threads` workers; they stay until closed. */
export function startSimulations(threads = 2): Simulations {
  const built = join(import.meta.dirname, 'tasks.js');
  const pool = new Piscina({
    filename: existsSync(built) ? built : join(import.meta.dirname, 'tasksFromSource.mjs'),
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: Infinity,
  });
  return {
    rehearse: (job) => pool.run(job, { name: 'rehearseJob' }),
    prove: (job) => pool.run(job, { name: 'proveJob' }),
    close: () => pool.destroy(),
  };
}
