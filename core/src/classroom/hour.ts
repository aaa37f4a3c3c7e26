/** When a lesson hour was planned, begun, paused and ended. Times in ms since the epoch. */
export interface HourTimes {
  /** When it began; while it is planned, when it shall. */
  startsAt: number;
  /** How long it is meant to last, without its pauses. */
  minutes: number;
  beganAt: number | null;
  /** Since when it is paused; null while it is not. */
  pausedAt: number | null;
  /** Pauses that are over, s. */
  pausedS: number;
  endedAt: number | null;
}

/** Where an hour is: `over` when its time is up and nobody has ended it. */
export const hourStates = ['planned', 'running', 'paused', 'over', 'ended'] as const;
export type HourState = (typeof hourStates)[number];

/** An hour that nobody ended counts as ended so long after its time was up, ms. */
export const FORGOTTEN_MS = 18 * 3600_000;

/** How much of an hour is over at a moment, min, without its pauses as they are known then; 0 before it begins. */
export const hourSpent = (hour: HourTimes, now: number): number =>
  hour.beganAt === null ? 0 : Math.max(0, hour.minutes - hourLeft(hour, now) / 60_000);

/** What is left of an hour, ms; negative when its time is up. A pause takes nothing off it. */
export function hourLeft(hour: HourTimes, now: number): number {
  const until = hour.endedAt ?? hour.pausedAt ?? now;
  const spent = hour.beganAt === null ? 0 : until - hour.startsAt - 1000 * hour.pausedS;
  return 60_000 * hour.minutes - spent;
}

export function hourState(hour: HourTimes, now: number): HourState {
  if (hour.beganAt === null) return 'planned';
  const left = hourLeft(hour, now);
  if (hour.endedAt !== null || left <= -FORGOTTEN_MS) return 'ended';
  if (hour.pausedAt !== null) return now - hour.pausedAt > FORGOTTEN_MS ? 'ended' : 'paused';
  return left > 0 ? 'running' : 'over';
}

/** What a teacher may do with an hour. */
export const hourActions = ['begin', 'pause', 'resume', 'end', 'reopen'] as const;
export type HourAction = (typeof hourActions)[number];

/** Which actions an hour allows, the likeliest first. */
export function actionsOf(state: HourState): HourAction[] {
  switch (state) {
    case 'planned':
      return ['begin'];
    case 'running':
    case 'over':
      return ['end', 'pause'];
    case 'paused':
      return ['resume', 'end'];
    case 'ended':
      return ['reopen'];
  }
}

/**
 * The times of an hour after an action; null where it does not allow it. Reopened, it goes on as if it had been paused: what was left
 * is left still.
 */
export function afterAction(hour: HourTimes, action: HourAction, now: number): HourTimes | null {
  const state = hourState(hour, now);
  if (!actionsOf(state).includes(action)) return null;
  const pausedFor = (since: number) => hour.pausedS + Math.max(0, Math.round((now - since) / 1000));
  switch (action) {
    case 'begin':
      return { ...hour, startsAt: now, beganAt: now, pausedAt: null, pausedS: 0, endedAt: null };
    case 'pause':
      return { ...hour, pausedAt: now };
    case 'resume':
      return { ...hour, pausedAt: null, pausedS: pausedFor(hour.pausedAt!) };
    case 'end':
      return {
        ...hour,
        pausedAt: null,
        pausedS: hour.pausedAt === null ? hour.pausedS : pausedFor(hour.pausedAt),
        endedAt: now,
      };
    case 'reopen': {
      const timeUp = hour.startsAt + 60_000 * hour.minutes + 1000 * hour.pausedS;
      return {
        ...hour,
        pausedAt: null,
        pausedS: pausedFor(hour.endedAt ?? hour.pausedAt ?? timeUp),
        endedAt: null,
      };
    }
  }
}
