// Runs in a thread of its own: ends the process when its main thread has been stuck for good.
import { statfsSync } from 'node:fs';
import { workerData } from 'node:worker_threads';

interface Watched {
  beats: SharedArrayBuffer;
  /** Looks, a second apart, in which the main thread did not beat, until it counts as stuck. */
  patience: number;
  /** Where the data lies, and how much must be free there, MB: on a full disk there is nothing to wait for. */
  folder: string;
  leastMb: number;
}

/** On a full disk it is ended after so many looks: a process that was asked to end is to end within ten seconds. */
const ON_FULL_DISK = 8;

function isFull(folder: string, leastMb: number): boolean {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return (bavail * bsize) / 2 ** 20 < leastMb;
  } catch {
    return false;
  }
}

const { beats, patience, folder, leastMb } = workerData as Watched;
const beat = new Int32Array(beats);
let last = Atomics.load(beat, 0);
let missed = 0;
setInterval(() => {
  const now = Atomics.load(beat, 0);
  missed = now === last ? missed + 1 : 0;
  last = now;
  if (missed < ON_FULL_DISK) return;
  // Asked to end, or with nothing free, it has less time.
  if (missed < patience && Atomics.load(beat, 1) !== 1 && !isFull(folder, leastMb)) return;
  process.stderr.write(
    'Vigilum does not answer any more, most likely because the disk is full. It ends here; what was acknowledged is stored. Make room, then start it again.\n',
  );
  process.kill(process.pid, 'SIGKILL');
}, 1000);
