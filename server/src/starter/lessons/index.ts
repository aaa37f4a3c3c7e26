import { proposedCautions, textsFollow, usualSteps, variantOf, type Lesson } from '@vigilum/core/lesson';
import { backOffFive, lookBothWays, stopShort, throughTheBasin } from './distance.ts';
import { coloursOfTheCargo, countTheLanes, followTheChannel, piersEdge, tideLine } from './lines.ts';
import { harbourNeeds } from '../series.ts';
import { harbourSteps } from './stepWords.ts';
import { harbourAccepts, harbourRightToo } from './rightToo/index.ts';
import { harbourTwists } from './twists.ts';
import { harbourVaries } from './varies.ts';
import { harbourWords } from './words.ts';
import { findTheBeacon, guardTheIsland, harbourRules, holdABearing, roundTheBuoy } from './together.ts';
import { bumpAndTurn, firstWatch } from './touch.ts';

/** The sixteen lessons of the harbour year as they are judged, in their order. */
const bare: readonly Lesson[] = [
  firstWatch,
  bumpAndTurn,
  stopShort,
  backOffFive,
  tideLine,
  countTheLanes,
  followTheChannel,
  piersEdge,
  holdABearing,
  lookBothWays,
  throughTheBasin,
  harbourRules,
  roundTheBuoy,
  guardTheIsland,
  findTheBeacon,
  coloursOfTheCargo,
];

/** Every text inside something, with each first text of a pair replaced by its second. */
function replaced<T>(value: T, pairs: readonly (readonly [string, string])[]): T {
  if (typeof value === 'string')
    return pairs.reduce((text, [from, to]) => text.replaceAll(from, to), value as string) as T;
  if (Array.isArray(value)) return value.map((item: unknown) => replaced(item, pairs)) as T;
  if (value !== null && typeof value === 'object')
    return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, replaced(item, pairs)])) as T;
  return value;
}

/** The lesson with its steps, its skills, its twist, and the cautions that it calls for. */
function written(lesson: Lesson): Lesson {
  const { skills, ...words } = harbourWords[lesson.slug]!;
  const own = harbourTwists[lesson.slug];
  const { modelScript, expectations, faults = [] } = lesson;
  const judged = replaced({ modelScript, expectations, faults }, own?.replace ?? []);
  const whole: Lesson = {
    ...lesson,
    aim: own?.aim ?? lesson.aim,
    ...judged,
    skills,
    needs: [...(harbourNeeds[lesson.slug] ?? [])],
    cautions:
      lesson.slug === 'tide-line' ? lesson.cautions : proposedCautions(lesson).map(({ says }) => says),
    ...(own ? { twist: own.twist } : {}),
    rightToo: harbourRightToo(lesson.slug, judged.modelScript),
    ...(harbourAccepts[lesson.slug] ? { accepts: harbourAccepts[lesson.slug] } : {}),
    ...(harbourVaries[lesson.slug] ? { varies: harbourVaries[lesson.slug] } : {}),
  };
  const brief = own?.brief ? words.brief.replace(...own.brief) : words.brief;
  const steps = usualSteps(whole, { ...words, ...harbourSteps[lesson.slug], ...own?.words, brief });
  return textsFollow({ ...whole, steps });
}

/** The sixteen lessons of the harbour year, in their order. */
export const harbourLessons: readonly Lesson[] = bare.map(written);

/** The same with the usual values of their twists: what is judged when no team is meant. */
export const usualLessons: readonly Lesson[] = harbourLessons.map((lesson) => variantOf(lesson));
