import type { PlacedHour } from './arrangement.ts';
import {
  clashesOf,
  takesOf,
  type Clash,
  type PlanClass,
  type PlannedHour,
  type Take,
  type Thing,
} from './cupboard.ts';
import type { PlanLesson } from './planning.ts';

/** An hour that is planned, with what may be changed of it. */
export interface ChangeableHour extends PlannedHour {
  /** Has begun or is over: it stays as it is. */
  fixed: boolean;
  room: string | null;
  /** Two teams to a robot. */
  shared: boolean;
}

/** What a way out makes of one hour. */
export interface HourChange {
  hour: number;
  /** The lesson that it has instead. */
  lesson?: string;
  shared?: boolean;
}

export const wayKinds = ['swap', 'share', 'other lesson'] as const;
export type WayKind = (typeof wayKinds)[number];

/** One way to have less wanted at a time. */
export interface WayOut {
  kind: WayKind;
  /** Id of the class whose plan it changes. */
  class: number;
  changes: HourChange[];
  /** How much it upsets: swapping is cheapest, a lesson that is lost costs most. */
  cost: number;
  says: string;
  /** Clashes that are left when it is taken, of all. */
  left: number;
}

export interface Timetable {
  hours: readonly ChangeableHour[];
  things: readonly Thing[];
  classes: readonly PlanClass[];
  lessons: readonly PlanLesson[];
  /** Skills that each class had seen before the first of these hours, by class. */
  have: Readonly<Record<number, readonly string[]>>;
}

/** A plan as pages and server hold it, as far as a timetable is made of it. */
export interface PlanFacts {
  now: number;
  hours: readonly {
    id: number;
    class: number;
    lesson: { slug: string; title: string };
    startsAt: number;
    minutes: number;
    takes: readonly Take[];
    open: boolean;
    meeting: number | null;
    shared: boolean;
  }[];
  meetings: readonly { id: number; room: string | null }[];
  things: readonly Thing[];
  classes: readonly PlanClass[];
  lessons: readonly PlanLesson[];
}

/** The plan from now on as what can be untangled; hours that are over clash with nobody. */
export function timetableOf(plan: PlanFacts): Timetable {
  const rooms = new Map(plan.meetings.map(({ id, room }) => [id, room]));
  const names = new Map(plan.classes.map(({ id, name }) => [id, name]));
  const isAhead = ({ startsAt, minutes }: { startsAt: number; minutes: number }) =>
    startsAt + 60_000 * minutes > plan.now;
  const gives = new Map(plan.lessons.map(({ slug, gives: skills }) => [slug, skills]));
  return {
    hours: plan.hours.filter(isAhead).map((hour) => ({
      ...hour,
      class: { id: hour.class, name: names.get(hour.class) ?? '' },
      fixed: !hour.open || hour.meeting === null,
      room: hour.meeting === null ? null : (rooms.get(hour.meeting) ?? null),
    })),
    things: plan.things,
    classes: plan.classes,
    lessons: plan.lessons,
    have: Object.fromEntries(
      plan.classes.map(({ id }) => [
        id,
        [
          ...new Set(
            plan.hours
              .filter((hour) => hour.class === id && !isAhead(hour))
              .flatMap(({ lesson }) => gives.get(lesson.slug) ?? []),
          ),
        ],
      ]),
    ),
  };
}

const COST: Record<WayKind, number> = { swap: 10, share: 25, 'other lesson': 40 };
/** Each week that a lesson moves makes a swap dearer. */
const COST_A_WEEK = 1;
const WEEK_MS = 7 * 24 * 3600_000;

const lessonOf = ({ lessons }: Timetable, slug: string) => lessons.find((one) => one.slug === slug);

/** What an hour takes when a change is made to it. */
export function takesAfter(table: Timetable, hour: ChangeableHour, change: HourChange): Take[] {
  const lesson = lessonOf(table, change.lesson ?? hour.lesson.slug);
  const klass = table.classes.find(({ id }) => id === hour.class.id);
  if (!lesson || !klass) return [...hour.takes];
  return takesOf(klass, lesson, table.things, { shared: change.shared ?? hour.shared, room: hour.room });
}

/** The hours as they are when some changes are made. */
export function changed(table: Timetable, changes: readonly HourChange[]): ChangeableHour[] {
  const by = new Map(changes.map((change) => [change.hour, change]));
  return table.hours.map((hour) => {
    const change = by.get(hour.id);
    if (!change) return hour;
    const lesson = lessonOf(table, change.lesson ?? hour.lesson.slug);
    return {
      ...hour,
      lesson: lesson ? { slug: lesson.slug, title: lesson.title } : hour.lesson,
      shared: change.shared ?? hour.shared,
      takes: takesAfter(table, hour, change),
    };
  });
}

/** Lessons of a class that stand before what they need, in order of time: what each lacks. */
export function outOfOrder(
  hours: readonly Pick<PlannedHour, 'lesson'>[],
  lessons: readonly PlanLesson[],
  have: readonly string[],
): { at: number; needs: string[] }[] {
  const seen = new Set(have);
  return hours.flatMap(({ lesson: { slug } }, at) => {
    const lesson = lessons.find((one) => one.slug === slug);
    if (!lesson) return [];
    const lacks = lesson.needs.filter((need) => !seen.has(need));
    for (const one of lesson.gives) seen.add(one);
    return lacks.length > 0 ? [{ at, needs: lacks }] : [];
  });
}

const inTime = (hours: readonly ChangeableHour[], klass: number) =>
  hours.filter((hour) => hour.class.id === klass).sort((a, b) => a.startsAt - b.startsAt || a.id - b.id);

/** Whether a class has no more lessons out of order after some changes than before. */
function keepsOrder(table: Timetable, after: readonly ChangeableHour[], klass: number): boolean {
  const lacks = (hours: readonly ChangeableHour[]) =>
    outOfOrder(inTime(hours, klass), table.lessons, table.have[klass] ?? []).length;
  return lacks(after) <= lacks(table.hours);
}

/** How often each lesson stands in a row: a lesson over two meetings is moved as a whole or not at all. */
const meetingsOf = (hours: readonly ChangeableHour[], { lesson, class: klass }: ChangeableHour) =>
  hours.filter((one) => one.class.id === klass.id && one.lesson.slug === lesson.slug).length;

function swapsOf(
  table: Timetable,
  hour: ChangeableHour,
  day: (at: number) => string,
): Omit<WayOut, 'left'>[] {
  if (meetingsOf(table.hours, hour) > 1) return [];
  return inTime(table.hours, hour.class.id).flatMap((other) => {
    if (other.fixed || other.id === hour.id || other.lesson.slug === hour.lesson.slug) return [];
    if (meetingsOf(table.hours, other) > 1) return [];
    const changes = [
      { hour: hour.id, lesson: other.lesson.slug },
      { hour: other.id, lesson: hour.lesson.slug },
    ];
    if (!keepsOrder(table, changed(table, changes), hour.class.id)) return [];
    const weeks = Math.abs(hour.startsAt - other.startsAt) / WEEK_MS;
    return [
      {
        kind: 'swap' as const,
        class: hour.class.id,
        changes,
        cost: COST.swap + COST_A_WEEK * weeks,
        says: `${hour.class.name} has ${other.lesson.title} on ${day(hour.startsAt)} and ${hour.lesson.title} on ${day(other.startsAt)}.`,
      },
    ];
  });
}

function othersOf(
  table: Timetable,
  hour: ChangeableHour,
  day: (at: number) => string,
): Omit<WayOut, 'left'>[] {
  const own = lessonOf(table, hour.lesson.slug);
  if (!own || meetingsOf(table.hours, hour) > 1) return [];
  const planned = new Set(inTime(table.hours, hour.class.id).map(({ lesson }) => lesson.slug));
  return table.lessons.flatMap((lesson) => {
    if (planned.has(lesson.slug) || lesson.minutes > hour.minutes) return [];
    const kept = own.gives.filter((one) => lesson.gives.includes(one));
    const lost = own.gives.filter((one) => !lesson.gives.includes(one));
    if (kept.length === 0) return [];
    const changes = [{ hour: hour.id, lesson: lesson.slug }];
    if (!keepsOrder(table, changed(table, changes), hour.class.id)) return [];
    return [
      {
        kind: 'other lesson' as const,
        class: hour.class.id,
        changes,
        cost: COST['other lesson'] + 5 * lost.length,
        says: `${hour.class.name} has ${lesson.title} instead of ${hour.lesson.title} on ${day(hour.startsAt)}: ${lost.length === 0 ? 'the same skills' : `${kept.length} of its ${own.gives.length} skills`}.`,
      },
    ];
  });
}

const shareOf = (hour: ChangeableHour, day: (at: number) => string): Omit<WayOut, 'left'>[] =>
  hour.shared
    ? []
    : [
        {
          kind: 'share' as const,
          class: hour.class.id,
          changes: [{ hour: hour.id, shared: true }],
          cost: COST.share,
          says: `${hour.class.name} shares on ${day(hour.startsAt)}: two teams to a robot, half the mats.`,
        },
      ];

/** Every single change that could be made to the hours of a clash, whatever it does elsewhere. */
export function optionsFor(
  table: Timetable,
  clash: Clash,
  day: (at: number) => string,
): Omit<WayOut, 'left'>[] {
  return table.hours
    .filter(({ id, fixed }) => clash.hours.includes(id) && !fixed)
    .flatMap((hour) => [...swapsOf(table, hour, day), ...shareOf(hour, day), ...othersOf(table, hour, day)]);
}

/** Whether a clash is still there: the same thing short, at a time that touches it. */
const still = (clash: Clash, after: readonly Clash[]): boolean =>
  after.some(({ thing, from, to }) => thing === clash.thing && from < clash.to && clash.from < to);

/**
 * The ways out of clashes of the same hours that take at least one of them away and make no new one: those that leave the fewest first,
 * the cheapest of these first. `day` tells a day as the reader does.
 */
export function waysOut(
  table: Timetable,
  group: readonly Clash[],
  day: (at: number) => string,
): (WayOut & { of: number })[] {
  const before = clashesOf(table.hours, table.things).length;
  const seen = new Set<string>();
  return group
    .flatMap((clash) => optionsFor(table, clash, day))
    .flatMap((way) => {
      const key = JSON.stringify([...way.changes].sort((a, b) => a.hour - b.hour));
      if (seen.has(key)) return [];
      seen.add(key);
      const after = clashesOf(changed(table, way.changes), table.things);
      const of = group.filter((clash) => still(clash, after)).length;
      return of === group.length || after.length >= before ? [] : [{ ...way, left: after.length, of }];
    })
    .sort((a, b) => a.of - b.of || a.cost - b.cost || a.left - b.left || (a.says < b.says ? -1 : 1));
}

/** Clashes by the hours that they are of: what is short at one time is one thing to solve. */
export function groupsOf(clashes: readonly Clash[]): Clash[][] {
  const groups = new Map<string, Clash[]>();
  for (const clash of clashes) {
    const key = [...clash.hours].sort((a, b) => a - b).join(' ');
    groups.set(key, [...(groups.get(key) ?? []), clash]);
  }
  return [...groups.values()];
}

/**
 * What changes of lessons mean for the hours themselves: an hour keeps its lesson and all that was prepared for it, and moves to the
 * meeting that gets that lesson; a lesson that no hour has yet is a new one.
 */
export function placesAfter(
  hours: readonly {
    id: number;
    class: number;
    lesson: { slug: string };
    meeting: number | null;
    shared: boolean;
  }[],
  changes: readonly HourChange[],
): PlacedHour[] {
  const last = new Map<number, HourChange>();
  for (const change of changes) last.set(change.hour, { ...last.get(change.hour), ...change });
  const touched = hours.filter(({ id }) => last.has(id));
  const free = new Set(touched.map(({ id }) => id));
  const places: PlacedHour[] = [];
  const open: (typeof touched)[number][] = [];
  const told = (hour: (typeof touched)[number]) => {
    const { shared } = last.get(hour.id)!;
    return shared === undefined || shared === hour.shared ? {} : { shared };
  };
  for (const slot of touched) {
    const lesson = last.get(slot.id)!.lesson ?? slot.lesson.slug;
    if (lesson === slot.lesson.slug) {
      free.delete(slot.id);
      places.push({ what: { hour: slot.id }, meeting: slot.meeting, ...told(slot) });
    } else open.push(slot);
  }
  for (const slot of open) {
    const lesson = last.get(slot.id)!.lesson!;
    const mover = touched.find(
      ({ id, class: of, lesson: own }) => free.has(id) && of === slot.class && own.slug === lesson,
    );
    if (mover) free.delete(mover.id);
    places.push({
      what: mover ? { hour: mover.id } : { lesson },
      meeting: slot.meeting,
      ...told(slot),
    });
  }
  for (const id of free) places.push({ what: { hour: id }, meeting: null });
  return places;
}
