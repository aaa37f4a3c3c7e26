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
import { daysOffOf, entriesOf, isNear, span, weeksBetween, type Entry, type Pick } from './entries.ts';
import type { Derived } from './usePlan.ts';

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

/** Weeks or a whole term, by the school's clock. A lesson is dragged to another meeting of its class; Enter opens it. */
export function YearCalendar(props: Props) {
  const { plan, view, term, day, pick, picked, drop } = props;
  const { derived, classes } = props;
  const entries = useMemo(() => entriesOf(plan, derived.short, classes), [plan, derived, classes]);
  const off = daysOffOf(plan);
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
      allDaySlot={off.some(isNear(day))}
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
