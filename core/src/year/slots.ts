/** What a meeting holds: an hour that is planned, by its id, or a lesson for which there is no hour yet, by its slug. */
export type Occupant = { hour: number } | { lesson: string };

export const sameOccupant = (a: Occupant | null, b: Occupant | null): boolean =>
  a === null || b === null
    ? a === b
    : 'hour' in a
      ? 'hour' in b && a.hour === b.hour
      : 'lesson' in b && a.lesson === b.lesson;

/** A meeting of a class with what is planned for it. */
export interface Slot {
  id: number;
  /** Null while it has no lesson. */
  holds: Occupant | null;
  /** It has begun, or is over: its lesson stays. */
  fixed: boolean;
  /** It does not take place. */
  lost: boolean;
}

/** What became of an order: the slots with what they hold, and what found no meeting any more, in its order. */
export interface Reordered {
  slots: Slot[];
  over: Occupant[];
}

const open = ({ fixed, lost }: Slot): boolean => !fixed && !lost;

/** Puts lessons into the open slots in order; what was in them is gone. */
function dealt(slots: readonly Slot[], lessons: readonly (Occupant | null)[]): Reordered {
  const left = [...lessons];
  const dealtOut = slots.map((slot) => (open(slot) ? { ...slot, holds: left.shift() ?? null } : slot));
  return { slots: dealtOut, over: left.filter((one) => one !== null) };
}

/**
 * A lesson is moved to another meeting, and the rest follows: those between the two make room by one open meeting. Meetings that have
 * begun or do not take place are stepped over. Null where either of the two is not open, or the first has no lesson.
 */
export function moveLesson(slots: readonly Slot[], from: number, to: number): Reordered | null {
  const opens = slots.filter(open);
  const a = opens.findIndex(({ id }) => id === from);
  const b = opens.findIndex(({ id }) => id === to);
  if (a < 0 || b < 0 || opens[a]!.holds === null) return null;
  const order = opens.map(({ holds }) => holds);
  const [moved] = order.splice(a, 1);
  order.splice(b, 0, moved!);
  return dealt(slots, order);
}

/** A meeting is lost: its lesson goes to the next open one, and the rest follows, up to the first that was empty. */
export function loseSlot(slots: readonly Slot[], id: number): Reordered | null {
  const at = slots.findIndex((slot) => slot.id === id);
  const lost = slots[at];
  if (!lost || !open(lost)) return null;
  const after = slots.map((slot) => (slot.id === id ? { ...slot, holds: null, lost: true } : slot));
  return lost.holds === null ? { slots: after, over: [] } : pushedIn(after, at, lost.holds);
}

/** A lost meeting takes place after all: what came after it moves up again by one, up to the first that is empty. */
export function regainSlot(slots: readonly Slot[], id: number): Reordered | null {
  const at = slots.findIndex((slot) => slot.id === id);
  if (at < 0 || !slots[at]!.lost || slots[at]!.fixed) return null;
  const after = slots.map((slot) => (slot.id === id ? { ...slot, lost: false } : slot));
  const opens = after.flatMap((slot, i) => (i >= at && open(slot) ? [i] : []));
  for (const [k, i] of opens.entries()) {
    const next = opens[k + 1];
    const holds = next === undefined ? null : after[next]!.holds;
    after[i] = { ...after[i]!, holds };
    if (holds === null) break;
  }
  return { slots: after, over: [] };
}

/** Puts a lesson into the first open slot from a place on; whatever was there moves on by one, up to the first that was empty. */
function pushedIn(slots: readonly Slot[], at: number, what: Occupant): Reordered {
  const after = [...slots];
  let carried: Occupant | null = what;
  for (let i = at; i < after.length && carried !== null; i++) {
    const slot = after[i]!;
    if (!open(slot)) continue;
    after[i] = { ...slot, holds: carried };
    carried = slot.holds;
  }
  return { slots: after, over: carried === null ? [] : [carried] };
}

/** A lesson is put into a meeting; what was planned from there on moves back by one. */
export function insertLesson(slots: readonly Slot[], id: number, what: Occupant): Reordered | null {
  const at = slots.findIndex((slot) => slot.id === id);
  return at < 0 || !open(slots[at]!) ? null : pushedIn(slots, at, what);
}

/** Fills the open, empty slots from one on with lessons in their order, those alone that `may` allows; what is planned already stays. */
export function fillFrom(
  slots: readonly Slot[],
  from: number,
  lessons: readonly string[],
  may: (slot: Slot) => boolean = () => true,
): Reordered {
  const at = Math.max(
    0,
    slots.findIndex(({ id }) => id === from),
  );
  const left: Occupant[] = lessons.map((lesson) => ({ lesson }));
  const filled = slots.map((slot, i) =>
    i >= at && open(slot) && slot.holds === null && may(slot)
      ? { ...slot, holds: left.shift() ?? null }
      : slot,
  );
  return { slots: filled, over: left };
}
