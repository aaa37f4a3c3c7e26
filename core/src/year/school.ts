import { heldBy, takesOf, usable, type PlanClass, type Take, type Thing } from './cupboard.ts';
import { planClass, type Plan, type PlanLesson } from './planning.ts';

/** A class with its meetings and what it shall come to. */
export interface SchoolClass extends PlanClass {
  meetings: readonly { startsAt: number; minutes: number; room: string | null }[];
  have: readonly string[];
  aims: readonly string[];
  /** Lessons that its kits can do, by slug. */
  lessons: readonly string[];
}

/** Hours that are planned already and stay. */
export interface Booked {
  startsAt: number;
  minutes: number;
  takes: readonly Take[];
}

export interface SchoolAsk {
  classes: readonly SchoolClass[];
  lessons: readonly PlanLesson[];
  things: readonly Thing[];
  booked: readonly Booked[];
}

export interface SchoolPlan {
  /** By class id. */
  plans: Map<number, Plan>;
  score: number;
  /** No plan of all classes together is worth more: what each could come to if it had the cupboard for itself. */
  bound: number;
}

/** What is held of each thing, as stretches of time. */
class Ledger {
  private readonly held = new Map<string, { from: number; to: number; count: number }[]>();
  private readonly byId: Map<string, Thing>;

  constructor(things: readonly Thing[]) {
    this.byId = new Map(things.map((thing) => [thing.id, thing]));
  }

  add({ startsAt, minutes, takes }: Booked): void {
    for (const { thing: id, count, afterMin } of takes) {
      const thing = this.byId.get(id);
      if (!thing) continue;
      const all = this.held.get(id) ?? [];
      all.push({ ...heldBy({ startsAt, minutes }, thing, afterMin), count });
      this.held.set(id, all);
    }
  }

  /** Whether so much more may be taken at a time: at no moment of it more than there is. */
  fits({ startsAt, minutes, takes }: Booked): boolean {
    return takes.every(({ thing: id, count, afterMin }) => {
      const thing = this.byId.get(id);
      if (!thing) return true;
      const { from, to } = heldBy({ startsAt, minutes }, thing, afterMin);
      const near = (this.held.get(id) ?? []).filter((one) => one.from < to && from < one.to);
      const moments = [from, ...near.map((one) => one.from).filter((at) => at > from)];
      const most = Math.max(
        0,
        ...moments.map((at) =>
          near.reduce((sum, one) => (one.from <= at && at < one.to ? sum + one.count : sum), 0),
        ),
      );
      return most + count <= usable(thing);
    });
  }
}

/** Orders in which the classes choose: as they stand, then each of the others first in turn, and turned round. */
function orders(n: number): number[][] {
  const plain = Array.from({ length: n }, (_, i) => i);
  return [
    plain,
    ...plain.slice(1).map((first) => [first, ...plain.filter((i) => i !== first)]),
    [...plain].reverse(),
  ];
}

/** How far a search is, and the best that it has. */
export interface Search {
  done: number;
  of: number;
  best: SchoolPlan | null;
}

/**
 * A plan for every class of a school with one cupboard. Each class in turn gets the best plan that leaves the others theirs (see
 * `planClass`); several turns are tried and the best is kept. `bound` is reached where every class comes to what it could have alone.
 * Comes to a halt after each class, so that whoever runs it can tell how far it is, or stop: the last `best` is whole.
 */
export function* planningSchool(ask: SchoolAsk): Generator<Search, SchoolPlan> {
  const { classes, lessons, things, booked } = ask;
  const turns = orders(classes.length);
  const of = (turns.length + 1) * classes.length;
  let done = 0;
  let bound = 0;
  for (const klass of classes) {
    const alone = ledgerOf(things, booked);
    bound += planClass({ ...asks(klass, lessons), free: freeIn(klass, ask, alone) }).bound;
    yield { done: ++done, of, best: null };
  }
  let best: SchoolPlan = { plans: new Map(), score: -1, bound };
  for (const order of turns) {
    const ledger = ledgerOf(things, booked);
    const plans = new Map<number, Plan>();
    let score = 0;
    for (const at of order) {
      const klass = classes[at]!;
      const plan = planClass({ ...asks(klass, lessons), free: freeIn(klass, ask, ledger) });
      plans.set(klass.id, plan);
      score += plan.score;
      for (const { slug, meetings } of plan.placed) {
        const lesson = lessons.find((one) => one.slug === slug)!;
        for (const i of meetings) ledger.add(bookingOf(klass, lesson, things, i));
      }
      yield { done: ++done, of, best: best.score < 0 ? null : best };
    }
    if (score > best.score) best = { plans, score, bound };
    if (best.score >= bound) break;
  }
  return best;
}

/** The same at one go. */
export function planSchool(ask: SchoolAsk): SchoolPlan {
  const search = planningSchool(ask);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
  }
}

function ledgerOf(things: readonly Thing[], booked: readonly Booked[]): Ledger {
  const ledger = new Ledger(things);
  for (const one of booked) ledger.add(one);
  return ledger;
}

const asks = ({ meetings, have, aims, lessons: own }: SchoolClass, lessons: readonly PlanLesson[]) => ({
  meetings,
  have,
  aims,
  lessons: lessons.filter(({ slug }) => own.includes(slug)),
});

function bookingOf(
  klass: SchoolClass,
  lesson: PlanLesson,
  things: readonly Thing[],
  meeting: number,
): Booked {
  const { startsAt, minutes, room } = klass.meetings[meeting]!;
  return { startsAt, minutes, takes: takesOf(klass, lesson, things, { room }) };
}

/** Whether a class may have a lesson in one of its meetings; the same question is answered once. */
function freeIn(klass: SchoolClass, { things }: SchoolAsk, ledger: Ledger) {
  const known = new Map<string, boolean>();
  return (meeting: number, lesson: PlanLesson): boolean => {
    // Lessons on the same mat take the same.
    const key = `${meeting} ${lesson.mat}`;
    let free = known.get(key);
    if (free === undefined) known.set(key, (free = ledger.fits(bookingOf(klass, lesson, things, meeting))));
    return free;
  };
}
