import type { SkillEvidence, Weight } from './evidence.ts';

export const standings = [
  'cannot tell',
  'not yet',
  'seen once',
  'shown',
  'shown in unkind conditions',
] as const;
export type Standing = (typeof standings)[number];

/** How far a standing goes: from *cannot tell*, 0, up. */
export const rankOf = (standing: Standing): number => standings.indexOf(standing);
/** Whether it was seen once or more. */
export const isSeen = (standing: Standing): boolean => rankOf(standing) >= rankOf('seen once');

/** What a teacher says against what was computed, and why. */
export interface Overruling {
  standing: Standing;
  reason: string;
  by: string;
  at: number;
}

/** Where a team stands in one skill. */
export interface Shown {
  standing: Standing;
  /** What it was computed to be, where a teacher says otherwise. */
  computed: Standing;
  /** When it was last shown, ms; null where it never was. */
  lastAt: number | null;
  /** Last shown so long ago that it should be looked at again. */
  longAgo: boolean;
  /** What it rests on, newest first. */
  rests: SkillEvidence[];
  overruled: Overruling | null;
}

/** After so long something that was shown is called long ago: about a term. */
export const LONG_AGO_MS = 100 * 24 * 3600_000;

const positive: readonly Weight[] = ['once', 'firm', 'unkind'];

/**
 * Where a team stands, by its evidence of one skill. *Cannot tell* where nothing was tried. Seen in two lessons or more, or proved, is
 * *shown*; in unkind conditions where the floor agreed with a proof. What was tried later and not shown does not take back what was
 * shown: it is there to be read.
 */
export function standingOf(evidence: readonly SkillEvidence[]): Standing {
  if (evidence.length === 0) return 'cannot tell';
  const seen = evidence.filter(({ weight }) => positive.includes(weight));
  if (seen.length === 0) return 'not yet';
  if (seen.some(({ weight }) => weight === 'unkind')) return 'shown in unkind conditions';
  const places = new Set(seen.map(({ lesson, hour }) => `${lesson.slug} ${hour}`));
  return seen.some(({ weight }) => weight === 'firm') || places.size >= 2 ? 'shown' : 'seen once';
}

/** The same with its dates, what it rests on, and what the teacher says against it. */
export function shownOf(
  evidence: readonly SkillEvidence[],
  nowMs: number,
  overruled: Overruling | null = null,
): Shown {
  const rests = [...evidence].sort((a, b) => b.at - a.at);
  const seen = rests.filter(({ weight }) => positive.includes(weight));
  const computed = standingOf(evidence);
  const lastAt = overruled ? Math.max(overruled.at, seen[0]?.at ?? 0) : (seen[0]?.at ?? null);
  return {
    standing: overruled?.standing ?? computed,
    computed,
    lastAt,
    longAgo: lastAt !== null && nowMs - lastAt > LONG_AGO_MS,
    rests,
    overruled,
  };
}

/** What a class should do next about a skill: how many teams have it, and a sentence where half of them or more have not. */
export interface SkillOfClass {
  skill: string;
  have: number;
  tried: number;
  teams: number;
}

/** Over the teams of a class: who has shown it (once or more), who has tried. */
export function ofClass(skill: string, standingsOfTeams: readonly Standing[]): SkillOfClass {
  return {
    skill,
    have: standingsOfTeams.filter(isSeen).length,
    tried: standingsOfTeams.filter((one) => one !== 'cannot tell').length,
    teams: standingsOfTeams.length,
  };
}

/** A team with all that speaks of its skills. */
export interface TeamOfClass {
  id: number;
  name: string;
  evidence: readonly SkillEvidence[];
  overruled: Readonly<Record<string, Overruling>>;
}

/** Where a team stands in one skill, and what that rests on. */
export const shownBy = ({ evidence, overruled }: TeamOfClass, skill: string, nowMs: number): Shown =>
  shownOf(
    evidence.filter((one) => one.skill === skill),
    nowMs,
    overruled[skill] ?? null,
  );

/** The skills that half of a class or more have been seen to have. */
export const seenInClass = (
  skills: readonly { id: string }[],
  teams: readonly TeamOfClass[],
  nowMs: number,
): string[] =>
  skills
    .map(({ id }) => id)
    .filter((id) => {
      const have = teams.filter((team) => isSeen(shownBy(team, id, nowMs).standing)).length;
      return teams.length > 0 && have * 2 >= teams.length;
    });
