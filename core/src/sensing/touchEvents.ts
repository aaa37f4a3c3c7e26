import { countOf, formatNumber } from '../quantity/index.ts';

/** A change must last this long to count as pressed or released (common practice). */
export const DEBOUNCE_MS = 20;

/** Samples in a row that a change must hold: the debounce time in sample periods, at least one. */
export const debounceSamples = (periodMs: number, debounceMs = DEBOUNCE_MS): number =>
  Math.max(1, Math.ceil(debounceMs / periodMs - 1e-9));

/** The accepted state at each sample: a change counts once it has held for `n` samples in a row. */
export function debounce(raw: readonly boolean[], n: number, start = raw[0] ?? false): boolean[] {
  let state = start;
  let held = 0;
  return raw.map((now) => {
    held = now === state ? 0 : held + 1;
    if (held >= n) {
      state = now;
      held = 0;
    }
    return state;
  });
}

/** Something that happened to a bumper; `at` counts samples. A bump is a release after a press that was seen. */
export interface TouchEvent {
  is: 'press' | 'release' | 'bump';
  at: number;
}

export interface TouchRecord {
  accepted: boolean[];
  events: TouchEvent[];
  presses: number;
  releases: number;
  bumps: number;
  /** Longest stay pressed that began and ended in the record, s; null when there was none. */
  longestHoldS: number | null;
  /** Changes of the raw signal that were too short to count. */
  chatter: number;
}

/** What happened to a bumper in a record of samples `periodMs` apart. */
export function touchEvents(
  raw: readonly boolean[],
  periodMs: number,
  { n = debounceSamples(periodMs), start = raw[0] ?? false }: { n?: number; start?: boolean } = {},
): TouchRecord {
  const accepted = debounce(raw, n, start);
  const events: TouchEvent[] = [];
  let pressedAt: number | null = null;
  let longest: number | null = null;
  let rawChanges = 0;
  for (let i = 0; i < raw.length; i++) {
    if (raw[i] !== (i === 0 ? start : raw[i - 1])) rawChanges++;
    const before = i === 0 ? start : accepted[i - 1];
    if (accepted[i] === before) continue;
    if (accepted[i]) {
      events.push({ is: 'press', at: i });
      pressedAt = i;
    } else {
      events.push({ is: 'release', at: i });
      if (pressedAt !== null) {
        events.push({ is: 'bump', at: i });
        longest = Math.max(longest ?? 0, ((i - pressedAt) * periodMs) / 1000);
      }
      pressedAt = null;
    }
  }
  const count = (what: TouchEvent['is']) => events.filter((event) => event.is === what).length;
  const [presses, releases] = [count('press'), count('release')];
  return {
    accepted,
    events,
    presses,
    releases,
    bumps: count('bump'),
    longestHoldS: longest,
    chatter: rawChanges - presses - releases,
  };
}

/** The record in one sentence. */
export function tellTouch(record: TouchRecord): string {
  if (record.events.length === 0) return 'Nothing happened: press the bumper and let go.';
  const hold =
    record.longestHoldS === null ? '' : `, the longest held ${formatNumber(record.longestHoldS, 2)} s`;
  const chatter =
    record.chatter === 0 ? '' : ` ${countOf(record.chatter, 'change')} too short to count: a loose contact?`;
  return `${countOf(record.presses, 'press', 'presses')}, ${countOf(record.bumps, 'bump')}${hold}.${chatter}`;
}
