import { CalendarDays, ChevronLeft, ChevronRight, Download, Printer } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { Labelled } from '../ui/fields.tsx';
import { Button, IconButton, LinkButton } from '../ui/Button.tsx';
import { CheckBox } from '../ui/CheckBox.tsx';
import { Choice } from '../ui/Choice.tsx';
import { ClashPanel } from './ClashPanel.tsx';
import { HourPanel } from './HourPanel.tsx';
import { usePlan } from './PlanLayout.tsx';
import { PrintedPlan } from './PrintedPlan.tsx';
import { TermPanel } from './TermPanel.tsx';
import { clockOf, useArrange, useDerived } from './usePlan.ts';
import { dropped } from './dropping.ts';
import { dayAfter, type Pick } from './entries.ts';
import { YearCalendar, type CalendarView } from './YearCalendar.tsx';

/** The calendar of all classes: what is planned when, what clashes, and what is open. */
export default function CalendarPage() {
  const plan = usePlan();
  const derived = useDerived(plan);
  const { arrange } = useArrange(plan);
  const clock = clockOf(plan.zone);
  const today = clock.iso(plan.now);
  const [view, setView] = useState<CalendarView>('week');
  const [day, setDay] = useState(today);
  const [hidden, setHidden] = useState<ReadonlySet<number>>(new Set());
  const [picked, setPicked] = useState<Pick | null>(null);
  const [termId, setTermId] = useState<number | null>(null);
  const term =
    plan.terms.find(({ id }) => id === termId) ??
    plan.terms.find(({ from, to }) => from <= today && today <= to) ??
    plan.terms.find(({ from }) => from >= today) ??
    plan.terms.at(-1) ??
    null;
  const classes = new Set(plan.classes.map(({ id }) => id).filter((id) => !hidden.has(id)));

  const drop = (meeting: number, to: string): boolean => {
    const done = dropped(plan, meeting, to);
    if ('refused' in done) toast(done.refused);
    else arrange(done.klass, done.body, done.says);
    return !('refused' in done);
  };

  const monday = dayAfter(day, -((new Date(day).getUTCDay() + 6) % 7));
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 print:block" data-part="Calendar">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-2 print:hidden">
        <Choice
          label="View"
          options={['week', 'term']}
          value={view}
          choose={setView}
          words={{ week: 'Week', term: 'Term' }}
        />
        {view === 'week' ? (
          <div className="flex items-center gap-1">
            <IconButton
              icon={ChevronLeft}
              label="The week before"
              onClick={() => setDay(dayAfter(day, -7))}
            />
            <Button icon={CalendarDays} onClick={() => setDay(today)}>
              This week
            </Button>
            <IconButton icon={ChevronRight} label="The week after" onClick={() => setDay(dayAfter(day, 7))} />
            <span className="pl-2 font-bold">
              {clock.day(Date.parse(`${monday}T12:00Z`))} to{' '}
              {clock.day(Date.parse(`${dayAfter(monday, 6)}T12:00Z`))}
            </span>
          </div>
        ) : plan.terms.length > 0 ? (
          <Labelled beside label="term">
            <select
              className="input w-60"
              value={term?.id ?? ''}
              onChange={(event) => setTermId(Number(event.target.value))}
            >
              {plan.terms.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </Labelled>
        ) : (
          <span className="text-ink-2">There is no term yet: make one at the right.</span>
        )}
        <div className="flex flex-wrap gap-x-4" role="group" aria-label="Classes">
          {plan.classes.map(({ id, name }) => (
            <CheckBox
              key={id}
              checked={!hidden.has(id)}
              change={(on) =>
                setHidden((old) => {
                  const next = new Set(old);
                  if (on) next.delete(id);
                  else next.add(id);
                  return next;
                })
              }
            >
              {name}
            </CheckBox>
          ))}
        </div>
        <div className="ml-auto flex gap-2">
          <LinkButton icon={Download} href="/api/calendars/all.ics" download>
            iCalendar
          </LinkButton>
          <Button icon={Printer} onClick={() => window.print()}>
            Print
          </Button>
        </div>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-1 gap-3 lg:grid-cols-[minmax(0,1fr)_23rem] lg:grid-rows-[minmax(0,1fr)]">
        <div className="plan-calendar panel min-h-[34rem] min-w-0 p-2 lg:min-h-0 print:hidden">
          <YearCalendar
            plan={plan}
            derived={derived}
            view={view}
            term={term}
            day={day}
            classes={classes}
            picked={picked}
            pick={setPicked}
            drop={drop}
          />
        </div>
        <aside className="flex min-h-0 min-w-0 flex-col gap-3 lg:overflow-y-auto print:hidden">
          {picked ? (
            <HourPanel
              key={`${picked.meeting} ${picked.hour}`}
              plan={plan}
              derived={derived}
              pick={picked}
              choose={setPicked}
            />
          ) : null}
          <ClashPanel
            plan={plan}
            derived={derived}
            choose={setPicked}
            show={(at) => (setDay(clock.iso(at)), setView('week'))}
          />
          <TermPanel plan={plan} term={term} choose={setTermId} />
        </aside>
      </div>
      <PrintedPlan
        plan={plan}
        classes={classes}
        {...(view === 'term' && term
          ? { from: term.from, to: term.to, title: term.name }
          : {
              from: monday,
              to: dayAfter(monday, 6),
              title: `${clock.day(Date.parse(`${monday}T12:00Z`))} to ${clock.day(Date.parse(`${dayAfter(monday, 6)}T12:00Z`))}`,
            })}
      />
    </div>
  );
}
