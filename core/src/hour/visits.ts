import type { HourStep } from './plan.ts';
import type { Waiting } from './queue.ts';
import type { StripStep } from './strip.ts';

/** A team came to a step, minutes of the hour's clock: pauses do not count. */
export interface Visit {
  step: string;
  atMin: number;
}

/** Where a team is in its hour. */
export interface Standing {
  /** Index among the hour's steps; as many as there are when all is done. */
  at: number;
  /** Since when, minutes of the hour. */
  sinceMin: number;
}

/** A time that a team took for a step which it has done, min. */
export interface Took {
  team: number;
  step: string;
  minutes: number;
}

/**
 * Where a team is: at the first step that is not done well enough to go on from. Since when: since it came there last; where
 * nobody saw it come, since it came to any step before, else since the beginning.
 */
export function standingIn(
  steps: readonly HourStep[],
  strip: readonly Pick<StripStep, 'id' | 'state'>[],
  visits: readonly Visit[],
): Standing {
  const stateOf = new Map(strip.map(({ id, state }) => [id, state]));
  const open = steps.findIndex(({ id }) => !['done', 'risk'].includes(stateOf.get(id) ?? 'none'));
  const at = open < 0 ? steps.length : open;
  const until = steps.slice(0, at + 1).map(({ id }) => id);
  const own = visits.findLast(({ step }) => step === steps[at]?.id);
  const before = visits.findLast(({ step }) => until.includes(step));
  return { at, sinceMin: (own ?? before)?.atMin ?? 0 };
}

/** What a team took for each step that it has done: all its stays there together. What was only looked through counts a quarter of a minute. */
export function tookOf(
  team: number,
  steps: readonly HourStep[],
  visits: readonly Visit[],
  { at }: Standing,
): Took[] {
  const inOrder = [...visits].sort((a, b) => a.atMin - b.atMin);
  const spent = new Map<string, number>();
  inOrder.forEach(({ step, atMin }, i) => {
    const next = inOrder[i + 1];
    // The last stay is not over: how long it will be nobody knows.
    if (next) spent.set(step, (spent.get(step) ?? 0) + next.atMin - atMin);
  });
  return steps.slice(0, at).flatMap(({ id, minutes }) => {
    const took = spent.get(id);
    return took === undefined || minutes <= 0 ? [] : [{ team, step: id, minutes: Math.max(0.25, took) }];
  });
}

/** A turn that was over sooner counts as none: somebody pressed the wrong name. */
const SHORTEST_TURN_MIN = 0.5;

/** A team as the live sheet tells it. */
export interface TeamOnSheet {
  id: number;
  strip: readonly Pick<StripStep, 'id' | 'state'>[];
  visits: readonly Visit[];
  /** When it was proved, minutes of the hour; null where it is not. */
  provedMin: number | null;
  pinned: number | null;
}

/**
 * The teams that wait for a mat: those whose next open step is on the floor, since they were proved or came there, and those to which the
 * teacher gave a place. Who is on a mat does not wait.
 */
export function waitingIn(
  steps: readonly HourStep[],
  teams: readonly TeamOnSheet[],
  turns: readonly { team: number; beganMin: number; endedMin: number | null }[],
): Waiting[] {
  const onMat = new Set(turns.filter(({ endedMin }) => endedMin === null).map(({ team }) => team));
  return teams.flatMap((team): Waiting[] => {
    if (onMat.has(team.id)) return [];
    const { at, sinceMin } = standingIn(steps, team.strip, team.visits);
    const ready = steps[at]?.onMat === true;
    if (!ready && team.pinned === null) return [];
    // What was taken back at once was no turn.
    const mine = turns.filter(
      ({ team: id, beganMin, endedMin }) =>
        id === team.id && (endedMin === null || endedMin - beganMin >= SHORTEST_TURN_MIN),
    );
    const back = Math.max(0, ...mine.map(({ endedMin }) => endedMin ?? 0));
    return [
      {
        team: team.id,
        // After a turn it waits anew.
        readyMin: Math.max(back, team.provedMin ?? sinceMin),
        turns: mine.length,
        pinned: team.pinned,
      },
    ];
  });
}
