import type { TypicalFault } from '@vigilum/core/lesson';
import { rightOfDistance } from './distance.ts';
import { rightOfLines } from './lines.ts';
import { written, type OtherRight } from './other.ts';
import { rightOfTogether } from './together.ts';
import { rightOfTouch } from './touch.ts';

export { harbourAccepts } from './accepts.ts';

const all: Record<string, OtherRight[]> = {
  ...rightOfTouch,
  ...rightOfDistance,
  ...rightOfLines,
  ...rightOfTogether,
};

/** Other answers to a lesson that are right as well, each with why. */
export const harbourRightToo = (slug: string, model: string): TypicalFault[] =>
  (all[slug] ?? []).map((other) => written(other, model));
