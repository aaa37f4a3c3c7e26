// Runs in a thread of its own: ends the process when its main thread has been stuck for good.
import { workerData } from 'node:worker_threads';

interface Watched {
  beats: SharedArrayBuffer;
  /** Looks, a second apart, in which the main thread did not beat, until it counts as stuck. */
  patience: number;
}

const { beats, patience } = workerData as Watched;
const beat = new Int32Array(beats);
let last = Atomics.load(beat, 0);
let missed = 0;
setInterval(() => {
  const now = Atomics.load(beat, 0);
  missed = now === last ? missed + 1 : 0;
  last = now;
  // Asked to end, it has less time.
  if (missed < (Atomics.load(beat, 1) === 1 ? Math.min(8, patience) : patience)) return;
  process.stderr.write(
    'Vigilum does not answer any more, most likely because the disk is full. It ends here; what was acknowledged is stored. Make room, then start it again.\n',
  );
  process.kill(process.pid, 'SIGKILL');
}, 1000);
