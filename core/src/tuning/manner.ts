import { scoreOf, type WalkStep } from './walk.ts';
import type { Goal } from './results.ts';

/** How a team goes about its tuning, where that is worth a word to it. */
export interface Manner {
  kind: 'circles' | 'jumps' | 'two at once' | 'stopped early' | 'goes well' | 'has not begun';
  says: string;
}

const settingOf = ({ trial }: WalkStep): string =>
  `${trial.shape}|${trial.knobs.map(({ name, value }) => `${name}=${Number(value.toFixed(4))}`).join('|')}`;

/** Minutes without a trial after which a walk that has not arrived is called stopped. */
const QUIET_MS = 6 * 60_000;
/** A change by more than this factor, again and again, is a jump. */
const JUMP = 2.5;

/** What is to be said of a walk, worst first. `nowMs` tells the time; null for a walk that is over. */
export function mannersOf(walk: readonly WalkStep[], goals: readonly Goal[], nowMs: number | null): Manner[] {
  if (walk.length === 0) return [{ kind: 'has not begun', says: 'no trial yet' }];
  const found: Manner[] = [];
  const last = walk.at(-1)!;
  const arrived = walk.some(({ trial }) => scoreOf(trial, goals) === 0 && trial.kept !== false);
  const settings = walk.map(settingOf);
  // Driving the same numbers again at once is no circle: that is how scatter is found.
  const returns = settings.filter(
    (setting, i) => i > 0 && settings[i - 1] !== setting && settings.slice(0, i).includes(setting),
  ).length;
  const moves = walk.filter(({ changes }) => changes.length > 0).length;
  if (!arrived && returns >= 2 && returns * 2 >= moves)
    found.push({ kind: 'circles', says: `came back to numbers it had tried, ${returns} times` });
  const both = walk.filter(({ changes }) => changes.length > 1).length;
  if (both > 0)
    found.push({ kind: 'two at once', says: `changed two things at once in ${both} of ${moves} steps` });
  const jumps = walk.filter(({ changes }) =>
    changes.some(({ from, to }) => {
      const [a, b] = [Math.abs(from), Math.abs(to)];
      return from * to < 0 || Math.max(a, b) > JUMP * Math.max(1e-9, Math.min(a, b));
    }),
  ).length;
  if (!arrived && jumps >= 2)
    found.push({ kind: 'jumps', says: `jumped by more than double, ${jumps} times` });
  const quiet = nowMs === null || nowMs - last.trial.at > QUIET_MS;
  if (!arrived && quiet)
    found.push({
      kind: 'stopped early',
      says: `stopped after ${walk.length} ${walk.length === 1 ? 'trial' : 'trials'}, not there yet`,
    });
  return found.length > 0
    ? found
    : [{ kind: 'goes well', says: arrived ? 'is there' : 'one change at a time, still going' }];
}
