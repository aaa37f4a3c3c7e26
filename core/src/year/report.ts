import { trialVerdict } from '../classroom/index.ts';
import { wilson } from '../statistics/index.ts';
import { cameTrue, evidenceOf, type Work } from './evidence.ts';
import { isSeen, rankOf, shownOf, type Overruling, type Standing } from './shown.ts';
import type { Skill } from './skills.ts';

/** The span of a report, ms; both ends belong to it. */
export interface Span {
  name: string;
  from: number;
  to: number;
}

/** What a team did in one lesson of the span. */
export interface LessonOfTeam {
  slug: string;
  title: string;
  /** When its hour began, ms; null where the class has had none. */
  at: number | null;
  /** Runs of its last proof. */
  proof: { passes: number; runs: number; verdict: string } | null;
  floor: { kept: number; of: number };
  predictions: { right: number; of: number };
  /** In the team's own words. */
  wrote: string[];
}

export interface TeamReport {
  id: number;
  name: string;
  /** Nicknames of those who were in it in the span. */
  members: string[];
  skills: {
    skill: string;
    standing: Standing;
    /** When it was last shown, ms. */
    lastAt: number | null;
    reason: string | null;
  }[];
  lessons: LessonOfTeam[];
}

/** How a class did in one lesson. */
export interface LessonOfClass {
  slug: string;
  title: string;
  at: number | null;
  /** Teams that came to something in it, and of these those whose last proof is *proved*. */
  teams: number;
  proved: number;
  /** Runs of all last proofs together, with their 95 % interval (Wilson); null where nobody proved. */
  runs: { passes: number; of: number; low: number; high: number } | null;
}

/** What a class did and has shown in a span of time. */
export interface ClassReport {
  format: 'vigilum-report';
  version: 1;
  class: { id: number; name: string; school: string };
  span: Span;
  /** When it was made, ms. */
  madeAt: number;
  skills: { id: string; name: string; shows: string }[];
  teams: TeamReport[];
  lessons: LessonOfClass[];
  /** After each day with work: of all skills of all teams, how many had been seen once or more, and how many were shown. */
  growth: { at: number; seen: number; shown: number }[];
  predictions: { right: number; of: number };
}

export interface ReportInput {
  class: { id: number; name: string; school: string };
  span: Span;
  now: number;
  works: readonly Work[];
  teams: readonly { id: number; name: string; members: readonly string[] }[];
  overruled: ReadonlyMap<number, Readonly<Record<string, Overruling>>>;
  map: readonly Skill[];
  own: readonly Skill[];
}

const DAY_MS = 86_400_000;
/** When a work was: its hour, else the last thing in it. */
const atOf = (work: Work): number =>
  work.hour?.at ??
  Math.max(0, work.script?.at ?? 0, ...work.tries.map(({ at }) => at), ...work.trials.map(({ at }) => at));

function lessonOfTeam(work: Work): LessonOfTeam {
  const { record, hour, proof, trials, predictions, notes } = work;
  const verdicts = trials.map(trialVerdict).filter((verdict) => verdict !== 'not judged');
  return {
    slug: record.lesson.slug,
    title: record.lesson.title,
    at: hour?.at ?? null,
    proof: proof && { passes: proof.proof.passes, runs: proof.proof.runs, verdict: proof.proof.verdict },
    floor: { kept: verdicts.filter((verdict) => verdict === 'kept').length, of: verdicts.length },
    predictions: { right: predictions.filter(cameTrue).length, of: predictions.length },
    wrote: Object.values(notes)
      .map(({ text }) => text.trim())
      .filter((text) => text !== ''),
  };
}

function lessonsOfClass(works: readonly Work[]): LessonOfClass[] {
  const by = new Map<string, Work[]>();
  for (const work of works)
    by.set(work.record.lesson.slug, [...(by.get(work.record.lesson.slug) ?? []), work]);
  return [...by.values()]
    .map((own): LessonOfClass => {
      const proofs = own.flatMap(({ proof }) => (proof ? [proof.proof] : []));
      const passes = proofs.reduce((sum, one) => sum + one.passes, 0);
      const of = proofs.reduce((sum, one) => sum + one.runs, 0);
      const at = own.flatMap(({ hour }) => (hour ? [hour.at] : []));
      return {
        slug: own[0]!.record.lesson.slug,
        title: own[0]!.record.lesson.title,
        at: at.length > 0 ? Math.min(...at) : null,
        teams: new Set(
          own.filter(({ script, tries }) => script !== null || tries.length > 0).map(({ team }) => team.id),
        ).size,
        proved: new Set(
          own.filter(({ proof }) => proof?.proof.verdict === 'proved').map(({ team }) => team.id),
        ).size,
        runs: of === 0 ? null : { passes, of, ...wilson(passes, of) },
      };
    })
    .sort((a, b) => (a.at ?? Infinity) - (b.at ?? Infinity) || (a.slug < b.slug ? -1 : 1));
}

/** What a class did and has shown in a span: everything computed from the evidence of its hours, of nothing else. */
export function reportOf(input: ReportInput): ClassReport {
  const { span, now, teams, overruled, map, own } = input;
  const works = input.works.filter((work) => span.from <= atOf(work) && atOf(work) <= span.to);
  const evidence = works.flatMap((work) =>
    evidenceOf(work, own).map((one) => ({ team: work.team.id, ...one })),
  );
  const standing = (team: number, skill: string, until = Infinity) =>
    shownOf(
      evidence.filter((one) => one.team === team && one.skill === skill && one.at <= until),
      now,
    ).standing;
  // The last thing of each day.
  const last = new Map<number, number>();
  for (const { at } of evidence)
    last.set(Math.floor(at / DAY_MS), Math.max(at, last.get(Math.floor(at / DAY_MS)) ?? 0));
  const days = [...last.values()].sort((a, b) => a - b);
  const predictions = works.flatMap((work) => work.predictions);
  return {
    format: 'vigilum-report',
    version: 1,
    class: input.class,
    span,
    madeAt: now,
    skills: map.map(({ id, name, shows }) => ({ id, name, shows })),
    teams: teams.map(({ id, name, members }) => ({
      id,
      name,
      members: [...members],
      skills: map.map(({ id: skill }) => {
        const said = overruled.get(id)?.[skill] ?? null;
        const shown = shownOf(
          evidence.filter((one) => one.team === id && one.skill === skill),
          now,
          said && said.at <= span.to ? said : null,
        );
        return {
          skill,
          standing: shown.standing,
          lastAt: shown.lastAt,
          reason: shown.overruled?.reason ?? null,
        };
      }),
      lessons: works.filter(({ team }) => team.id === id).map(lessonOfTeam),
    })),
    lessons: lessonsOfClass(works),
    growth: days.map((at) => {
      const all = teams.flatMap(({ id }) => map.map(({ id: skill }) => standing(id, skill, at)));
      return {
        at,
        seen: all.filter(isSeen).length,
        shown: all.filter((one) => rankOf(one) >= rankOf('shown')).length,
      };
    }),
    predictions: { right: predictions.filter(cameTrue).length, of: predictions.length },
  };
}
