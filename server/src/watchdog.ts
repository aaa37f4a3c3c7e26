// Runs in a thread of its own: ends the process when its main thread has been stuck for good.
import { statfsSync, writeSync } from 'node:fs';
import { workerData } from 'node:worker_threads';
import { readUnderWay } from './underWay.ts';

interface Watched {
  beats: SharedArrayBuffer;
  /** Looks, a second apart, in which the main thread did not beat, until it counts as stuck. */
  patience: number;
  /** Where the data lies, and how much must be free there, MB: on a full disk there is nothing to wait for. */
  folder: string;
  leastMb: number;
  /** Routes that are being answered, as `underWay.ts` writes them. */
  routes: SharedArrayBuffer;
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

const { beats, patience, folder, leastMb, routes } = workerData as Watched;
const beat = new Int32Array(beats);
let last = Atomics.load(beat, 0);
let missed = 0;
setInterval(() => {
  const now = Atomics.load(beat, 0);
  missed = now === last ? missed + 1 : 0;
  last = now;
  if (missed < Math.min(ON_FULL_DISK, patience)) return;
  // Asked to end, or with nothing free, it has less time.
  if (missed < patience && Atomics.load(beat, 1) !== 1 && !isFull(folder, leastMb)) return;
  const full = isFull(folder, leastMb);
  // Streams of this thread are written by the main one, which is stuck: the file itself is not.
  writeSync(
    2,
    `Vigilum has not answered for ${missed} s${full ? ', because the disk is full' : ''}. It ends here; what was acknowledged is stored. ${full ? 'Make room, then start' : 'Start'} it again.\nBeing answered when it stopped: ${readUnderWay(routes) || 'nothing'}\n`,
  );
  process.kill(process.pid, 'SIGKILL');
}, 1000);
