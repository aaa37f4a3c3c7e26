/** Room for the names of some twenty routes, bytes. */
const ROOM = 1024;
/** More than so many are not named. */
const MOST = 12;

/** What is being answered, where the watchdog's thread can read it while the main thread is stuck: its length, then its letters. */
export const underWayMemory = new SharedArrayBuffer(4 + ROOM);
const length = new Int32Array(underWayMemory, 0, 1);
const letters = new Uint8Array(underWayMemory, 4);
const encoder = new TextEncoder();

const underWay = new Map<symbol, string>();
function write(): void {
  const newest = [...underWay.values()].slice(-MOST).reverse();
  // Shared memory is not written to by the encoder itself.
  const bytes = encoder.encode(newest.join(', ')).subarray(0, ROOM);
  letters.set(bytes);
  Atomics.store(length, 0, bytes.length);
}

/** Notes that a route is being answered, for as long as the work takes. */
export async function whileUnderWay<T>(route: string, work: () => Promise<T>): Promise<T> {
  const one = Symbol(route);
  underWay.set(one, route);
  write();
  try {
    return await work();
  } finally {
    underWay.delete(one);
    write();
  }
}

/** The routes that were being answered, the newest first; read in another thread. */
export function readUnderWay(memory: SharedArrayBuffer): string {
  const bytes = new Uint8Array(memory, 4, Atomics.load(new Int32Array(memory, 0, 1), 0));
  return new TextDecoder().decode(Uint8Array.from(bytes));
}
