import { wrap, type Remote } from 'comlink';
import type { Simulation } from './simulation.worker.ts';

export type { Job, Simulation } from './simulation.worker.ts';

const warm: Remote<Simulation>[] = [];
/** As many as leave a processor to the page, four at most. */
const MOST = Math.min(4, Math.max(1, navigator.hardwareConcurrency - 1));

function worker(i: number): Remote<Simulation> {
  warm[i] ??= wrap<Simulation>(
    new Worker(new URL('./simulation.worker.ts', import.meta.url), { type: 'module' }),
  );
  return warm[i];
}

/** The worker for single runs, started at the first use and kept warm: somebody waits for them, and never behind long work. */
export const simulation = (): Remote<Simulation> => worker(0);

/** The workers for long work that is shared out. */
export const simulations = (): Remote<Simulation>[] => Array.from({ length: MOST }, (_, i) => worker(i + 1));
