import { DateTime, IANAZone } from 'luxon';
import * as rules from 'rrule';

// The package is CommonJS to some loaders, which give all of it as one default, and a module to others, which have none.
const whole = Object.entries(rules).find(([name]) => name === 'default')?.[1] as typeof rules | undefined;
const { rrulestr } = whole ?? rules;

/** Days as ISO 8601 writes them, 2026-11-28; both ends belong to it. */
export interface Days {
  from: string;
  to: string;
}
export interface DayOff extends Days {
  name: string;
}

/** A class meets again and again at a time of the day. */
export interface MeetingRule {
  /** ISO weekdays, 1 Monday to 7 Sunday. */
  weekdays: readonly number[];
  /** By the school's clock, 09:50. */
  at: string;
  minutes: number;
  /** 1 each week, 2 every other one. */
  everyWeeks: number;
}

/** One time at which a class meets. */
export interface MeetingTime {
  /** By the school's clock. */
  day: string;
  startsAt: number;
  minutes: number;
}

/** A year of every day is the most that a term may hold. */
export const MOST_MEETINGS = 400;
const CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

export const isZone = (zone: string): boolean => IANAZone.isValidZone(zone);
export const isDay = (day: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(day) && DateTime.fromISO(day, { zone: 'utc' }).isValid;
export const isTime = (at: string): boolean => /^([01]\d|2[0-3]):[0-5]\d$/.test(at);

/**
 * The moment of a day and time by a school's clock, ms. A time that the clock leaps over is told as the hour after it; of one that it
 * shows twice the first is meant (RFC 5545, 3.3.5).
 */
export const momentOf = (day: string, at: string, zone: string): number =>
  Math.min(
    ...DateTime.fromISO(`${day}T${at}`, { zone })
      .getPossibleOffsets()
      .map((one) => one.toMillis()),
  );

/** The day of a moment by a school's clock. */
export const dayOf = (at: number, zone: string): string => DateTime.fromMillis(at, { zone }).toISODate()!;

export const offOn = (day: string, daysOff: readonly DayOff[]): DayOff | undefined =>
  daysOff.find(({ from, to }) => from <= day && day <= to);

/**
 * When a class meets in a term, in order of time: on the weekdays of its rule, at the same time by the school's clock whatever the clock
 * does, but for days off. Days by the recurrence rules of RFC 5545 (rrule), moments by the zone's own history (luxon).
 * @throws RangeError on a day, time or zone that is none, or more than `MOST_MEETINGS`.
 */
export function meetingTimes(
  rule: MeetingRule,
  term: Days,
  daysOff: readonly DayOff[],
  zone: string,
): { meetings: MeetingTime[]; off: { day: string; name: string }[] } {
  if (!isZone(zone)) throw new RangeError(`${zone} is no time zone`);
  if (!isDay(term.from) || !isDay(term.to)) throw new RangeError('a term needs two days');
  if (!isTime(rule.at)) throw new RangeError(`${rule.at} is no time of the day`);
  if (rule.weekdays.length === 0 || term.to < term.from) return { meetings: [], off: [] };
  const compact = (day: string) => day.replaceAll('-', '');
  // Days alone are counted, so in a zone without clock changes.
  const days = rrulestr(
    `DTSTART:${compact(term.from)}T000000Z\nRRULE:FREQ=WEEKLY;INTERVAL=${rule.everyWeeks};WKST=MO;BYDAY=${rule.weekdays.map((day) => CODES[day - 1]).join(',')};UNTIL=${compact(term.to)}T000000Z`,
  )
    .all((_, i) => i <= MOST_MEETINGS)
    .map((date) => date.toISOString().slice(0, 10));
  if (days.length > MOST_MEETINGS) throw new RangeError(`a term holds ${MOST_MEETINGS} meetings at most`);
  const meetings: MeetingTime[] = [];
  const off: { day: string; name: string }[] = [];
  for (const day of days) {
    const holiday = offOn(day, daysOff);
    if (holiday) off.push({ day, name: holiday.name });
    else meetings.push({ day, startsAt: momentOf(day, rule.at, zone), minutes: rule.minutes });
  }
  return { meetings, off };
}
