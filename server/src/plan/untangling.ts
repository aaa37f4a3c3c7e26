import { DateTime } from 'luxon';
import { timetableOf, untangle, type Solve } from '@vigilum/core/year';
import type { Untangling, YearPlan } from '@vigilum/contract/types';

/** What to change so that nothing is short any more, at the least cost. Nothing is changed by asking. */
export async function untangling(plan: YearPlan, solve: Solve): Promise<Untangling> {
  const day = (at: number) =>
    DateTime.fromMillis(at, { zone: plan.zone, locale: 'en-GB' }).toFormat('ccc d LLL');
  const { chosen, left } = await untangle(timetableOf(plan), solve, day);
  return {
    ways: chosen.map((way) => ({ ...way, left: left.length })),
    changes: chosen.flatMap(({ changes }) => changes),
    left,
  };
}
