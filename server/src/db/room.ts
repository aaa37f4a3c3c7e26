import { freeBytes } from './dataFolder.ts';

/** Below this much free space nothing more is written, MB: the database must always be able to end what it has begun. */
export const FREE_MB = 64;
/** What was found a moment ago is good enough, ms. */
const LOOK_MS = 1000;

/** Whether there is room to write where the data lies. */
export interface Room {
  freeMb(): number;
  /** Why nothing can be written now, in a sentence; null where it can. */
  refusal(): string | null;
}

/** Looks at the free space where a folder lies, at most once a second. `least` in MB. */
export function roomIn(folder: string, least = FREE_MB, free = freeBytes): Room {
  let looked = -Infinity;
  let mb = Infinity;
  const freeMb = () => {
    if (performance.now() - looked >= LOOK_MS) {
      mb = Math.floor(free(folder) / 2 ** 20);
      looked = performance.now();
    }
    return mb;
  };
  return {
    freeMb,
    refusal: () =>
      freeMb() >= least
        ? null
        : `Nothing was saved: the disk of the server is nearly full (${freeMb()} MB are free, ${least} MB must stay). Make room there; what you write is kept in this browser meanwhile.`,
  };
}
