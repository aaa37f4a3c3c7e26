import { linkSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** Thrown when another process has the data folder open. */
export class FolderInUse extends Error {}

interface Owner {
  pid: number;
  /** Kernel start time of the process where the system tells it, so that a reused pid is not taken for the owner. */
  born: string;
}

function bornAt(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  } catch {
    return '';
  }
}

function alive({ pid, born }: Owner): boolean {
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

/**
 * Takes the one lock of a data folder, beside it as `<folder>.lock`, or throws FolderInUse. A lock left by
 * a process that is gone is taken over. Returns what lets it go.
 */
export function lockFolder(folder: string): () => void {
  const file = `${folder.replace(/[/\\]+$/, '')}.lock`;
  const mine = `${file}.${process.pid}`;
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(mine, JSON.stringify({ pid: process.pid, born: bornAt(process.pid) }));
  try {
    for (let attempt = 0; attempt < 3; attempt++) {
      try {
        // A link is made whole or not at all, and never over an existing file.
        linkSync(mine, file);
        return () => rmSync(file, { force: true });
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      }
      const owner = read(file);
      if (owner && alive(owner)) {
        throw new FolderInUse(
          `The data folder ${folder} is open in another Vigilum (process ${owner.pid}). Stop that one first, or set DATA_DIR to another folder.`,
        );
      }
      // Set the dead lock aside; if it was a live one after all, put it back.
      const aside = `${file}.${process.pid}.aside`;
      try {
        renameSync(file, aside);
      } catch {
        continue;
      }
      const taken = read(aside);
      if (taken && alive(taken)) {
        linkSync(aside, file);
        rmSync(aside, { force: true });
        throw new FolderInUse(`The data folder ${folder} is open in another Vigilum (process ${taken.pid}).`);
      }
      rmSync(aside, { force: true });
    }
    throw new FolderInUse(`The data folder ${folder} is being opened by another Vigilum. Try again.`);
  } finally {
    rmSync(mine, { force: true });
  }
}
