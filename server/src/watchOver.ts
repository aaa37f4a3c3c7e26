import { Worker } from 'node:worker_threads';
import { bundled } from './program.ts';
import { underWayMemory } from './underWay.ts';

/** Looks without a beat, a second apart, until a stuck main thread is ended. A busy machine is given its time. */
const PATIENCE = 30;
const BEAT_MS = 500;

/**
 * Watches this process from a thread of its own: a database on a full disk can hold the main thread for ever, and then nobody could end
 * it. From the sources there is no such thread.
 */
export function watchOver(folder: string, leastMb: number): { ending: () => void } {
  const program = bundled('watchdog', import.meta.dirname);
  if (!program) return { ending: () => undefined };
  const beats = new SharedArrayBuffer(8);
  const beat = new Int32Array(beats);
  const patience = Number(process.env.VIGILUM_PATIENCE ?? PATIENCE);
  new Worker(program, { workerData: { beats, patience, folder, leastMb, routes: underWayMemory } }).unref();
  setInterval(() => Atomics.add(beat, 0, 1), BEAT_MS).unref();
  return { ending: () => void Atomics.store(beat, 1, 1) };
}
