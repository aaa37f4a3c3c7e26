import type { YearPlan } from '@vigilum/contract/types';
import { clockOf } from './usePlan.ts';

/** One thing of the calendar: a meeting with or without its lesson, or an hour that was started without a meeting. */
export interface Pick {
  meeting: number | null;
  hour: number | null;
}

export interface Entry {
  pick: Pick;
  klass: string;
  says: string;
  state: 'planned' | 'had' | 'free' | 'lost';
  short: boolean;
  time: string;
}

/** Number of calendar weeks from one day to another. */
export const weeksBetween = (from: string, to: string): number =>
  Math.ceil((Date.parse(to) - Date.parse(from)) / (7 * 86_400_000)) + 1;

/** What the calendar shows of some classes: their meetings, and hours that were started without one. `short`: hours that clash, by id. */
export function entriesOf(plan: YearPlan, short: ReadonlySet<number>, classes: ReadonlySet<number>) {
  const { time } = clockOf(plan.zone);
  const names = new Map(plan.classes.map(({ id, name }) => [id, name]));
  const byMeeting = new Map(
    plan.hours.flatMap((hour) => (hour.meeting === null ? [] : [[hour.meeting, hour]])),
  );
  const entry = (startsAt: number, minutes: number, movable: boolean, own: Omit<Entry, 'time'>) => ({
    id: own.pick.meeting === null ? `hour-${own.pick.hour}` : `meeting-${own.pick.meeting}`,
    title: `${own.klass}: ${own.says}`,
    start: new Date(startsAt).toISOString(),
    end: new Date(startsAt + 60_000 * minutes).toISOString(),
    startEditable: movable,
    extendedProps: { entry: { ...own, time: time(startsAt) } satisfies Entry },
  });
  return [
    ...plan.meetings.flatMap(({ id, class: klass, startsAt, minutes, lost }) => {
      if (!classes.has(klass)) return [];
      const hour = byMeeting.get(id);
      return [
        entry(startsAt, minutes, hour?.open === true && lost === null, {
          pick: { meeting: id, hour: hour?.id ?? null },
          klass: names.get(klass) ?? '',
          says: lost ?? hour?.lesson.title ?? 'free',
          state: lost !== null ? 'lost' : !hour ? 'free' : hour.open ? 'planned' : 'had',
          short: hour !== undefined && short.has(hour.id),
        }),
      ];
    }),
    ...plan.hours.flatMap((hour) =>
      hour.meeting !== null || !classes.has(hour.class)
        ? []
        : [
            entry(hour.startsAt, hour.minutes, false, {
              pick: { meeting: null, hour: hour.id },
              klass: names.get(hour.class) ?? '',
              says: hour.lesson.title,
              state: hour.open ? 'planned' : 'had',
              short: short.has(hour.id),
            }),
          ],
    ),
  ];
}

/** Adds days to a day; a negative number goes back. */
export const dayAfter = (day: string, days = 1): string =>
  new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10);

/** Days off, drawn as the background of the calendar. */
export const daysOffOf = (plan: YearPlan) =>
  plan.daysOff.map(({ id, name, from, to }) => ({
    id: `off-${id}`,
    title: name,
    start: from,
    end: dayAfter(to),
    allDay: true,
    display: 'background' as const,
  }));

/** Returns whether days off fall within a week of a day. */
export const isNear =
  (day: string) =>
  ({ start, end }: { start: string; end: string }): boolean =>
    start <= dayAfter(day, 7) && day <= dayAfter(end, 6);

/** The least hours of a day that are shown. */
const LEAST_HOURS = 8;

/** The hours of the day in which anything is, full hours around it. */
export function span(plan: YearPlan): { from: string; to: string } {
  const { time } = clockOf(plan.zone);
  const all = [...plan.meetings, ...plan.hours];
  const hour = (at: number) => Number(time(at).slice(0, 2));
  const starts = all.map(({ startsAt }) => hour(startsAt));
  // What goes on past midnight ends the day.
  const ends = all.map(({ startsAt, minutes }) => {
    const end = hour(startsAt + 60_000 * minutes) + 1;
    return end <= hour(startsAt) ? 24 : end;
  });
  const from = starts.length > 0 ? Math.min(...starts) : 8;
  const to = Math.max(...ends, from + 1);
  const more = Math.max(0, LEAST_HOURS - (to - from));
  const later = Math.min(24, to + more);
  const text = (h: number) => `${String(h).padStart(2, '0')}:00:00`;
  return { from: text(Math.max(0, Math.min(from, later - LEAST_HOURS))), to: text(later) };
}
