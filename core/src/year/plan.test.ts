import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { dayOf, meetingTimes, momentOf, type MeetingRule } from './calendar.ts';
import { clashesOf, packingList, takesOf, wantedAt, type PlanClass, type Thing } from './cupboard.ts';
import { arrangementTo, undoOf } from './arrangement.ts';
import {
  fillFrom,
  insertLesson,
  loseSlot,
  moveLesson,
  regainSlot,
  type Occupant,
  type Slot,
} from './slots.ts';
import { waysOut, outOfOrder, type ChangeableHour, type Timetable } from './waysOut.ts';
import type { PlanLesson } from './planning.ts';

describe('when a class meets', () => {
  const rule: MeetingRule = { weekdays: [2, 5], at: '09:50', minutes: 50, everyWeeks: 1 };
  const local = (at: number, zone: string) =>
    new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' }).format(at);

  test('at the same time of the day on both sides of a change of the clock', () => {
    const { meetings } = meetingTimes(rule, { from: '2026-10-19', to: '2026-11-01' }, [], 'Europe/Berlin');
    // By Intl, which knows the zone's history by itself.
    expect(meetings.map(({ startsAt }) => local(startsAt, 'Europe/Berlin'))).toEqual([
      '2026-10-20 09:50',
      '2026-10-23 09:50',
      '2026-10-27 09:50',
      '2026-10-30 09:50',
    ]);
    // The clock went back on the 25th: an hour more than a week lies between these two.
    expect(meetings[2]!.startsAt - meetings[0]!.startsAt).toBe((7 * 24 + 1) * 3600_000);
  });

  test('on a leap day, and not on the day before it twice', () => {
    const leap = meetingTimes(
      { ...rule, weekdays: [2] },
      { from: '2028-02-20', to: '2028-03-08' },
      [],
      'Europe/London',
    );
    expect(leap.meetings.map(({ day }) => day)).toEqual(['2028-02-22', '2028-02-29', '2028-03-07']);
  });

  test('not in holidays, whose first and last day belong to them', () => {
    const off = [{ name: 'half term', from: '2026-10-20', to: '2026-10-27' }];
    const found = meetingTimes(rule, { from: '2026-10-16', to: '2026-10-30' }, off, 'Europe/London');
    expect(found.meetings.map(({ day }) => day)).toEqual(['2026-10-16', '2026-10-30']);
    expect(found.off).toEqual(
      ['2026-10-20', '2026-10-23', '2026-10-27'].map((day) => ({ day, name: 'half term' })),
    );
  });

  test('every other week counts from the week in which the term begins, whatever day that is', () => {
    const found = meetingTimes(
      { ...rule, weekdays: [1], everyWeeks: 2 },
      { from: '2026-09-03', to: '2026-10-10' },
      [],
      'UTC',
    );
    expect(found.meetings.map(({ day }) => day)).toEqual(['2026-09-14', '2026-09-28']);
  });

  test('at a time that the clock leaps over, it is an hour later; on a day that has it twice, the first', () => {
    expect(local(momentOf('2027-03-28', '02:30', 'Europe/Berlin'), 'Europe/Berlin')).toBe('2027-03-28 03:30');
    expect(new Date(momentOf('2026-10-25', '02:30', 'Europe/Berlin')).toISOString()).toBe(
      '2026-10-25T00:30:00.000Z',
    );
  });

  test('faults are told, and a term of nothing has no meetings', () => {
    const term = { from: '2026-09-01', to: '2026-12-18' };
    expect(() => meetingTimes(rule, term, [], 'Mars/Olympus')).toThrow('Mars/Olympus is no time zone');
    expect(() => meetingTimes({ ...rule, at: '25:00' }, term, [], 'UTC')).toThrow('25:00');
    expect(() => meetingTimes(rule, { from: '2026-02-30', to: '2026-12-18' }, [], 'UTC')).toThrow('two days');
    expect(() =>
      meetingTimes(
        { ...rule, weekdays: [1, 2, 3, 4, 5, 6, 7] },
        { from: '2026-01-01', to: '2028-01-01' },
        [],
        'UTC',
      ),
    ).toThrow('400');
    expect(meetingTimes(rule, { from: '2026-12-18', to: '2026-09-01' }, [], 'UTC').meetings).toEqual([]);
    expect(meetingTimes({ ...rule, weekdays: [] }, term, [], 'UTC').meetings).toEqual([]);
  });

  test('in any zone, any term, any weekday: each meeting is on its weekday at its time by Intl’s clock', () => {
    const zones = [
      'Europe/Berlin',
      'America/New_York',
      'Australia/Lord_Howe',
      'Asia/Kolkata',
      'Pacific/Auckland',
      'UTC',
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.date({ min: new Date('2020-01-01'), max: new Date('2034-01-01'), noInvalidDate: true }),
        fc.integer({ min: 0, max: 120 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 3 }),
        (zone, start, days, weekdays) => {
          const iso = (at: Date) => at.toISOString().slice(0, 10);
          const term = { from: iso(start), to: iso(new Date(start.getTime() + days * 86_400_000)) };
          const { meetings } = meetingTimes({ ...rule, weekdays }, term, [], zone);
          for (const { day, startsAt } of meetings) {
            expect(local(startsAt, zone)).toBe(`${day} 09:50`);
            expect(dayOf(startsAt, zone)).toBe(day);
            expect(weekdays).toContain(new Date(`${day}T00:00Z`).getUTCDay() || 7);
          }
          // As many as a plain count over the days finds.
          let n = 0;
          for (let at = Date.parse(term.from); iso(new Date(at)) <= term.to; at += 86_400_000)
            if (weekdays.includes(new Date(at).getUTCDay() || 7)) n++;
          expect(meetings).toHaveLength(n);
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('lessons in their meetings', () => {
  const slots = (...lessons: (string | null)[]): Slot[] =>
    lessons.map((lesson, i) => ({
      id: i + 1,
      holds: lesson === null ? null : { lesson },
      fixed: false,
      lost: false,
    }));
  const named = (what: Occupant) => ('lesson' in what ? what.lesson : `#${what.hour}`);
  const names = (found: { slots: Slot[] } | null) =>
    found!.slots.map(({ holds }) => (holds ? named(holds) : '–')).join('');
  const there = (slots: readonly Slot[]) => slots.flatMap(({ holds }) => (holds ? [named(holds)] : []));

  test('a lesson is moved forward or back, and those between make room', () => {
    expect(names(moveLesson(slots('a', 'b', 'c', 'd', null), 1, 3))).toBe('bcad–');
    expect(names(moveLesson(slots('a', 'b', 'c', 'd', null), 4, 2))).toBe('adbc–');
    expect(names(moveLesson(slots('a', 'b', null, 'd'), 1, 3))).toBe('b–ad');
    expect(names(moveLesson(slots('a', 'b'), 1, 1))).toBe('ab');
  });

  test('meetings that have begun or are lost are stepped over; they and empty ones cannot be moved', () => {
    const some = slots('a', 'b', 'c', 'd');
    some[1]!.fixed = true;
    some[2] = { ...some[2]!, holds: null, lost: true };
    expect(names(moveLesson(some, 4, 1))).toBe('db–a');
    expect(moveLesson(some, 2, 4)).toBeNull();
    expect(moveLesson(some, 4, 3)).toBeNull();
    expect(moveLesson(slots('a', null), 2, 1)).toBeNull();
    expect(moveLesson(some, 9, 1)).toBeNull();
  });

  test('a lost hour pushes on as far as the first empty one; without one the last lesson is told', () => {
    expect(names(loseSlot(slots('a', 'b', null, 'd'), 1))).toBe('–abd');
    const full = loseSlot(slots('a', 'b', 'c'), 2)!;
    expect(names(full)).toBe('a–b');
    expect(full.over).toEqual([{ lesson: 'c' }]);
    expect(loseSlot(full.slots, 2)).toBeNull();
    expect(names(loseSlot(slots('a', null, 'c'), 2))).toBe('a–c');
  });

  test('lost and regained is as it was', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1, maxLength: 8 }),
        fc.nat(),
        (lessons, at) => {
          // Room at the end, so that nothing falls off.
          const before = slots(...lessons, null);
          const id = (at % lessons.length) + 1;
          const lost = loseSlot(before, id)!;
          expect(lost.over).toEqual([]);
          expect(regainSlot(lost.slots, id)!.slots).toEqual(before);
        },
      ),
    );
  });

  test('nothing is ever lost or doubled by a move, a loss, an insertion', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ lesson: fc.option(fc.constantFrom('a', 'b', 'c', 'd', 'e')), fixed: fc.boolean() }),
          { minLength: 1, maxLength: 9 },
        ),
        fc.array(fc.tuple(fc.constantFrom('move', 'lose', 'insert'), fc.nat(), fc.nat()), { maxLength: 6 }),
        (rows, moves) => {
          let now: Slot[] = rows.map(({ lesson, fixed }, i) => ({
            id: i + 1,
            lost: false,
            fixed,
            holds: lesson === null ? null : { lesson },
          }));
          let all = there(now).sort();
          for (const [what, a, b] of moves) {
            const [from, to] = [(a % now.length) + 1, (b % now.length) + 1];
            const found =
              what === 'move'
                ? moveLesson(now, from, to)
                : what === 'lose'
                  ? loseSlot(now, from)
                  : insertLesson(now, from, { lesson: 'new' });
            if (!found) continue;
            if (what === 'insert') all = [...all, 'new'].sort();
            expect([...there(found.slots), ...found.over.map(named)].sort()).toEqual(all);
            for (const [i, slot] of found.slots.entries()) if (slot.fixed) expect(slot).toEqual(now[i]);
            now = found.slots;
            all = there(now).sort();
          }
        },
      ),
    );
  });

  test('a lesson whose short name is a number is no hour of that number', () => {
    const before: Slot[] = [
      { id: 1, holds: null, fixed: false, lost: false },
      { id: 2, holds: { hour: 3 }, fixed: false, lost: false },
    ];
    expect(arrangementTo(before, insertLesson(before, 1, { lesson: '3' })!, '').hours).toEqual([
      { what: { lesson: '3' }, meeting: 1 },
    ]);
  });

  test('what was changed is put back by what undoes it, whatever it was', () => {
    const state = fc.array(
      fc.record({ hour: fc.boolean(), fixed: fc.boolean(), lost: fc.boolean(), shared: fc.boolean() }),
      { minLength: 1, maxLength: 9 },
    );
    fc.assert(
      fc.property(
        state,
        fc.constantFrom('move', 'lose', 'regain', 'insert', 'fill'),
        fc.nat(),
        fc.nat(),
        (rows, what, a, b) => {
          // Hours and meetings have numbers of their own, so that one is never taken for the other.
          const slots = rows.map(({ hour, fixed, lost }, i): Slot => ({
            id: i + 1,
            holds: hour && !lost ? { hour: 101 + i } : null,
            fixed: fixed && hour && !lost,
            lost,
          }));
          const before = {
            hours: slots.flatMap(({ id, holds }) =>
              holds ? [{ id: 100 + id, meeting: id, shared: rows[id - 1]!.shared }] : [],
            ),
            meetings: slots.map(({ id, lost }) => ({ id, lost: lost ? 'storm' : null })),
          };
          const [from, to] = [(a % slots.length) + 1, (b % slots.length) + 1];
          const found =
            what === 'move'
              ? moveLesson(slots, from, to)
              : what === 'lose'
                ? loseSlot(slots, from)
                : what === 'regain'
                  ? regainSlot(slots, from)
                  : what === 'insert'
                    ? insertLesson(slots, from, { lesson: '101' })
                    : fillFrom(slots, from, ['101', 'x']);
          if (!found) return;
          const change = arrangementTo(slots, found, 'trip');
          const made = change.hours.map(({ what: one }, i) => ('hour' in one ? one.hour : 1000 + i));
          const plan = new Map<number, number | null>(before.hours.map(({ id, meeting }) => [id, meeting]));
          const lost = new Map(before.meetings.map((one) => [one.id, one.lost]));
          const put = (arrangement: typeof change, ids: readonly number[]) => {
            for (const { hour, meeting } of arrangement.seen)
              expect([hour, plan.get(hour)]).toEqual([hour, meeting]);
            for (const one of arrangement.lost ?? []) lost.set(one.meeting, one.lost);
            for (const [i, { meeting }] of arrangement.hours.entries()) plan.set(ids[i]!, meeting);
            const held = [...plan.values()].filter((meeting) => meeting !== null);
            expect(new Set(held).size).toBe(held.length);
          };
          put(change, made);
          put(undoOf(before, change, made), made);
          expect([...plan].filter(([, meeting]) => meeting !== null).sort()).toEqual(
            before.hours.map(({ id, meeting }) => [id, meeting]).sort(),
          );
          expect([...lost.values()]).toEqual(before.meetings.map((one) => one.lost));
        },
      ),
    );
  });

  test('a series fills what is empty, from a meeting on, and says what has no room', () => {
    const filled = fillFrom(slots('a', null, 'c', null), 2, ['x', 'y', 'z']);
    expect(names(filled)).toBe('axcy');
    expect(filled.over).toEqual([{ lesson: 'z' }]);
  });
});

const HOUR = 3600_000;
const WEEK = 7 * 24 * HOUR;
const thing = (id: string, kind: Thing['kind'], count: number, over: Partial<Thing> = {}): Thing => ({
  id,
  kind,
  name: id,
  shelf: '',
  count,
  broken: 0,
  out: 0,
  beforeMin: 0,
  afterMin: 0,
  ...over,
});
const klass = (id: number, teams = 8): PlanClass => ({
  id,
  name: `class ${id}`,
  teams,
  robots: [{ thing: 'cobble', count: teams }],
});
const lesson = (slug: string, gives: string[], needs: string[] = [], mat = slug): PlanLesson => ({
  slug,
  title: slug,
  minutes: 50,
  gives,
  needs,
  sensors: [],
  mat,
});

describe('what hours take', () => {
  test('robots, the mat that is there, chargers in rounds, the room', () => {
    const things = [
      thing('cobble', 'robots', 10, { afterMin: 5 }),
      thing('quay', 'mat', 1),
      thing('plugs', 'charger', 3, { afterMin: 20 }),
      thing('lab', 'room', 1),
    ];
    expect(takesOf(klass(1), { mat: 'Quay' }, things, { room: 'lab' })).toEqual([
      { thing: 'cobble', count: 8, afterMin: 65 },
      { thing: 'quay', count: 1 },
      { thing: 'plugs', count: 3, afterMin: 60 },
      { thing: 'lab', count: 1 },
    ]);
    expect(takesOf(klass(1, 7), { mat: 'none here' }, things, { shared: true })[0]).toEqual({
      thing: 'cobble',
      count: 4,
      afterMin: 45,
    });
  });

  const hour = (id: number, at: number, count: number, of = id) => ({
    id,
    class: { id: of, name: `class ${of}` },
    lesson: { slug: 'tide', title: 'Tide' },
    startsAt: at,
    minutes: 60,
    takes: [{ thing: 'cobble', count }],
  });

  test('hours that follow each other directly share; a minute of clearing away makes them clash, and it is said why', () => {
    const two = [hour(1, 0, 8), hour(2, HOUR, 8)];
    expect(clashesOf(two, [thing('cobble', 'robots', 8)])).toEqual([]);
    const [clash] = clashesOf(two, [thing('cobble', 'robots', 8, { afterMin: 1 })]);
    expect(clash).toMatchObject({ wanted: 16, have: 8, hours: [1, 2] });
    expect(clash!.says).toBe(
      'cobble: class 1 and class 2 together want 16, 8 are there; between the hours there is too little time to lay out, clear away and charge.',
    );
  });

  test('what is broken or out is not there, and is named', () => {
    const [clash] = clashesOf([hour(1, 0, 8)], [thing('cobble', 'robots', 9, { broken: 1, out: 1 })]);
    expect(clash!.says).toBe('cobble: class 1 wants 8, 7 are there (1 broken, 1 out).');
  });

  test('three at once are one shortage; two pairs that do not meet are two', () => {
    const stock = [thing('cobble', 'robots', 8)];
    expect(clashesOf([hour(1, 0, 8), hour(2, 0, 8), hour(3, HOUR / 2, 8)], stock)).toHaveLength(1);
    expect(
      clashesOf([hour(1, 0, 8), hour(2, HOUR / 2, 8), hour(3, 1.2 * HOUR, 8)], stock).map(
        ({ hours }) => hours,
      ),
    ).toEqual([
      [1, 2],
      [2, 3],
    ]);
  });

  test('short is exactly when more is wanted than there is at some minute of it, by counting minutes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 1, max: 9 })), {
          maxLength: 7,
        }),
        fc.integer({ min: 0, max: 14 }),
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 0, max: 20 }),
        (rows, count, beforeMin, afterMin) => {
          const stock = thing('cobble', 'robots', count, { beforeMin, afterMin });
          const hours = rows.map(([min, n], i) => hour(i + 1, min * 60_000, n));
          let short = false;
          for (let min = -20; min < 400; min++) {
            const n = rows.reduce(
              (sum, [at, want]) => (at - beforeMin <= min && min < at + 60 + afterMin ? sum + want : sum),
              0,
            );
            if (n > count) short = true;
            expect(wantedAt(hours, stock, min * 60_000)).toBe(n);
          }
          expect(clashesOf(hours, [stock]).length > 0).toBe(short);
        },
      ),
    );
  });

  test('a packing list is sorted by shelf, tells the most at once, and has no rooms on it', () => {
    const things = [
      thing('cobble', 'robots', 20, { shelf: 'B' }),
      thing('quay', 'mat', 2, { shelf: 'A' }),
      thing('lab', 'room', 1),
    ];
    const hours = [
      {
        ...hour(1, 0, 8),
        takes: [
          { thing: 'cobble', count: 8 },
          { thing: 'quay', count: 1 },
          { thing: 'lab', count: 1 },
        ],
      },
      hour(2, 0.5 * HOUR, 6),
      hour(3, 5 * HOUR, 9),
    ];
    expect(
      packingList(hours, things).map(({ thing: { id }, most, hours: by }) => [id, most, by.length]),
    ).toEqual([
      ['quay', 1, 1],
      ['cobble', 14, 3],
    ]);
  });
});

describe('ways out of a clash', () => {
  const lessons = [
    lesson('tide', ['decides']),
    lesson('lanes', ['counts'], ['decides']),
    lesson('quay', ['stops']),
    lesson('dusk', ['decides'], [], 'none'),
  ];
  const things = [thing('cobble', 'robots', 20), thing('tide', 'mat', 1), thing('quay', 'mat', 2)];
  const planned = (id: number, of: number, slug: string, week: number): ChangeableHour => ({
    id,
    class: { id: of, name: `class ${of}` },
    lesson: { slug, title: slug },
    startsAt: week * WEEK,
    minutes: 50,
    fixed: false,
    room: null,
    shared: false,
    takes: takesOf(
      klass(of, 4),
      lessons.find((one) => one.slug === slug)!,
      things,
    ),
  });
  const table = (hours: ChangeableHour[]): Timetable => ({
    hours,
    things,
    classes: [klass(1, 4), klass(2, 4)],
    lessons,
    have: {},
  });
  const day = (at: number) => `week ${at / WEEK}`;

  test('the cheapest is a swap that keeps what comes first; every one is told with its days', () => {
    const here = table([
      planned(1, 1, 'tide', 1),
      planned(2, 1, 'quay', 2),
      planned(3, 1, 'lanes', 3),
      planned(4, 2, 'tide', 1),
    ]);
    const [clash] = clashesOf(here.hours, here.things);
    const ways = waysOut(here, [clash!], day);
    expect(ways[0]).toMatchObject({
      kind: 'swap',
      class: 1,
      left: 0,
      says: 'class 1 has quay on week 1 and tide on week 2.',
    });
    // Lanes needs what tide gives: these two are never swapped.
    expect(ways.some(({ says }) => says.includes('lanes on week 1'))).toBe(false);
    expect(ways.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['other lesson']));
    expect(ways.find(({ kind }) => kind === 'other lesson')!.says).toBe(
      'class 1 has dusk instead of tide on week 1: the same skills.',
    );
    // One mat cannot be halved.
    expect(ways.some(({ kind }) => kind === 'share')).toBe(false);
  });

  test('robots that are too few are shared, two teams to one', () => {
    const few = {
      ...table([planned(1, 1, 'quay', 1), planned(2, 2, 'dusk', 1)]),
      things: [thing('cobble', 'robots', 6)],
    };
    const [clash] = clashesOf(few.hours, few.things);
    expect(waysOut(few, [clash!], day)[0]).toMatchObject({ kind: 'share', left: 0 });
  });

  test('what has begun is not changed; where nothing helps nothing is offered', () => {
    const stuck = table(
      [planned(1, 1, 'tide', 1), planned(4, 2, 'tide', 1)].map((hour) => ({ ...hour, fixed: true })),
    );
    expect(waysOut(stuck, clashesOf(stuck.hours, stuck.things), day)).toEqual([]);
  });

  test('a swap that makes another clash elsewhere is no way out', () => {
    const both = table([
      planned(1, 1, 'tide', 1),
      planned(2, 1, 'quay', 2),
      planned(4, 2, 'tide', 1),
      planned(5, 2, 'tide', 2),
    ]);
    const clash = clashesOf(both.hours, both.things)[0]!;
    for (const way of waysOut(both, [clash], day)) expect(way.left).toBe(0);
  });

  test('lessons out of order are told with what they lack', () => {
    const order = ['lanes', 'tide', 'lanes'].map((slug) => ({ lesson: { slug, title: slug } }));
    expect(outOfOrder(order, lessons, [])).toEqual([{ at: 0, needs: ['decides'] }]);
    expect(outOfOrder(order, lessons, ['decides'])).toEqual([]);
  });
});
