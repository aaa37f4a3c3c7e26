import type { Lesson } from '@vigilum/core/lesson';
import { backOffFive, lookBothWays, stopShort, throughTheBasin } from './distance.ts';
import { coloursOfTheCargo, countTheLanes, followTheChannel, piersEdge, tideLine } from './lines.ts';
import { findTheBeacon, guardTheIsland, harbourRules, holdABearing, roundTheBuoy } from './together.ts';
import { bumpAndTurn, firstWatch } from './touch.ts';

/** The sixteen lessons of the harbour year, in their order. */
export const harbourLessons: readonly Lesson[] = [
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
