import FullCalendar from '@fullcalendar/react';
import classicTheme from '@fullcalendar/react/themes/classic';
import dayGrid from '@fullcalendar/react/daygrid';
import interaction from '@fullcalendar/react/interaction';
import list from '@fullcalendar/react/list';
import timeGrid from '@fullcalendar/react/timegrid';
import '@fullcalendar/react/skeleton.css';
import '@fullcalendar/react/themes/classic/theme.css';
import { useMemo, useSyncExternalStore } from 'react';
import type { Term, YearPlan } from '@vigilum/contract/types';
import { clockOf, type Derived } from './usePlan.ts';

const PHONE = '(max-width: 40rem)';

const useNarrow = (): boolean =>
  useSyncExternalStore(
    (heard) => {
      const query = matchMedia(PHONE);
      query.addEventListener('change', heard);
      return () => query.removeEventListener('change', heard);
    },
    () => matchMedia(PHONE).matches,
  );

export type CalendarView = 'week' | 'term';

/** One thing of the calendar: a meeting with or without its lesson, or an hour that was started without a meeting. */
export interface Pick {
  meeting: number | null;
  hour: number | null;
}

interface Entry {
  pick: Pick;
  klass: string;
  says: string;
  state: 'planned' | 'had' | 'free' | 'lost';
  short: boolean;
  time: string;
}

interface Props {
  plan: YearPlan;
  derived: Derived;
  view: CalendarView;
  term: Term | null;
  /** A day of the week that is shown. */
  day: string;
  classes: ReadonlySet<number>;
  picked: Pick | null;
  pick: (pick: Pick) => void;
  /** A lesson was dragged to a day. */
  drop: (meeting: number, day: string) => boolean;
}

const looks: Record<Entry['state'], string> = {
  planned: 'bg-sea-soft text-sea',
  had: 'bg-line-soft text-ink',
  free: 'border-dashed bg-sheet text-ink-2',
  lost: 'bg-sheet text-ink-2 line-through',
};

const weeksBetween = (from: string, to: string): number =>
  Math.ceil((Date.parse(to) - Date.parse(from)) / (7 * 86_400_000)) + 1;

function entriesOf({ plan, derived, classes }: Props) {
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
          short: hour !== undefined && derived.short.has(hour.id),
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
              short: derived.short.has(hour.id),
            }),
          ],
    ),
  ];
}

const dayAfter = (day: string, days = 1): string =>
  new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10);

/** The least hours of a day that are shown. */
const LEAST_HOURS = 8;

/** The hours of the day in which anything is, full hours around it. */
function span(plan: YearPlan): { from: string; to: string } {
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

/** Weeks or a whole term, by the school's clock. A lesson is dragged to another meeting of its class; Enter opens it. */
export function YearCalendar(props: Props) {
  const { plan, view, term, day, pick, picked, drop } = props;
  const entries = useMemo(() => entriesOf(props), [props]);
  const off = plan.daysOff.map(({ id, name, from, to }) => ({
    id: `off-${id}`,
    title: name,
    start: from,
    end: dayAfter(to),
    allDay: true,
    display: 'background' as const,
  }));
  const weekdays = new Set(
    entries.map(({ start }) =>
      new Date(start).toLocaleDateString('en-GB', { timeZone: plan.zone, weekday: 'short' }),
    ),
  );
  const weekends = weekdays.has('Sat') || weekdays.has('Sun');
  const { from, to } = span(plan);
  // Seven columns have no room on a phone.
  const narrow = useNarrow();
  const shown =
    view === 'term' && term
      ? { initialView: narrow ? 'listTerm' : 'term', initialDate: term.from }
      : { initialView: narrow ? 'listWeek' : 'timeGridWeek', initialDate: day };
  return (
    <FullCalendar
      // Where it begins is asked only once.
      key={`${shown.initialView} ${shown.initialDate} ${term?.id} ${term?.to}`}
      plugins={[classicTheme, dayGrid, timeGrid, list, interaction]}
      slotEventOverlap={false}
      {...shown}
      views={{
        term: {
          type: 'dayGrid',
          duration: { weeks: term ? weeksBetween(term.from, term.to) : 1 },
          dateAlignment: 'week',
        },
        listTerm: {
          type: 'list',
          duration: { weeks: term ? weeksBetween(term.from, term.to) : 1 },
          dateAlignment: 'week',
        },
      }}
      timeZone={plan.zone}
      locale="en-GB"
      firstDay={1}
      weekends={weekends}
      headerToolbar={false}
      height="100%"
      expandRows
      eventDisplay="block"
      // An hour over midnight is one of the day on which it begins.
      nextDayThreshold="12:00:00"
      allDaySlot={off.some(({ start, end }) => start <= dayAfter(day, 7) && day <= dayAfter(end, 6))}
      slotMinTime={from}
      slotMaxTime={to}
      slotDuration="00:30:00"
      nowIndicator
      now={new Date(plan.now).toISOString()}
      events={[...entries, ...off]}
      editable
      eventDurationEditable={false}
      eventInteractive
      eventDrop={({ event, revert }) => {
        const { pick: dragged } = (event.extendedProps as { entry: Entry }).entry;
        if (dragged.meeting === null || !drop(dragged.meeting, event.startStr.slice(0, 10))) revert();
        // What it becomes is what the server says: until then it lies where it was.
        else revert();
      }}
      eventClick={({ event }) => {
        const { entry } = event.extendedProps as { entry?: Entry };
        if (entry) pick(entry.pick);
      }}
      eventContent={({ event }) => {
        const { entry } = event.extendedProps as { entry?: Entry };
        if (!entry) return <span className="p-1 text-ink-2">{event.title}</span>;
        const here =
          picked !== null && picked.meeting === entry.pick.meeting && picked.hour === entry.pick.hour;
        return (
          <div
            title={`${entry.time} ${entry.klass}: ${entry.says}`}
            className={`flex h-full min-w-0 flex-col overflow-hidden rounded-md border px-1.5 py-0.5 leading-tight ${looks[entry.state]} ${
              entry.short ? 'border-fault' : here ? 'border-sea ring-2 ring-sea' : 'border-edge'
            }`}
          >
            <span className="truncate text-sm">
              {entry.short ? <b className="text-fault">✕ </b> : null}
              {entry.klass}
            </span>
            <span className="line-clamp-2 text-base font-bold">{entry.says}</span>
          </div>
        );
      }}
    />
  );
}
