import type { KnownRobot, Lesson } from '@vigilum/core/lesson';
import { shippedKits } from '../starter/starter.ts';

/** The robot that a shipped lesson names, which has read nothing yet. */
export function lessonRobot({ robot }: Lesson): KnownRobot {
  const { kit, build, thresholds } = robot!;
  return { kit: shippedKits.find(({ slug }) => slug === kit)!, build, sets: [], thresholds };
}
