import { wrap, type Remote } from 'comlink';
import type { Simulation } from './simulation.worker.ts';

export type { Job } from './simulation.worker.ts';

let remote: Remote<Simulation> | null = null;

/** The page's one warm simulation worker, started at the first use. */
export function simulation(): Remote<Simulation> {
  remote ??= wrap<Simulation>(
    new Worker(new URL('./simulation.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}
