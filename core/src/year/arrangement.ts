import { sameOccupant, type Occupant, type Reordered, type Slot } from './slots.ts';

/** An hour, or a lesson for which one is made, in the meeting that it goes to; without a meeting an hour is taken off the plan. */
export interface PlacedHour {
  what: Occupant;
  meeting: number | null;
  /** Whether the hour shares its room and robots with another. */
  shared?: boolean;
}

/** A change of a class's plan, all of it or nothing. */
export interface Arrangement {
  hours: PlacedHour[];
  /** Meetings that do not take place any more, with the reason, or do again. */
  lost?: { meeting: number; lost: string | null }[];
  /** Where the hours were when this was thought out: refused where that is not so any more. */
  seen: { hour: number; meeting: number | null }[];
}

/** What makes the slots of one state those of another. `reason` is said of meetings that are lost. */
export function arrangementTo(
  before: readonly Slot[],
  { slots, over }: Reordered,
  reason: string,
): Arrangement {
  const was = new Map(before.map((slot) => [slot.id, slot]));
  return {
    seen: before.flatMap(({ id, holds }) =>
      holds !== null && 'hour' in holds ? [{ hour: holds.hour, meeting: id }] : [],
    ),
    lost: slots.flatMap(({ id, lost }) =>
      lost === was.get(id)!.lost ? [] : [{ meeting: id, lost: lost ? reason : null }],
    ),
    hours: [
      ...slots.flatMap(({ id, holds }) =>
        holds === null || sameOccupant(holds, was.get(id)!.holds) ? [] : [{ what: holds, meeting: id }],
      ),
      // A lesson without a meeting was never planned: there is nothing to take off.
      ...over.flatMap((what) => ('hour' in what ? [{ what, meeting: null }] : [])),
    ],
  };
}

/** The plan of a class as it was before a change. */
export interface Before {
  hours: readonly { id: number; meeting: number | null; shared: boolean }[];
  meetings: readonly { id: number; lost: string | null }[];
}

/**
 * What puts an arrangement back: every hour that it named where it was, new ones off the plan, meetings as they were. `made` are the ids
 * of its hours, in the order in which it named them.
 */
export function undoOf(
  before: Before,
  { hours, lost = [] }: Arrangement,
  made: readonly number[],
): Arrangement {
  const was = new Map(before.hours.map((hour) => [hour.id, hour]));
  return {
    seen: hours.map(({ meeting }, i) => ({ hour: made[i]!, meeting })),
    lost: lost.map(({ meeting }) => ({
      meeting,
      lost: before.meetings.find(({ id }) => id === meeting)?.lost ?? null,
    })),
    hours: hours.map(({ what, shared }, i): PlacedHour => {
      const hour = 'hour' in what ? was.get(what.hour) : undefined;
      return {
        what: { hour: made[i]! },
        meeting: hour?.meeting ?? null,
        ...(shared === undefined || !hour ? {} : { shared: hour.shared }),
      };
    }),
  };
}
