import { randomUUID } from 'node:crypto';
import {
  closeSync,
  linkSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { connect, createServer, type Server } from 'node:net';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { FolderTrouble } from './trouble.ts';

/** Thrown when another process has the data folder open. */
export class FolderInUse extends FolderTrouble {}

interface Owner {
  id: string;
  pid: number;
  /** Kernel start time of the process where the system tells it, so that a reused pid is not taken for the owner. */
  born: string;
  host: string;
}

/** The hold on a data folder. */
export interface Lock {
  /** Tells others who look at the lock where this process answers. */
  tell(url: string, key: string): void;
  /** Whether it is still held: false once another process has taken the folder, and then nothing more may be written. */
  isOurs(): boolean;
  release(): void;
}

/** The lock file is touched this often, ms. */
const TOUCH_MS = 3000;
/** An owner elsewhere that has not touched it for so long is gone, ms. */
const GONE_MS = 15_000;
/** What was found a moment ago is good enough, ms. */
const LOOK_MS = 250;
/** A path of a socket may be no longer, bytes. */
const SOCKET_PATH = 100;

function bornAt(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  } catch {
    return '';
  }
}

function isRunning({ pid, born }: Owner): boolean {
  try {
    process.kill(pid, 0);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ESRCH') return false;
  }
  return born === '' || bornAt(pid) === '' || bornAt(pid) === born;
}

function read(file: string): Owner | null {
  try {
    const owner = JSON.parse(readFileSync(file, 'utf8')) as Owner;
    return Number.isInteger(owner.pid) ? owner : null;
  } catch {
    return null;
  }
}

/** A path to a socket in a folder that is short enough, and what to close when it is not used any more. */
function socketPath(folder: string): { path: string; close: () => void } | null {
  const path = join(folder, 'lock.socket');
  if (Buffer.byteLength(path) <= SOCKET_PATH) return { path, close: () => {} };
  if (process.platform !== 'linux') return null;
  // By an open folder, whatever its path is.
  const handle = openSync(folder, 'r');
  return { path: `/proc/self/fd/${handle}/lock.socket`, close: () => closeSync(handle) };
}

/** Whether a process, in this system or in another container of it, answers on the folder's socket. */
async function answers(folder: string): Promise<boolean> {
  const socket = socketPath(folder);
  if (!socket) return false;
  return new Promise<boolean>((resolve) => {
    const line = connect(socket.path);
    const end = (alive: boolean) => {
      line.destroy();
      resolve(alive);
    };
    line.once('connect', () => end(true));
    line.once('error', () => end(false));
    line.setTimeout(1000, () => end(true));
  }).finally(socket.close);
}

/** Listens on the folder's socket: the system holds it for as long as this process lives. Null where such sockets cannot be made. */
async function listen(folder: string): Promise<Server | null> {
  const socket = socketPath(folder);
  if (!socket) return null;
  rmSync(join(folder, 'lock.socket'), { force: true });
  const server = createServer((line) => line.destroy());
  return new Promise<Server | null>((resolve) => {
    server.once('error', () => resolve(null));
    server.listen(socket.path, () => resolve(server));
  })
    .then((started) => started?.unref() ?? null)
    .finally(socket.close);
}

/** How long ago an owner touched its file, ms, by the clock of the disk that it lies on. */
function untouchedMs(file: string, mine: string): number {
  utimesSync(mine, new Date(), new Date());
  writeFileSync(mine, readFileSync(mine));
  return statSync(mine).mtimeMs - statSync(file).mtimeMs;
}

/** Whether the owner of a lock still has the folder open. */
async function holds(folder: string, owner: Owner, file: string, mine: string): Promise<boolean> {
  if (await answers(folder)) return true;
  if (owner.host === hostname() || owner.host === undefined) return isRunning(owner);
  return untouchedMs(file, mine) < GONE_MS;
}

const inUse = (folder: string, { pid, host }: Owner) =>
  new FolderInUse(
    `The data folder ${folder} is open in another Vigilum (process ${pid}${host && host !== hostname() ? ` on ${host}` : ''}). Stop that one first, or set DATA_DIR to another folder.`,
  );

/**
 * Takes the one lock of a data folder, which lies inside it and so is the same by whatever path the folder is reached, or throws
 * FolderInUse. It is held by the system as a listening socket, and by a file that is touched every few seconds for those who
 * cannot reach that. What a process that is gone has left is taken over.
 */
export async function lockFolder(folder: string): Promise<Lock> {
  const file = join(folder, 'lock');
  const me: Owner = { id: randomUUID(), pid: process.pid, born: bornAt(process.pid), host: hostname() };
  const mine = `${file}.${me.id}`;
  // Before locks lay inside, they lay beside.
  const beside = `${folder}.lock`;
  const older = read(beside);
  if (older && isRunning(older) && older.pid !== process.pid) throw inUse(folder, older);
  writeFileSync(mine, JSON.stringify(me));
  try {
    await take(folder, file, mine);
  } finally {
    rmSync(mine, { force: true });
  }
  const server = await listen(folder);
  const timer = setInterval(() => {
    try {
      if (isOurs()) utimesSync(file, new Date(), new Date());
    } catch {
      // Gone, or the disk does not answer: the next look tells.
    }
  }, TOUCH_MS);
  timer.unref();
  let looked = { at: performance.now(), ours: true };
  function isOurs(): boolean {
    const at = performance.now();
    if (looked.ours && at - looked.at > LOOK_MS) looked = { at, ours: read(file)?.id === me.id };
    return looked.ours;
  }
  return {
    isOurs,
    tell(url, key) {
      if (!isOurs()) return;
      writeFileSync(mine, JSON.stringify({ ...me, url, key }), { mode: 0o600 });
      renameSync(mine, file);
    },
    release() {
      clearInterval(timer);
      server?.close();
      if (read(file)?.id === me.id) rmSync(file, { force: true });
    },
  };
}

async function take(folder: string, file: string, mine: string): Promise<void> {
  for (let attempt = 0; attempt < 5; attempt++) {
    try {
      // A link is made whole or not at all, and never over an existing file.
      linkSync(mine, file);
      return;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
    const owner = read(file);
    if (owner && (await holds(folder, owner, file, mine))) throw inUse(folder, owner);
    // Set the dead lock aside; if it was a live one after all, put it back.
    const aside = `${mine}.aside`;
    try {
      renameSync(file, aside);
    } catch {
      continue;
    }
    const taken = read(aside);
    if (taken && taken.id !== owner?.id) {
      linkSync(aside, file);
      rmSync(aside, { force: true });
      throw inUse(folder, taken);
    }
    rmSync(aside, { force: true });
  }
  throw new FolderInUse(`The data folder ${folder} is being opened by another Vigilum. Try again.`);
}
