/** A team that wants a turn on a mat. */
export interface Waiting {
  team: number;
  /** Since when it is ready, minutes of the hour. */
  readyMin: number;
  /** Turns that it has had. */
  turns: number;
  /** The place that the teacher gave it, from 1; null where the rule decides. */
  pinned: number | null;
}
/** A turn that is going on. */
export interface Turn {
  team: number;
  /** From 1. */
  mat: number;
  beganMin: number;
}
export interface Place extends Waiting {
  /** From 1. */
  place: number;
  /** Why it stands there, in words. */
  why: string;
}

/** Fewer turns first, then whoever is ready longest; the rest is settled by id, so that the order never flickers. */
export const byRule = (a: Waiting, b: Waiting): number =>
  a.turns - b.turns || a.readyMin - b.readyMin || a.team - b.team;

/** The rule in one sentence, shown beside the queue. */
export const QUEUE_RULE =
  'Whoever has not been on a mat goes first, then whoever is ready longest. The teacher may set a place.';

const why = ({ turns, pinned }: Waiting): string => {
  if (pinned !== null) return 'set by the teacher';
  return turns === 0 ? 'not on a mat yet' : turns === 1 ? 'has been once' : `has been ${turns} times`;
};

/**
 * The queue for the mats. The rule (common practice: take turns, first come first served) orders all whose place the teacher has not
 * set; those stand where they were set, or at the end where the queue is shorter.
 */
export function queueOf(teams: readonly Waiting[]): Place[] {
  const order = teams.filter(({ pinned }) => pinned === null).sort(byRule);
  const pinned = teams
    .filter((team) => team.pinned !== null)
    .sort((a, b) => a.pinned! - b.pinned! || byRule(a, b));
  for (const team of pinned) order.splice(Math.min(Math.max(0, team.pinned! - 1), order.length), 0, team);
  return order.map((team, i) => ({ ...team, place: i + 1, why: why(team) }));
}

/** When a team is expected on a mat, minutes of the hour. */
export interface ExpectedTurn {
  team: number;
  mat: number;
  fromMin: number;
  toMin: number;
}

/**
 * When each team of a queue is on which mat, if every turn takes as long as it may. A turn that is over its time is expected to end
 * now.
 */
export function expectedTurns(
  queue: readonly Pick<Place, 'team'>[],
  { mats, turnMin, now, turns }: { mats: number; turnMin: number; now: number; turns: readonly Turn[] },
): ExpectedTurn[] {
  const free = Array.from({ length: mats }, (_, i) => {
    const on = turns.filter(({ mat }) => mat === i + 1).at(-1);
    return on ? Math.max(now, on.beganMin + turnMin) : now;
  });
  return queue.map(({ team }) => {
    const mat = free.indexOf(Math.min(...free));
    const fromMin = free[mat]!;
    free[mat] = fromMin + turnMin;
    return { team, mat: mat + 1, fromMin, toMin: fromMin + turnMin };
  });
}

/** Something about the mats that a teacher wants to hear. */
export interface MatNotice {
  kind: 'idle' | 'over' | 'starving';
  mat: number | null;
  team: number | null;
  minutes: number;
}

/** A team waits too long after so many turns' time. */
const LONG_TURNS = 3;

/** Mats that stand idle while somebody waits, turns that are over their time, teams that wait too long or will not be reached before the end. */
export function matNotices(
  queue: readonly Place[],
  given: { mats: number; turnMin: number; now: number; endMin: number; turns: readonly Turn[] },
): MatNotice[] {
  const { mats, turnMin, now, endMin, turns } = given;
  const taken = new Set(turns.map(({ mat }) => mat));
  const idle = Array.from({ length: mats }, (_, i) => i + 1).filter((mat) => !taken.has(mat));
  const expected = expectedTurns(queue, given);
  return [
    ...turns
      .filter(({ beganMin }) => now - beganMin > turnMin)
      .map(({ team, mat, beganMin }): MatNotice => ({
        kind: 'over',
        mat,
        team,
        minutes: now - beganMin - turnMin,
      })),
    ...(queue.length > 0
      ? idle.slice(0, queue.length).map((mat, i): MatNotice => ({
          kind: 'idle',
          mat,
          team: queue[i]!.team,
          minutes: now - queue[i]!.readyMin,
        }))
      : []),
    ...queue
      .filter(
        ({ turns: had, readyMin }, i) =>
          had === 0 && (now - readyMin > LONG_TURNS * turnMin || expected[i]!.fromMin >= endMin),
      )
      .map(({ team, readyMin }): MatNotice => ({
        kind: 'starving',
        mat: null,
        team,
        minutes: now - readyMin,
      })),
  ];
}
