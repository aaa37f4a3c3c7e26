import { quantileSorted } from 'simple-statistics';

/** So long after a restart all come back at once, ms. */
const COMING_BACK_MS = 8000;

export const inMs = (value: number) => `${value.toFixed(0)} ms`;
const quantiles = (times: readonly number[], qs: readonly number[]): number[] => {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted.length === 0 ? [] : qs.map((q) => quantileSorted(sorted, q));
};

/** Times as one line. */
export function told(name: string, times: readonly number[]): string {
  const [p50, p95, p99, longest] = quantiles(times, [0.5, 0.95, 0.99, 1]).map(inMs);
  return p50 === undefined
    ? `${name}: none`
    : `${name}: p50 ${p50}, p95 ${p95}, p99 ${p99}, longest ${longest} (${times.length})`;
}

/** p50, p95 and p99 in whole ms; null where there is none. */
export const shortly = (times: readonly number[]): (number | null)[] => {
  const found = quantiles(times, [0.5, 0.95, 0.99]);
  return [0, 1, 2].map((i) => (found[i] === undefined ? null : Math.round(found[i])));
};

/** What is measured in an hour, all times in ms. */
export class Figures {
  /** How long every request took; those of the server's absence left out. */
  readonly requests: number[] = [];
  /** The same for the seconds in which everybody comes back after the restart. */
  readonly requestsBack: number[] = [];
  /** Proofs are long work: they wait for a worker, and a page shows them as they come. */
  readonly proofs: number[] = [];
  /** The slowest of each kind of request. */
  readonly slowest = new Map<string, number>();
  readonly saves: number[] = [];
  readonly toBoard: number[] = [];
  readonly checks: number[] = [];
  readonly backAfter: number[] = [];
  boardChanges = 0;
  requestsOfBoards = 0;
  refused = 0;
  /** Answers that say that too much was asked, or that the server could not: by the limits as they ship. */
  readonly limited = { 429: 0, 503: 0 };
  /** The same by the kind of request and what the answer said. */
  readonly limitedBy = new Map<string, number>();
  /** From the stop or the end of a server until it answered again. */
  readonly restarts: number[] = [];
  /** When each team’s newest reading was stored, until a board shows it. */
  readonly stored = new Map<number, number>();
  /** When the server was there again; 0 before. */
  restartedAt = 0;
  /** The hour is over: tablets end after the round that they are in. */
  over = false;

  /** Asks as `fetch` does, and keeps how long it took. */
  timed: typeof fetch = async (input, init) => {
    const started = performance.now();
    const answer = await fetch(input, init);
    const took = performance.now() - started;
    const path = new URL(
      typeof input === 'string' ? input : input instanceof URL ? input.href : input.url,
    ).pathname.replaceAll(/\d+/g, ':n');
    if (answer.status === 429 || answer.status === 503) {
      this.limited[answer.status]++;
      const { title } = (await answer
        .clone()
        .json()
        .catch(() => ({}))) as { title?: string };
      const what = `${answer.status} ${title ?? ''}, ${init?.method ?? 'GET'} ${path}`;
      this.limitedBy.set(what, (this.limitedBy.get(what) ?? 0) + 1);
    }
    const coming = this.restartedAt > 0 && started < this.restartedAt + COMING_BACK_MS;
    (path.endsWith('/proofs') ? this.proofs : coming ? this.requestsBack : this.requests).push(took);
    if (coming) return answer;
    const kind = `${init?.method ?? 'GET'} ${path}`;
    this.slowest.set(kind, Math.max(this.slowest.get(kind) ?? 0, took));
    return answer;
  };

  /** The slowest kind of request that is no proof. */
  get worst(): [kind: string, ms: number] | undefined {
    return [...this.slowest].filter(([kind]) => !kind.endsWith('/proofs')).sort((a, b) => b[1] - a[1])[0];
  }
}
