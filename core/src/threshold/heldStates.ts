import type { Reading } from '../sensing/index.ts';
import type { TwoLevels } from './twoLevels.ts';

/** The states of a record under two levels: true from `enter` on until `leave`, both inclusive, when entering is upward. */
export function heldStates(
  values: readonly number[],
  { low, high }: { low: number; high: number },
  start = false,
): boolean[] {
  let state = start;
  return values.map((value) => {
    if (!state && value >= high) state = true;
    else if (state && value <= low) state = false;
    return state;
  });
}

const changes = (states: readonly boolean[]): number =>
  states.filter((state, i) => i > 0 && state !== states[i - 1]).length;

/**
 * How often the state changes over a record under two levels, and under a single one in the middle of them: what
 * the dead band saves. Looks without a reading are passed over.
 */
export function stateChanges(
  values: readonly Reading[],
  { enter, leave }: Pick<TwoLevels, 'enter' | 'leave'>,
): { two: number; single: number; at: number } {
  const read = values.filter((value): value is number => value !== null && Number.isFinite(value));
  const [low, high] = enter < leave ? [enter, leave] : [leave, enter];
  const at = (low + high) / 2;
  const start = read[0] !== undefined && read[0] >= at;
  return {
    two: changes(heldStates(read, { low, high }, start)),
    single: changes(read.map((value) => value >= at)),
    at,
  };
}
