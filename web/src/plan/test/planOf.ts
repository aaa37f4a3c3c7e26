import type { PlanHour, YearPlan } from '@vigilum/contract/types';

// A plan for the tests of its pages: a class that meets on Tuesdays at ten in winter, by a clock that is an hour ahead of UTC.

export const MINUTE = 60_000;
export const DAY = 86_400_000;
export const MONDAY = Date.parse('2026-11-23T09:00Z');
export const at = (days: number, hour = 9): number => MONDAY + days * DAY + (hour - 9) * 3_600_000;

export const lessonOf = (slug: string, title: string, minutes = 40) => ({
  slug,
  title,
  minutes,
  gives: [],
  needs: [],
  sensors: [],
  mat: 'harbour mat',
  kits: ['cobble'],
});
export const meetingOf = (
  id: number,
  startsAt: number,
  more: Partial<YearPlan['meetings'][number]> = {},
) => ({
  id,
  class: 1,
  term: 1,
  startsAt,
  minutes: 50,
  room: null,
  lost: null,
  ...more,
});
export const hourOf = (
  id: number,
  meeting: number | null,
  startsAt: number,
  more: Partial<PlanHour> = {},
) => ({
  id,
  class: 1,
  lesson: { slug: 'tide-line', title: 'Tide line' },
  startsAt,
  minutes: 50,
  open: true,
  meeting,
  shared: false,
  takes: [],
  ...more,
});
export const thingOf = (id: string, more: Partial<YearPlan['things'][number]> = {}) => ({
  id,
  kind: 'mat' as const,
  name: id,
  shelf: 'A2',
  count: 2,
  broken: 0,
  out: 0,
  beforeMin: 5,
  afterMin: 10,
  row: 7,
  ...more,
});

export const planOf = (more: Partial<YearPlan> = {}): YearPlan => ({
  now: at(0),
  zone: 'Europe/Oslo',
  robotTimes: { beforeMin: 5, afterMin: 15 },
  terms: [
    { id: 1, name: 'Autumn', from: '2026-11-02', to: '2026-12-18', classes: [{ id: 1, name: '7 Auk' }] },
  ],
  daysOff: [],
  things: [],
  robots: [],
  classes: [{ id: 1, name: '7 Auk', teams: 4, robots: [], kits: ['cobble'] }],
  meetings: [],
  hours: [],
  lessons: [
    lessonOf('tide-line', 'Tide line'),
    lessonOf('lanes', 'Count the lanes'),
    lessonOf('3', 'Third lesson'),
  ],
  skills: [],
  series: [],
  ...more,
});
