import { describe, expect, it } from '@jest/globals';
import { dropped } from './dropping.ts';
import { daysOffOf, entriesOf, isNear, span, weeksBetween } from './entries.ts';
import { at, hourOf, meetingOf, planOf } from './test/planOf.ts';
import { clockOf, freeOf, slotsOf } from './usePlan.ts';

const plan = planOf({
  classes: [
    { id: 1, name: '7 Auk', teams: 4, robots: [], kits: ['cobble'] },
    { id: 2, name: '8 Tern', teams: 4, robots: [], kits: ['cobble'] },
  ],
  meetings: [
    meetingOf(10, at(-6)),
    meetingOf(11, at(1)),
    meetingOf(12, at(8)),
    meetingOf(13, at(15), { lost: 'Storm' }),
    meetingOf(14, at(22)),
    meetingOf(20, at(2), { class: 2 }),
  ],
  hours: [
    hourOf(3, 10, at(-6), { open: false }),
    hourOf(4, 11, at(1)),
    hourOf(5, null, at(4), { lesson: { slug: 'lanes', title: 'Count the lanes' }, open: false }),
    hourOf(6, 20, at(2), { class: 2 }),
  ],
});
const entry = (found: ReturnType<typeof entriesOf>, id: string) => found.find((one) => one.id === id)!;

describe('what the calendar shows', () => {
  const found = entriesOf(plan, new Set([4]), new Set([1]));
  it('shows the meetings and hours of the classes that are ticked', () => {
    expect(found.map(({ id }) => id)).toEqual([
      'meeting-10',
      'meeting-11',
      'meeting-12',
      'meeting-13',
      'meeting-14',
      'hour-5',
    ]);
    expect(entriesOf(plan, new Set(), new Set([2])).map(({ title }) => title)).toEqual(['8 Tern: Tide line']);
  });

  it('shows each from its start to its end, by the school’s clock', () => {
    const { start, end, extendedProps } = entry(found, 'meeting-11');
    expect([start, end]).toEqual(['2026-11-24T09:00:00.000Z', '2026-11-24T09:50:00.000Z']);
    expect(extendedProps.entry.time).toBe('10:00');
  });

  it('lets you drag only lessons that haven’t started', () => {
    expect(found.filter(({ startEditable }) => startEditable).map(({ id }) => id)).toEqual(['meeting-11']);
  });

  it('says what state each is in, and which clash', () => {
    expect(
      found.map(
        ({
          extendedProps: {
            entry: { state, says, short },
          },
        }) => [state, says, short],
      ),
    ).toEqual([
      ['had', 'Tide line', false],
      ['planned', 'Tide line', true],
      ['free', 'free', false],
      ['lost', 'Storm', false],
      ['free', 'free', false],
      ['had', 'Count the lanes', false],
    ]);
  });

  it('draws days off to the end of their last day', () => {
    const [off] = daysOffOf(
      planOf({ daysOff: [{ id: 1, name: 'Autumn break', from: '2026-11-23', to: '2026-11-24' }] }),
    );
    expect(off).toMatchObject({
      title: 'Autumn break',
      start: '2026-11-23',
      end: '2026-11-25',
      allDay: true,
    });
    expect(
      ['2026-11-15', '2026-11-16', '2026-11-24', '2026-12-01', '2026-12-02'].map((day) => isNear(day)(off!)),
    ).toEqual([false, true, true, true, false]);
  });

  it('counts weeks to the end of a term', () => {
    expect([weeksBetween('2026-11-02', '2026-11-02'), weeksBetween('2026-11-02', '2026-11-09')]).toEqual([
      1, 2,
    ]);
    expect(weeksBetween('2026-11-02', '2026-12-18')).toBe(8);
  });

  it('shows at least eight hours of a day, and all that lie in it', () => {
    const of = (...meetings: [start: number, minutes: number][]) =>
      span(
        planOf({ meetings: meetings.map(([startsAt, minutes], i) => meetingOf(i, startsAt, { minutes })) }),
      );
    expect(of()).toEqual({ from: '08:00:00', to: '16:00:00' });
    expect(of([at(0, 9), 50])).toEqual({ from: '10:00:00', to: '18:00:00' });
    // 07:00 to 19:30 by the school's clock.
    expect(of([at(0, 6), 50], [at(0, 18), 30])).toEqual({ from: '07:00:00', to: '20:00:00' });
    // Past midnight: the eight hours begin earlier.
    expect(of([at(0, 22), 90])).toEqual({ from: '16:00:00', to: '24:00:00' });
  });
});

describe('what follows from the plan', () => {
  it('knows which meetings hold what, and which are free from now on', () => {
    expect(slotsOf(plan, 1)).toEqual([
      { id: 10, holds: { hour: 3 }, fixed: true, lost: false },
      { id: 11, holds: { hour: 4 }, fixed: false, lost: false },
      { id: 12, holds: null, fixed: false, lost: false },
      { id: 13, holds: null, fixed: false, lost: true },
      { id: 14, holds: null, fixed: false, lost: false },
    ]);
    expect(freeOf(plan, 1).map(({ id }) => id)).toEqual([12, 14]);
    expect(freeOf({ ...plan, now: at(8) + 1 }, 1).map(({ id }) => id)).toEqual([14]);
    expect(freeOf({ ...plan, now: at(8) }, 1).map(({ id }) => id)).toEqual([12, 14]);
    expect(freeOf(plan, 2)).toEqual([]);
  });

  it('tells days and times by the clock of the school', () => {
    const clock = clockOf('Europe/Oslo');
    const late = Date.parse('2026-11-23T23:30Z');
    expect([clock.day(late), clock.time(late), clock.iso(late)]).toEqual([
      'Tue 24 Nov',
      '00:30',
      '2026-11-24',
    ]);
  });
});

describe('a lesson dropped on a day', () => {
  it('goes to the meeting of its class on that day', () => {
    const done = dropped(plan, 11, '2026-12-01');
    expect(done).toMatchObject({
      klass: 1,
      says: 'Moved to Tue 1 Dec; what lies between has followed.',
      body: { hours: [{ what: { hour: 4 }, meeting: 12 }] },
    });
  });

  it('is refused where its class does not meet, where the meeting is lost, on its own day, and once it has begun', () => {
    const refused = (meeting: number, day: string) =>
      (dropped(plan, meeting, day) as { refused: string }).refused;
    // The other class meets then.
    expect(refused(11, '2026-11-25')).toBe(
      '7 Auk does not meet on Wed 25 Nov. Drop a lesson on a day on which it does.',
    );
    expect(refused(11, '2026-12-08')).toContain('does not meet on Tue 8 Dec');
    expect(refused(11, '2026-11-24')).toContain('does not meet on Tue 24 Nov');
    expect(refused(10, '2026-12-01')).toBe('An hour that has begun stays where it is.');
    expect(refused(11, '2026-11-17')).toBe('An hour that has begun stays where it is.');
  });
});
