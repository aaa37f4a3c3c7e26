import { countOf } from '../quantity/index.ts';
import type { PlanLesson } from './planning.ts';
import { isSeen, seenInClass, shownBy, type TeamOfClass } from './shown.ts';
import type { SkillEvidence } from './evidence.ts';
import type { Skill } from './skills.ts';

/** What a team should do after an hour. */
export interface TeamNext {
  team: { id: number; name: string };
  go: 'on' | 'same skill' | 'finish' | 'cannot tell';
  /** Skills of the hour's lesson that it has not shown. */
  lacks: string[];
  says: string;
}

/** A skill that many lack: what to do with all before the next lesson. */
export interface ForAll {
  skill: string;
  lack: number;
  of: number;
  says: string;
  evidence: SkillEvidence[];
}

export interface Next {
  teams: TeamNext[];
  forAll: ForAll[];
  /** Where to go on with those that go on; null where nothing that they can do is left. */
  onWith: PlanLesson | null;
  /** Other lessons that give what is lacked, by skill. */
  again: Record<string, PlanLesson[]>;
}

/** So many of ten must lack a skill before all hear of it again. */
const MANY = 0.4;

/** What five minutes with all are about, skill by skill. */
const withAll: Readonly<Record<string, string>> = {
  'reads-first': 'Five minutes: read one surface together, ten looks, before anybody opens the script.',
  decides: 'Five minutes on Decide first: two surfaces on the board, and where the line goes between them.',
  loops: 'Five minutes: act out one script, once without and once with its loop.',
  stops: 'Five minutes: a stop from two speeds, and why the faster one rolls further.',
  counts: 'Five minutes: count pencil lines with a finger, eyes shut between them.',
  follows: 'Five minutes: who sees dark steers one way, who sees light the other; walk an edge.',
  turns: 'Five minutes: turn on the spot by a compass, and say when to slow down.',
  compares: 'Five minutes: two numbers on the board, which way goes the robot?',
  orders: 'Five minutes: three rules on cards; which must be asked first?',
  predicts: 'Before the next run every team writes down what it will see.',
  tunes: 'Before the next floor step: one number at a time, and every trial on paper.',
  explains: 'The last three minutes are for writing: what happened, and why.',
};

/** Skills of which nothing is to be seen where a team did not take the time: that is a lack too, and holds nobody up. */
const BESIDE: readonly string[] = ['explains', 'predicts', 'tunes'];

/**
 * What to do after an hour, from evidence alone: teams that have shown what its lesson asks go on; those that ran and have not need the
 * same skill in another lesson or with other numbers; those that came to nothing that can be judged finish it first. What two of five
 * teams or more lack is for all.
 */
export function nextAfter({
  lesson,
  teams,
  lessons,
  had,
  map,
  now,
}: {
  lesson: PlanLesson;
  teams: readonly TeamOfClass[];
  lessons: readonly PlanLesson[];
  /** Slugs of lessons that the class has had. */
  had: readonly string[];
  map: readonly Skill[];
  now: number;
}): Next {
  const nameOf = (skill: string) => map.find(({ id }) => id === skill)?.name ?? skill;
  const standing = (team: TeamOfClass, skill: string) => shownBy(team, skill, now).standing;
  const told = teams.map((team): TeamNext => {
    const { id, name } = team;
    const by = lesson.gives.map((skill) => [skill, standing(team, skill)] as const);
    const lacks = by.filter(([, one]) => !isSeen(one)).map(([skill]) => skill);
    const tried = by.filter(([, one]) => one !== 'cannot tell').length;
    const words = lacks.map(nameOf).join(', ');
    // What a lesson is mainly there for decides: what has not been asked of the team yet holds nobody up.
    const failed = by.filter(([, one]) => one === 'not yet').map(([skill]) => skill);
    // Shown before, and not in this lesson: it need not learn it, it is not done.
    const here = by
      .filter(([, one]) => isSeen(one))
      .map(([skill]) => skill)
      .filter((skill) => {
        const own = team.evidence.filter((one) => one.skill === skill && one.lesson.slug === lesson.slug);
        return own.length > 0 && own.every(({ weight }) => weight === 'tried');
      });
    if (tried === 0)
      return {
        team: { id, name },
        go: 'cannot tell',
        lacks,
        says: 'nothing that could be judged: ask, and look at its board',
      };
    if (failed.length > 0)
      return {
        team: { id, name },
        go: 'same skill',
        lacks: failed,
        says: `tried and not there: ${failed.map(nameOf).join(', ')}`,
      };
    if (here.length > 0)
      return {
        team: { id, name },
        go: 'finish',
        lacks: here,
        says: `shown before, not in this lesson: ${here.map(nameOf).join(', ')}`,
      };
    const main = by.filter(([skill]) => !BESIDE.includes(skill));
    const open = main.filter(([, one]) => !isSeen(one)).length;
    if (open > 0 && open * 2 >= main.length)
      return { team: { id, name }, go: 'finish', lacks, says: `not come to: ${words}` };
    return {
      team: { id, name },
      go: 'on',
      lacks,
      says: lacks.length === 0 ? 'has shown all that the lesson asks' : `goes on; not come to: ${words}`,
    };
  });
  const forAll = lesson.gives
    .map((skill): ForAll => {
      const beside = BESIDE.includes(skill);
      const without = teams.filter((team) => {
        const one = standing(team, skill);
        return one === 'not yet' || (beside && one === 'cannot tell');
      });
      const who = `${without.length} of ${countOf(teams.length, 'team')}`;
      return {
        skill,
        lack: without.length,
        of: teams.length,
        says: `${who} ${beside ? `have not come to “${nameOf(skill)}”` : `tried “${nameOf(skill)}” and did not show it`}. ${withAll[skill] ?? `Five minutes with all on “${nameOf(skill)}” first.`}`,
        evidence: without.flatMap(({ evidence }) =>
          evidence.filter((one) => one.skill === skill && one.lesson.slug === lesson.slug),
        ),
      };
    })
    .filter(({ lack, of }) => of > 0 && lack / of >= MANY)
    .sort((a, b) => b.lack - a.lack);
  const seen = new Set(seenInClass(map, teams, now));
  const can = lessons.filter(
    ({ slug, needs }) => slug !== lesson.slug && !had.includes(slug) && needs.every((need) => seen.has(need)),
  );
  const fresh = (one: PlanLesson) => one.gives.filter((skill) => !seen.has(skill)).length;
  const [onWith = null] = [...can].sort((a, b) => fresh(b) - fresh(a));
  const lacked = [...new Set(told.flatMap(({ lacks }) => lacks))];
  return {
    teams: told,
    forAll,
    onWith,
    again: Object.fromEntries(
      lacked.map((skill) => [
        skill,
        can.filter(({ gives, slug }) => gives.includes(skill) && slug !== onWith?.slug).slice(0, 3),
      ]),
    ),
  };
}
