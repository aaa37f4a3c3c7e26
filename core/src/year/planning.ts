import { skillsAsked } from './evidence.ts';
import { needsOfLesson, timePlan, variantOf, type Lesson } from '../lesson/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import { skills, type Skill } from './skills.ts';

/** What planning has to know of a lesson. */
export interface PlanLesson {
  slug: string;
  title: string;
  /** How long its steps take, min; what its period has beyond that is slack. */
  minutes: number;
  /** Skills that it lets a team show, by id. */
  gives: string[];
  /** Skills that should have been seen before, by id. */
  needs: string[];
  sensors: SensorKind[];
  /** Name of the mat that it is driven on. */
  mat: string;
}

/** Skills that a lesson comes after: as its author says, else what its own skills come after and it does not give itself. */
export function needsBefore(
  lesson: Lesson,
  gives: readonly string[],
  map: readonly Skill[] = skills,
): string[] {
  if (lesson.needs) return [...lesson.needs];
  const asked = new Set(map.filter(({ id }) => gives.includes(id)).flatMap(({ needs }) => needs));
  return map.filter(({ id }) => asked.has(id) && !gives.includes(id)).map(({ id }) => id);
}

/** A lesson as planning sees it; `own` are skills that teachers added, which are given by the lessons that they name. */
export function planLessonOf(written: Lesson, own: readonly Skill[] = []): PlanLesson {
  const lesson = variantOf(written);
  const gives = [
    ...skillsAsked(written),
    ...own.filter(({ lessons }) => lessons?.includes(written.slug)).map(({ id }) => id),
  ];
  return {
    slug: written.slug,
    title: lesson.title,
    minutes: Math.min(lesson.minutes, Math.max(1, timePlan(lesson).used)),
    gives,
    needs: needsBefore(lesson, gives, [...skills, ...own]),
    sensors: [...new Set(needsOfLesson(lesson).map(({ kind }) => kind))],
    mat: lesson.course.name,
  };
}

/** A time at which a class meets and may have a lesson. */
export interface OpenMeeting {
  minutes: number;
}

export interface PlanAsk {
  meetings: readonly OpenMeeting[];
  lessons: readonly PlanLesson[];
  /** Skills that the class has seen already. */
  have: readonly string[];
  /** Skills that it shall come to. */
  aims: readonly string[];
  /** Whether a lesson may be had in a meeting, by index: robots, mats, rooms; not said: all may. */
  free?: (meeting: number, lesson: PlanLesson) => boolean;
}

/** One lesson of a plan in the meetings that it takes, by index, in order. */
export interface Placed {
  slug: string;
  meetings: number[];
  /** Aims that it is there for. */
  first: string[];
  /** Aims that are seen for the second time in it. */
  again: string[];
  /** Skills that later lessons need. */
  way: string[];
}

export interface Plan {
  placed: Placed[];
  /** Aims that are reached. */
  reached: string[];
  score: number;
  /** No plan has a higher score. */
  bound: number;
  /** Aims that are not reached, and why. */
  missed: { skill: string; says: string }[];
}

/** What a plan is worth: each aim that is seen, and seen again in another lesson, which makes it *shown*. */
export const FIRST = 100;
export const AGAIN = 10;

/**
 * How many meetings in a row a lesson takes from one of them on: until their minutes add up to its own. Null where the term ends
 * before that, or where one of them cannot have it.
 */
export function meetingsTaken(
  lesson: PlanLesson,
  from: number,
  { meetings, free }: Pick<PlanAsk, 'meetings' | 'free'>,
): number | null {
  let left = lesson.minutes;
  for (let i = from; i < meetings.length; i++) {
    if (free && !free(i, lesson)) return null;
    left -= meetings[i]!.minutes;
    if (left <= 0) return i - from + 1;
  }
  return null;
}

/** A state of the search: what was had before a meeting, as bits. */
interface State {
  /** Lessons that were had: the first 31, and the next. */
  low: number;
  high: number;
  /** Skills seen: known before, or given by a lesson. */
  seen: number;
  /** Aims given by one lesson at least, and by two. */
  once: number;
  twice: number;
  score: number;
  from: State | null;
  lesson: PlanLesson | null;
  at: number;
  taken: number;
}

/** So many states are kept at each meeting; where there are more, the plan may not be the best possible. */
const BEAM = 250;
/** Bits of a number that signs and shifts leave alone. */
const BITS = 31;

const ones = (bits: number): number => {
  let n = 0;
  for (let left = bits; left !== 0; left &= left - 1) n++;
  return n;
};

/**
 * Lessons, skills and aims of an ask as bits: the lessons that can be had and serve an aim or a need, 62 at most, and 31 skills at most.
 * `cut` says that there were more.
 */
function bitsOf({ lessons, have, aims }: PlanAsk, can: ReadonlySet<string>) {
  const reachables = lessons.filter(({ slug }) => can.has(slug));
  const asked = [...new Set([...aims, ...reachables.flatMap(({ needs }) => needs)])];
  const known = asked.slice(0, BITS);
  const bit = (names: readonly string[]) =>
    names.reduce((bits, name) => (known.includes(name) ? bits | (1 << known.indexOf(name)) : bits), 0);
  const serving = reachables.filter(
    ({ gives, needs }) =>
      gives.some((one) => known.includes(one)) && needs.every((need) => known.includes(need)),
  );
  return {
    cut: asked.length > BITS || serving.length > 2 * BITS,
    have: bit(have),
    aims: bit(aims),
    lessons: serving.slice(0, 2 * BITS).map((lesson, i) => ({
      lesson,
      gives: bit(lesson.gives),
      needs: bit(lesson.needs),
      low: i < BITS ? 1 << i : 0,
      high: i < BITS ? 0 : 1 << (i - BITS),
    })),
  };
}

/** The lessons that can ever be had: their needs are met by what is there and by lessons that can be had. */
export function reachable(lessons: readonly PlanLesson[], have: readonly string[]): Set<string> {
  const seen = new Set(have);
  const can = new Set<string>();
  for (let grew = true; grew;) {
    grew = false;
    for (const { slug, needs, gives } of lessons) {
      if (can.has(slug) || !needs.every((need) => seen.has(need))) continue;
      can.add(slug);
      for (const one of gives) seen.add(one);
      grew = true;
    }
  }
  return can;
}

/** No plan of these meetings can be worth more: every aim that any lesson gives, as often as lessons and meetings allow. */
function boundOf(ask: PlanAsk, given: Map<string, number>): number {
  const most = ask.meetings.length;
  let score = 0;
  for (const aim of ask.aims) {
    const times = Math.min(given.get(aim) ?? 0, most);
    score += times >= 2 ? FIRST + AGAIN : times === 1 ? FIRST : 0;
  }
  return score;
}

/** The better first; among equals those that have seen more. */
const better = (a: State, b: State): number => b.score - a.score || ones(b.seen) - ones(a.seen);

/**
 * The lessons that bring a class to its aims in its meetings, none before what it needs: as many aims as can be, seen twice where there
 * is time, in as few meetings as that takes. A search over what was had, meeting by meeting (dynamic programming); where more than
 * `BEAM` states would be open the best are kept, and `bound` says how much better any plan could be.
 */
export function planClass(ask: PlanAsk): Plan {
  const can = reachable(ask.lessons, ask.have);
  const bits = bitsOf(ask, can);
  const { meetings } = ask;
  const start: State = {
    low: 0,
    high: 0,
    seen: bits.have,
    once: 0,
    twice: 0,
    score: 0,
    from: null,
    lesson: null,
    at: -1,
    taken: 0,
  };
  const open = Array.from({ length: meetings.length + 1 }, () => new Map<string, State>());
  open[0]!.set('', start);
  let { cut } = bits;
  let best = start;
  let bestAt = 0;
  // Two states that can go on in the same way are one: what has nothing left to give may have been had or not.
  const put = (at: number, state: State) => {
    let low = 0;
    let high = 0;
    for (const one of bits.lessons)
      if ((one.gives & bits.aims & ~state.twice) !== 0 || (one.gives & ~state.seen) !== 0) {
        low |= one.low;
        high |= one.high;
      }
    const key = `${state.seen} ${state.once} ${state.twice} ${state.low & low} ${state.high & high}`;
    if (!open[at]!.has(key)) open[at]!.set(key, state);
  };
  const everything = bits.lessons.reduce((all, { gives }) => all | gives, 0) & bits.aims;
  const most = bits.lessons.reduce(
    ({ once, twice }, { gives }) => ({
      once: once | (gives & bits.aims),
      twice: twice | (once & gives & bits.aims),
    }),
    { once: 0, twice: 0 },
  );
  const top = FIRST * ones(everything) + AGAIN * ones(most.twice);
  for (let at = 0; at <= meetings.length; at++) {
    let states = [...open[at]!.values()];
    open[at] = new Map();
    if (states.length > BEAM) {
      cut = true;
      states = states.sort(better).slice(0, BEAM);
    }
    // The same worth in fewer meetings is better: an hour that is left is a reserve.
    for (const state of states)
      if (state.score > best.score) {
        best = state;
        bestAt = at;
      }
    // Nothing can be worth more than all that the lessons give.
    if (at === meetings.length || best.score === top) break;
    const taken = bits.lessons.map(({ lesson }) => meetingsTaken(lesson, at, ask));
    for (const state of states) {
      for (let i = 0; i < bits.lessons.length; i++) {
        const { lesson, gives, needs, low, high } = bits.lessons[i]!;
        const takes = taken[i]!;
        if (takes === null || (state.low & low) !== 0 || (state.high & high) !== 0) continue;
        if ((needs & ~state.seen) !== 0) continue;
        const wanted = gives & bits.aims;
        const fresh = wanted & ~state.once;
        const again = wanted & state.once & ~state.twice;
        // A lesson that neither serves an aim nor opens the way to another one is no part of a plan.
        if (fresh === 0 && again === 0 && (gives & ~state.seen) === 0) continue;
        put(at + takes, {
          low: state.low | low,
          high: state.high | high,
          seen: state.seen | gives,
          once: state.once | wanted,
          twice: state.twice | again,
          score: state.score + FIRST * ones(fresh) + AGAIN * ones(again),
          from: state,
          lesson,
          at,
          taken: takes,
        });
      }
      // A meeting may stand empty where something else has what its lessons take.
      if (ask.free) put(at + 1, state);
    }
  }
  const given = new Map<string, number>();
  const total = meetings.reduce((sum, one) => sum + one.minutes, 0);
  for (const { slug, gives, minutes } of ask.lessons)
    if (can.has(slug) && minutes <= total)
      for (const skill of gives) given.set(skill, (given.get(skill) ?? 0) + 1);
  const placed = placedOf(best, ask);
  const reached = ask.aims.filter((aim) => placed.some(({ first }) => first.includes(aim)));
  return {
    placed,
    reached,
    score: best.score,
    bound: cut ? Math.max(best.score, boundOf(ask, given)) : best.score,
    missed: missedOf(ask, reached, bestAt, given),
  };
}

/** The lessons of a state with what each is there for; what serves nothing in the end is left out. */
function placedOf(last: State, ask: PlanAsk): Placed[] {
  const way: { lesson: PlanLesson; meetings: number[] }[] = [];
  for (let state: State | null = last; state?.from; state = state.from)
    way.unshift({
      lesson: state.lesson!,
      meetings: Array.from({ length: state.taken }, (_, i) => state.at + i),
    });
  const told = (of: typeof way): Placed[] => {
    const count = new Map<string, number>();
    return of.map(({ lesson, meetings }, i) => {
      const aims = lesson.gives.filter((one) => ask.aims.includes(one));
      const first = aims.filter((one) => !count.has(one));
      const again = aims.filter((one) => count.get(one) === 1);
      for (const one of aims) count.set(one, (count.get(one) ?? 0) + 1);
      const before = new Set([...ask.have, ...of.slice(0, i).flatMap((one) => one.lesson.gives)]);
      const later = new Set(of.slice(i + 1).flatMap((one) => one.lesson.needs));
      return {
        slug: lesson.slug,
        meetings,
        first,
        again,
        way: lesson.gives.filter((one) => later.has(one) && !before.has(one)),
      };
    });
  };
  let kept = way;
  for (;;) {
    const spare = told(kept).findLastIndex(
      ({ first, again, way: for_ }) => first.length + again.length + for_.length === 0,
    );
    if (spare < 0) return told(kept);
    kept = kept.filter((_, i) => i !== spare);
  }
}

/** Why an aim is not reached, in one sentence each. */
function missedOf(
  ask: PlanAsk,
  reached: readonly string[],
  used: number,
  given: ReadonlyMap<string, number>,
): Plan['missed'] {
  const total = ask.meetings.reduce((sum, one) => sum + one.minutes, 0);
  const can = reachable(ask.lessons, ask.have);
  return ask.aims
    .filter((aim) => !reached.includes(aim))
    .map((skill) => {
      const giving = ask.lessons.filter(({ gives }) => gives.includes(skill));
      const says =
        ask.meetings.length === 0
          ? 'there is no meeting to have a lesson in'
          : giving.length === 0
            ? 'none of these lessons gives it'
            : giving.every(({ slug }) => !can.has(slug))
              ? `what ${giving[0]!.title} needs is given by no lesson here`
              : !given.has(skill)
                ? `${giving[0]!.title} takes ${giving[0]!.minutes} min, and all meetings together have ${total}`
                : ask.free && used < ask.meetings.length
                  ? 'where there is time, what its lessons take is in use'
                  : `${ask.meetings.length} meetings are too few for it and what it needs before`;
      return { skill, says };
    });
}
