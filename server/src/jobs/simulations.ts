import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Proof } from '@vigilum/core/expect';
import type { ProveJob, RehearseJob, RehearseResult } from './tasks.ts';

/** Simulation in warm worker threads. */
export interface Simulations {
  rehearse(job: RehearseJob): Promise<RehearseResult>;
  prove(job: ProveJob): Promise<Proof>;
  /** Starts the first worker before it is needed. */
  warm(): void;
  close(): Promise<void>;
}

/** Up to `threads` workers, the first started when it is needed or warmed; they stay until closed. */
export function startSimulations(threads = 2): Simulations {
  let started: Piscina | null = null;
  const pool = (): Piscina => {
    const built = join(import.meta.dirname, 'tasks.js');
    started ??= new Piscina({
      filename: existsSync(built) ? built : join(import.meta.dirname, 'tasksFromSource.mjs'),
      minThreads: 1,
      maxThreads: threads,
      idleTimeout: Infinity,
    });
    return started;
  };
  return {
    rehearse: (job) => pool().run(job, { name: 'rehearseJob' }),
    prove: (job) => pool().run(job, { name: 'proveJob' }),
    warm: () => void pool(),
    close: async () => started?.destroy(),
  };
}
