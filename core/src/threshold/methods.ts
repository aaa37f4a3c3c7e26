import { countOf } from '../quantity/index.ts';
import { acrossEdgeMethod } from './acrossEdge.ts';
import { changeMethod } from './change.ts';
import { fewestMisreadsMethod } from './fewestMisreads.ts';
import { halfwayMethod } from './halfway.ts';
import type { Compare, Computed, Given } from './method.ts';
import { nearestRivalMethod } from './nearestRival.ts';
import { splitMethod } from './split.ts';
import type { Pair } from './surfaces.ts';
import { twoLevelsMethod } from './twoLevels.ts';

/** All methods, in the order they are taught. A new one is a file with its record and a line here. */
export const methods = [
  halfwayMethod,
  acrossEdgeMethod,
  nearestRivalMethod,
  fewestMisreadsMethod,
  splitMethod,
  changeMethod,
  twoLevelsMethod,
] as const;

export type MethodName = (typeof methods)[number]['name'];
export const methodNames: readonly MethodName[] = methods.map(({ name }) => name);

/** What a value found by a method is compared with; a value of one's own is a level. */
export const compareOf = (method: string): Compare =>
  methods.find(({ name }) => name === method)?.compare ?? 'level';

/** A threshold found by one method. */
export interface Candidate extends Computed {
  method: MethodName;
  compare: Compare;
}

/** A method that cannot be used yet, with what it needs. */
export interface MissingMethod {
  method: MethodName;
  says: string;
  mend: string;
}

/** What else was read beside the two surfaces; the darker one is looked for when nothing is said. */
export type MoreReadings = Partial<Omit<Given, 'pair'>>;

/** What every method makes of the same readings, in the order they are taught, and what the others still need. */
export function byMethod(
  pair: Pair,
  { wanted = 'low', others = [], ...more }: MoreReadings = {},
): { candidates: Candidate[]; missing: MissingMethod[] } {
  const candidates: Candidate[] = [];
  const missing: MissingMethod[] = [];
  for (const { name: method, compare, compute } of methods) {
    const outcome = compute({ pair, wanted, others, ...more });
    if (outcome.ok) candidates.push({ method, compare, ...outcome.value });
    else missing.push({ method, says: outcome.says, mend: outcome.mend });
  }
  return { candidates, missing };
}

/**
 * The level with the fewest expected misreads; when they are as good as equal, the one that survives more light.
 * Where the lesson asks for a method, that one, as long as the readings allow it.
 */
export function recommend(
  candidates: readonly Candidate[],
  asked?: string,
): { best: Candidate; because: string } {
  const wished = candidates.find(({ method }) => method === asked);
  if (wished) return { best: wished, because: 'It is the method that this lesson is about.' };
  const all = candidates.filter(({ compare }) => compare === 'level');
  // A level that takes a third surface for the wanted one is no answer while another does not.
  const clear = all.filter((level) => level.takenFor.length === 0);
  const levels = clear.length > 0 ? clear : all;
  const total = ({ safety }: Candidate) => safety.misreadsLow + safety.misreadsHigh;
  const fewest = Math.min(...levels.map(total));
  const asGood = levels.filter((level) => total(level) < fewest + 0.1);
  const best = asGood.reduce((a, b) => (b.safety.lightShift > a.safety.lightShift ? b : a));
  const because =
    clear.length > 0 && clear.length < all.length
      ? `Of those that keep clear of every other surface it ${asGood.length > 1 ? 'survives the largest change of light' : 'misreads least'}.`
      : asGood.length > 1
        ? `${countOf(asGood.length, 'method')} misread as good as equally little; this one survives the largest change of light.`
        : 'It has the fewest expected misreads for these readings.';
  return { best, because };
}
