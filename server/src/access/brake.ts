import { Problem } from '../http/problems.ts';

/** Wrong attempts that cost nothing: people mistype. */
const FREE = 4;
const LONGEST_S = 300;
/** After so long without a wrong attempt all is forgotten, ms. */
const FORGOTTEN_MS = 3600_000;
/** More keys than these are not kept apart: the oldest goes. */
const MOST = 5000;

/** Seconds to wait after so many wrong attempts in a row: doubled each time from the fifth on, five minutes at most. */
export const waitAfter = (wrong: number): number =>
  wrong <= FREE ? 0 : Math.min(LONGEST_S, 2 ** (wrong - FREE));

interface Tries {
  wrong: number;
  /** Nothing is looked at before, ms since the epoch. */
  until: number;
  last: number;
}

/** Slows down whoever tries passwords, codes or pictures, by what is tried and by where from. */
export class Brake {
  private readonly tries = new Map<string, Tries>();
  private readonly now: () => number;

  constructor(now: () => number = Date.now) {
    this.now = now;
  }

  /** Throws a 429 while one of the keys has to wait. */
  check(keys: readonly string[]): void {
    const now = this.now();
    const until = Math.max(...keys.map((key) => this.tries.get(key)?.until ?? 0));
    if (until <= now) return;
    const seconds = Math.ceil((until - now) / 1000);
    throw new Problem(
      429,
      'Wait a little',
      `Too many wrong attempts. Wait ${seconds} s, then try again.`,
      [],
      { waitS: seconds },
    );
  }

  wrong(keys: readonly string[]): void {
    const now = this.now();
    for (const key of keys) {
      const known = this.tries.get(key);
      const wrong = (known && now - known.last < FORGOTTEN_MS ? known.wrong : 0) + 1;
      this.tries.delete(key);
      this.tries.set(key, { wrong, until: now + 1000 * waitAfter(wrong), last: now });
    }
    while (this.tries.size > MOST) this.tries.delete(this.tries.keys().next().value!);
  }

  right(keys: readonly string[]): void {
    for (const key of keys) this.tries.delete(key);
  }
}
