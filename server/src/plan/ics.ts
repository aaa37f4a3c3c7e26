import ICAL from 'ical.js';
import ical, { ICalCalendarMethod, ICalEventStatus } from 'ical-generator';
import { DateTime } from 'luxon';
import type { NewDayOff, YearPlan } from '@vigilum/contract/types';
import { Problem } from '../http/problems.ts';

/** A day off longer than this is none. */
const LONGEST_DAYS = 120;
/** So many events of a file are read, and repeats of one. */
const MOST_EVENTS = 2000;
const MOST_REPEATS = 30;
/** So many steps through rules are taken for a whole file: a rule may begin long ago, and never end. */
const MOST_STEPS = 30_000;
/** Repeats are read this many years around now. */
const YEARS = 3;

const plain = (text: string): string =>
  text
    .replace(/\p{C}+/gu, ' ')
    .trim()
    .slice(0, 120);

/** The plan of a class, or of all, as iCalendar (RFC 5545): one event an hour, the same UID whenever it is asked for. */
export function calendarOf(plan: YearPlan, klass: number | null, school: string, host: string): string {
  const chosen = plan.classes.find(({ id }) => id === klass);
  const calendar = ical({
    name: chosen ? `${chosen.name}, ${school}` : school,
    prodId: { company: 'Vigilum', product: 'plan', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  });
  const rooms = new Map(plan.things.map(({ id, name }) => [id, name]));
  const meetingById = new Map(plan.meetings.map((meeting) => [meeting.id, meeting]));
  for (const hour of plan.hours) {
    const of = plan.classes.find(({ id }) => id === hour.class);
    if (!of || (klass !== null && of.id !== klass)) continue;
    const room = hour.meeting === null ? null : (meetingById.get(hour.meeting)?.room ?? null);
    calendar.createEvent({
      id: `hour-${hour.id}@${host}`,
      start: new Date(hour.startsAt),
      end: new Date(hour.startsAt + 60_000 * hour.minutes),
      // Moments, whatever the clock of who reads them.
      stamp: new Date(plan.now),
      summary: `${of.name}: ${hour.lesson.title}`,
      location: room === null ? null : (rooms.get(room) ?? null),
      status: ICalEventStatus.CONFIRMED,
    });
  }
  for (const meeting of plan.meetings) {
    const of = plan.classes.find(({ id }) => id === meeting.class);
    if (meeting.lost === null || !of || (klass !== null && of.id !== klass)) continue;
    calendar.createEvent({
      id: `meeting-${meeting.id}@${host}`,
      start: new Date(meeting.startsAt),
      end: new Date(meeting.startsAt + 60_000 * meeting.minutes),
      stamp: new Date(plan.now),
      summary: `${of.name}: ${meeting.lost}`,
      status: ICalEventStatus.CANCELLED,
    });
  }
  return calendar.toString();
}

/** The days of one event, both ends included; the end of whole days is the day after the last (RFC 5545, 3.6.1). */
function daysOf(start: ICAL.Time, end: ICAL.Time | null, zone: string): { from: string; to: string } {
  const iso = (time: ICAL.Time) =>
    time.isDate ? time.toString().slice(0, 10) : DateTime.fromJSDate(time.toJSDate(), { zone }).toISODate()!;
  const from = iso(start);
  if (!end) return { from, to: from };
  const last = end.clone();
  last.adjust(end.isDate ? -1 : 0, 0, 0, end.isDate ? 0 : -1);
  const to = iso(last);
  return { from, to: to < from ? from : to };
}

/**
 * Days off out of an iCalendar file from anywhere: whole days and repeats of them; what is no day off is named with the reason.
 * @throws Problem 422 where it is no iCalendar file.
 */
export function daysOffIn(text: string, now: number, zone: string): { days: NewDayOff[]; skipped: string[] } {
  let events: ICAL.Event[];
  try {
    const parsed = ICAL.parse(text.replace(/^\uFEFF/, '')) as unknown[];
    // A file may hold several calendars.
    const roots = typeof parsed[0] === 'string' ? [parsed] : (parsed as unknown[][]);
    if (roots.length === 0 || !roots.every(([kind]) => kind === 'vcalendar') || !/END:VCALENDAR/i.test(text))
      throw new Error('no calendar');
    events = roots.flatMap((root) =>
      new ICAL.Component(root as never).getAllSubcomponents('vevent').map((one) => new ICAL.Event(one)),
    );
  } catch {
    throw new Problem(
      422,
      'No calendar',
      'Nothing was read: this is no iCalendar file. Choose a file that ends in .ics.',
      [{ field: 'text', says: 'must be an iCalendar file' }],
    );
  }
  const days: NewDayOff[] = [];
  const skipped: string[] = [];
  const first = new Date(now - YEARS * 366 * 86_400_000).toISOString().slice(0, 10);
  const last = new Date(now + YEARS * 366 * 86_400_000).toISOString().slice(0, 10);
  let steps = 0;
  for (const event of events.slice(0, MOST_EVENTS)) {
    let name = 'event';
    try {
      name = plain(event.summary ?? '') || 'day off';
      const keep = (start: ICAL.Time, end: ICAL.Time | null): void => {
        const found = daysOf(start, end, zone);
        const long = (Date.parse(found.to) - Date.parse(found.from)) / 86_400_000;
        if (long > LONGEST_DAYS) skipped.push(`${name}, ${found.from}: longer than ${LONGEST_DAYS} days`);
        else if (found.to >= first && found.from <= last) days.push({ name, ...found });
      };
      if (!event.startDate.isDate && event.duration.toSeconds() < 20 * 3600) {
        skipped.push(`${name}, ${event.startDate.toString().slice(0, 16)}: not a whole day`);
        continue;
      }
      if (!event.isRecurring()) {
        keep(event.startDate, event.endDate);
        continue;
      }
      const times = event.iterator();
      let kept = 0;
      for (; steps < MOST_STEPS && kept < MOST_REPEATS; steps++) {
        const at = times.next() as ICAL.Time | null;
        if (!at || at.toString().slice(0, 10) > last) break;
        if (at.toString().slice(0, 10) < first) continue;
        const { startDate, endDate } = event.getOccurrenceDetails(at);
        keep(startDate, endDate);
        kept++;
      }
    } catch {
      skipped.push(`${name}: its dates cannot be read`);
    }
  }
  if (events.length > MOST_EVENTS) skipped.push(`${events.length - MOST_EVENTS} more events`);
  const once = [...new Map(days.map((one) => [JSON.stringify(one), one])).values()];
  return {
    days: once.sort((a, b) => (a.from < b.from ? -1 : 1)).slice(0, 400),
    skipped: skipped.slice(0, 50),
  };
}
