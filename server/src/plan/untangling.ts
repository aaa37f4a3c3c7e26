import { untangle, type Timetable } from '@vigilum/core/year';
import type { Untangling, YearPlan } from '@vigilum/contract/types';
import { DateTime } from 'luxon';
import { solve } from './solver.ts';

/** The plan from now on as what can be untangled; hours that are over clash with nobody. */
export function timetableOf(plan: YearPlan): Timetable {
  const meetings = new Map(plan.meetings.map((meeting) => [meeting.id, meeting]));
  const classes = new Map(plan.classes.map((one) => [one.id, one]));
  const ahead = plan.hours.filter(({ startsAt, minutes }) => startsAt + 60_000 * minutes > plan.now);
  const gives = new Map(plan.lessons.map(({ slug, gives: skills }) => [slug, skills]));
  return {
    hours: ahead.map((hour) => ({
      ...hour,
      class: { id: hour.class, name: classes.get(hour.class)!.name },
      fixed: !hour.open || hour.meeting === null,
      room: hour.meeting === null ? null : (meetings.get(hour.meeting)?.room ?? null),
    })),
    things: plan.things,
    classes: plan.classes,
    lessons: plan.lessons,
    have: Object.fromEntries(
      plan.classes.map(({ id }) => [
        id,
        [
          ...new Set(
            plan.hours
              .filter((hour) => hour.class === id && !ahead.includes(hour))
              .flatMap(({ lesson }) => gives.get(lesson.slug) ?? []),
          ),
        ],
      ]),
    ),
  };
}

/** What to change so that nothing is short any more, at the least cost. Nothing is changed by asking. */
export async function untangling(plan: YearPlan): Promise<Untangling> {
  const day = (at: number) =>
    DateTime.fromMillis(at, { zone: plan.zone, locale: 'en-GB' }).toFormat('ccc d LLL');
  const { chosen, left } = await untangle(timetableOf(plan), solve, day);
  return {
    ways: chosen.map((way) => ({ ...way, left: left.length })),
    changes: chosen.flatMap(({ changes }) => changes),
    left,
  };
}
