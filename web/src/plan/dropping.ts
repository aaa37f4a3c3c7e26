import { arrangementTo, moveLesson } from '@vigilum/core/year';
import type { Arrangement, YearPlan } from '@vigilum/contract/types';
import { clockOf, slotsOf } from './usePlan.ts';

/** Returns the request that moves a dropped lesson to a day (2026-11-28), or why it can't go there. */
export function dropped(
  plan: YearPlan,
  meeting: number,
  day: string,
): { refused: string } | { klass: number; body: Arrangement; says: string } {
  const clock = clockOf(plan.zone);
  const from = plan.meetings.find(({ id }) => id === meeting)!;
  const target = plan.meetings.find(
    (one) =>
      one.class === from.class && one.id !== meeting && one.lost === null && clock.iso(one.startsAt) === day,
  );
  if (!target) {
    const name = plan.classes.find(({ id }) => id === from.class)?.name ?? '';
    return {
      refused: `${name} does not meet on ${clock.day(Date.parse(`${day}T12:00Z`))}. Drop a lesson on a day on which it does.`,
    };
  }
  const before = slotsOf(plan, from.class);
  const after = moveLesson(before, meeting, target.id);
  if (!after) return { refused: 'An hour that has begun stays where it is.' };
  return {
    klass: from.class,
    body: arrangementTo(before, after, ''),
    says: `Moved to ${clock.day(target.startsAt)}; what lies between has followed.`,
  };
}
