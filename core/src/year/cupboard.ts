import { countOf } from '../quantity/index.ts';

export const thingKinds = ['robots', 'mat', 'charger', 'room', 'box', 'other'] as const;
export type ThingKind = (typeof thingKinds)[number];

/** Something that hours take: how many there are, where they lie, and how long they are in use beyond the hour itself. */
export interface Thing {
  id: string;
  kind: ThingKind;
  name: string;
  /** Where it lies; '' when nobody said. */
  shelf: string;
  count: number;
  broken: number;
  /** Lent, or away for repair. */
  out: number;
  /** Laid out so long before an hour, min. */
  beforeMin: number;
  /** Cleared away so long after it, min; of a charger: so long does one charge take. */
  afterMin: number;
}

export const usable = ({ count, broken, out }: Thing): number => Math.max(0, count - broken - out);

/** What an hour takes of one thing. */
export interface Take {
  thing: string;
  count: number;
  /** Kept so long after the hour, min, where that is not what the thing says: robots are charged. */
  afterMin?: number;
}

/** An hour as the cupboard sees it. */
export interface PlannedHour {
  id: number;
  class: { id: number; name: string };
  lesson: { slug: string; title: string };
  startsAt: number;
  minutes: number;
  takes: readonly Take[];
}

/** Something that is wanted more often at a time than it is there. */
export interface Clash {
  thing: string;
  /** When it is short, ms. */
  from: number;
  to: number;
  wanted: number;
  have: number;
  /** Hours that want it then, by id. */
  hours: number[];
  says: string;
}

const MIN = 60_000;

/** From when to when an hour keeps a thing: from laying out to cleared away and charged; a charger from its end on. */
export function heldBy(
  hour: Pick<PlannedHour, 'startsAt' | 'minutes'>,
  thing: Thing,
  afterMin = thing.afterMin,
): { from: number; to: number } {
  const end = hour.startsAt + MIN * hour.minutes;
  return {
    from: thing.kind === 'charger' ? end : hour.startsAt - MIN * thing.beforeMin,
    to: end + MIN * afterMin,
  };
}

/** What planning has to know of a class. */
export interface PlanClass {
  id: number;
  name: string;
  teams: number;
  /** Robots of its teams by what they are in the cupboard. */
  robots: readonly { thing: string; count: number }[];
}

const sameWords = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
/** Teams to a mat (common practice: one course for every four teams). */
const TEAMS_A_MAT = 4;

/**
 * What an hour of a class takes: its robots, or one for every two teams where they share; the mat of the lesson where the cupboard has
 * one of that name, as many as the class fills and there are; chargers, and the time that charging takes in as many rounds as are
 * needed; its room.
 */
export function takesOf(
  klass: PlanClass,
  lesson: { mat: string },
  things: readonly Thing[],
  { shared = false, room = null }: { shared?: boolean; room?: string | null } = {},
): Take[] {
  const of = (count: number) => (shared ? Math.ceil(count / 2) : count);
  const robots = klass.robots.reduce((sum, { count }) => sum + of(count), 0);
  const charger = things.find((thing) => thing.kind === 'charger' && usable(thing) > 0);
  const places = charger ? Math.min(robots, usable(charger)) : 0;
  const chargeMin = charger && places > 0 ? charger.afterMin * Math.ceil(robots / places) : 0;
  const mat = things.find((thing) => thing.kind === 'mat' && sameWords(thing.name, lesson.mat));
  const mats = Math.max(1, Math.min(Math.ceil(klass.teams / TEAMS_A_MAT), mat ? usable(mat) : 1));
  return [
    ...klass.robots.map(({ thing, count }) => ({
      thing,
      count: of(count),
      afterMin: (things.find(({ id }) => id === thing)?.afterMin ?? 0) + chargeMin,
    })),
    ...(mat ? [{ thing: mat.id, count: shared ? Math.ceil(mats / 2) : mats }] : []),
    ...(charger && places > 0 ? [{ thing: charger.id, count: places, afterMin: chargeMin }] : []),
    ...(room !== null && things.some(({ id }) => id === room) ? [{ thing: room, count: 1 }] : []),
  ];
}

interface Held {
  hour: PlannedHour;
  count: number;
  from: number;
  to: number;
}

const heldOf = (hours: readonly PlannedHour[], thing: Thing): Held[] =>
  hours
    .flatMap((hour) => {
      const take = hour.takes.find((one) => one.thing === thing.id);
      return take && take.count > 0
        ? [{ hour, count: take.count, ...heldBy(hour, thing, take.afterMin) }]
        : [];
    })
    .sort((a, b) => a.from - b.from || a.hour.id - b.hour.id);

/** How many of a thing are in use at a moment. An hour that ends then has given them back. */
export const wantedAt = (hours: readonly PlannedHour[], thing: Thing, at: number): number =>
  heldOf(hours, thing).reduce((sum, one) => (one.from <= at && at < one.to ? sum + one.count : sum), 0);

function saysOf(thing: Thing, wanted: number, have: number, held: readonly Held[]): string {
  const classes = [...new Set(held.map(({ hour }) => hour.class.name))];
  const who = classes.length > 1 ? `${classes.slice(0, -1).join(', ')} and ${classes.at(-1)}` : classes[0];
  const lacks = [
    thing.broken > 0 ? `${thing.broken} broken` : '',
    thing.out > 0 ? `${thing.out} out` : '',
  ].filter((one) => one !== '');
  // They do not meet at the same time: what is between them is too short to clear away and charge.
  const apart = held.every((a) =>
    held.every(
      (b) =>
        a === b ||
        a.hour.startsAt + MIN * a.hour.minutes <= b.hour.startsAt ||
        b.hour.startsAt + MIN * b.hour.minutes <= a.hour.startsAt,
    ),
  );
  const why =
    apart && held.length > 1
      ? `; between the hours there is too little time to lay out, clear away and charge`
      : '';
  return `${thing.name}: ${who} ${held.length > 1 ? 'together want' : 'wants'} ${wanted}, ${have === 0 ? 'none is' : countOf(have, 'is', 'are')} there${lacks.length > 0 ? ` (${lacks.join(', ')})` : ''}${why}.`;
}

/** Every stretch of time in which a thing is wanted more often than it is there; one for each set of hours that share the shortage. */
export function clashesOf(hours: readonly PlannedHour[], things: readonly Thing[]): Clash[] {
  return things
    .flatMap((thing) => {
      const held = heldOf(hours, thing);
      const have = usable(thing);
      const found = new Map<string, Clash>();
      let live: Held[] = [];
      for (const one of held) {
        live = [...live.filter(({ to }) => to > one.from), one];
        const wanted = live.reduce((sum, { count }) => sum + count, 0);
        if (wanted <= have) continue;
        const clash: Clash = {
          thing: thing.id,
          from: one.from,
          to: Math.min(...live.map(({ to }) => to)),
          wanted,
          have,
          hours: live.map(({ hour }) => hour.id),
          says: saysOf(thing, wanted, have, live),
        };
        // A third hour that joins two that are short already is one shortage, not two.
        for (const [key, other] of found)
          if (other.hours.every((id) => clash.hours.includes(id))) found.delete(key);
        found.set(clash.hours.join(' '), clash);
      }
      return [...found.values()];
    })
    .sort((a, b) => a.from - b.from || (a.thing < b.thing ? -1 : 1));
}

/** One line of a packing list. */
export interface Packed {
  thing: Thing;
  /** The most that are in use at once. */
  most: number;
  hours: PlannedHour[];
}

/** What a week takes out of the cupboard, by shelf and then by name: the most of each that is in use at once. Rooms and chargers stay where they are. */
export function packingList(hours: readonly PlannedHour[], things: readonly Thing[]): Packed[] {
  return things
    .filter(({ kind }) => kind !== 'room' && kind !== 'charger')
    .flatMap((thing) => {
      const held = heldOf(hours, thing);
      if (held.length === 0) return [];
      const most = Math.max(...held.map(({ from }) => wantedAt(hours, thing, from)));
      return [{ thing, most, hours: held.map(({ hour }) => hour) }];
    })
    .sort((a, b) => a.thing.shelf.localeCompare(b.thing.shelf) || a.thing.name.localeCompare(b.thing.name));
}
