import { proposedCautions, usualSteps, variantOf, type Lesson } from '@vigilum/core/lesson';
import { backOffFive, lookBothWays, stopShort, throughTheBasin } from './distance.ts';
import { coloursOfTheCargo, countTheLanes, followTheChannel, piersEdge, tideLine } from './lines.ts';
import { harbourTwists } from './twists.ts';
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

/** The lesson with its steps, its skills, its twist, and the cautions that it calls for. */
function written(lesson: Lesson): Lesson {
  const { skills, ...words } = harbourWords[lesson.slug]!;
  const own = harbourTwists[lesson.slug];
  const whole: Lesson = {
    ...lesson,
    aim: own?.aim ?? lesson.aim,
    modelScript: own?.script ? lesson.modelScript.replace(...own.script) : lesson.modelScript,
    skills,
    cautions:
      lesson.slug === 'tide-line' ? lesson.cautions : proposedCautions(lesson).map(({ says }) => says),
    ...(own ? { twist: own.twist } : {}),
  };
  const brief = own?.brief ? words.brief.replace(...own.brief) : words.brief;
  return { ...whole, steps: usualSteps(whole, { ...words, brief }) };
}

/** The sixteen lessons of the harbour year, in their order. */
export const harbourLessons: readonly Lesson[] = bare.map(written);

/** The same with the usual values of their twists: what is judged when no team is meant. */
export const usualLessons: readonly Lesson[] = harbourLessons.map((lesson) => variantOf(lesson));
