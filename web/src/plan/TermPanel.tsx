import { CalendarPlus, Plus } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { countOf } from '@vigilum/core/quantity';
import { fillFrom, outOfOrder } from '@vigilum/core/year';
import type { NewDayOff, NewMeetings, NewTerm, Term, TermCopy, YearPlan } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useRemoval } from '../data/removal.ts';
import { useChange } from '../data/queries.ts';
import { FileButton } from '../ui/FileButton.tsx';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { arrangementTo, clockOf, planTouched, slotsOf, useArrange } from './usePlan.ts';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** A form that lies folded until it is needed; opened or closed by hand it stays so. */
function Folded({
  title,
  children,
  open: first = false,
}: {
  title: string;
  children: React.ReactNode;
  open?: boolean;
}) {
  const [open, setOpen] = useState(first);
  return (
    <details
      className="border-t border-line-soft pt-1"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="flex min-h-11 cursor-pointer items-center font-bold">{title}</summary>
      <div className="flex flex-col gap-2.5 pb-2">{children}</div>
    </details>
  );
}

function Days({
  from,
  to,
  set,
}: {
  from: string;
  to: string;
  set: (days: { from: string; to: string }) => void;
}) {
  return (
    <div className="flex flex-wrap gap-2">
      <label className="flex flex-col">
        <span className="text-ink-2">first day</span>
        <input
          type="date"
          className="input w-40"
          value={from}
          onChange={(event) => set({ from: event.target.value, to })}
        />
      </label>
      <label className="flex flex-col">
        <span className="text-ink-2">last day</span>
        <input
          type="date"
          className="input w-40"
          value={to}
          onChange={(event) => set({ from, to: event.target.value })}
        />
      </label>
    </div>
  );
}

function TermForm({ made }: { made: (id: number) => void }) {
  const [name, setName] = useState('');
  const [days, setDays] = useState({ from: '', to: '' });
  const save = useChange(
    (body: NewTerm) => api('POST /terms', { body }),
    () => planTouched(),
  );
  const wrong = days.from !== '' && days.to !== '' && days.to < days.from;
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          { name: name.trim(), ...days },
          {
            onSuccess: ({ id }) => {
              made(id);
              setName('');
              setDays({ from: '', to: '' });
              toast.success(`${name.trim()} is there. Say now when each class meets.`);
            },
          },
        );
      }}
    >
      <label className="flex flex-col">
        <span className="text-ink-2">name of the term</span>
        <input
          className="input w-full"
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Days {...days} set={setDays} />
      {wrong ? <p className="text-fault">It ends before it begins.</p> : null}
      <button
        type="submit"
        className="btn btn-primary w-fit"
        disabled={save.isPending || name.trim() === '' || days.from === '' || days.to === '' || wrong}
      >
        <Plus size={18} aria-hidden="true" /> Add the term
      </button>
    </form>
  );
}

interface FormProps {
  plan: YearPlan;
  term: Term;
  /** The class that is being planned: the same in both forms. */
  klass: number;
  setKlass: (klass: number) => void;
}

function MeetingsForm({ plan, term, klass, setKlass }: FormProps) {
  const [weekdays, setWeekdays] = useState<readonly number[]>([]);
  const [at, setAt] = useState('09:50');
  const [minutes, setMinutes] = useState('50');
  const [everyWeeks, setEveryWeeks] = useState(1);
  const [room, setRoom] = useState('');
  const save = useChange(
    (body: NewMeetings) => api('POST /classes/:id/meetings', { id: klass, body }),
    () => planTouched(klass),
  );
  const n = Number(minutes);
  const good = weekdays.length > 0 && at !== '' && Number.isInteger(n) && n >= 5 && n <= 480;
  const rooms = plan.things.filter(({ kind }) => kind === 'room');
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          {
            term: term.id,
            rule: { weekdays: [...weekdays].sort((a, b) => a - b), at, minutes: n, everyWeeks },
            room: room || null,
          },
          {
            onSuccess: ({ ids, off, there }) => {
              const more = [
                off.length > 0 ? `${countOf(off.length, 'day')} off left out` : '',
                there > 0 ? `${there} were there already` : '',
              ].filter((one) => one !== '');
              toast.success(
                `${countOf(ids.length, 'meeting')} laid out${more.length > 0 ? `, ${more.join(', ')}` : ''}.`,
              );
              setWeekdays([]);
            },
          },
        );
      }}
    >
      <label className="flex flex-col">
        <span className="text-ink-2">class</span>
        <select
          className="input w-full"
          value={klass}
          onChange={(event) => setKlass(Number(event.target.value))}
        >
          {plan.classes.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <div role="group" aria-label="Meets on" className="flex flex-wrap gap-1">
        {WEEKDAYS.map((word, i) => {
          const day = i + 1;
          const on = weekdays.includes(day);
          return (
            <button
              key={word}
              type="button"
              aria-pressed={on}
              className={`min-h-11 rounded-lg border px-2 ${on ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`}
              onClick={() => setWeekdays(on ? weekdays.filter((one) => one !== day) : [...weekdays, day])}
            >
              {word}
            </button>
          );
        })}
      </div>
      <div className="flex flex-wrap gap-2">
        <label className="flex flex-col">
          <span className="text-ink-2">begins at</span>
          <input
            type="time"
            className="input w-36"
            value={at}
            onChange={(event) => setAt(event.target.value)}
          />
        </label>
        <label className="flex flex-col">
          <span className="text-ink-2">minutes</span>
          <input
            className="input w-20 font-mono"
            inputMode="numeric"
            value={minutes}
            onChange={(event) => setMinutes(event.target.value)}
          />
        </label>
        <label className="flex flex-col">
          <span className="text-ink-2">every</span>
          <select
            className="input w-28"
            value={everyWeeks}
            onChange={(event) => setEveryWeeks(Number(event.target.value))}
          >
            <option value={1}>week</option>
            <option value={2}>2nd week</option>
          </select>
        </label>
        {rooms.length > 0 ? (
          <label className="flex flex-col">
            <span className="text-ink-2">room</span>
            <select className="input w-40" value={room} onChange={(event) => setRoom(event.target.value)}>
              <option value="">not said</option>
              {rooms.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        ) : null}
      </div>
      <button type="submit" className="btn btn-primary w-fit" disabled={!good || save.isPending}>
        <CalendarPlus size={18} aria-hidden="true" /> Lay out the meetings
      </button>
    </form>
  );
}

function FillForm({ plan, term, klass, setKlass }: FormProps) {
  const { arrange, busy } = useArrange(plan);
  const clock = clockOf(plan.zone);
  const [series, setSeries] = useState(plan.series[0]?.id ?? 0);
  const chosen = plan.series.find(({ id }) => id === series);
  const slots = slotsOf(plan, klass);
  const inTerm = (id: number) => {
    const { startsAt } = plan.meetings.find((one) => one.id === id)!;
    const day = clock.iso(startsAt);
    return term.from <= day && day <= term.to && startsAt >= plan.now;
  };
  const free = slots.filter(
    ({ id, lesson, fixed, lost }) => lesson === null && !fixed && !lost && inTerm(id),
  );
  const first = free[0];
  // Only what is in the term is filled: what is free after it is another term's.
  const mine = new Set(free.map(({ id }) => id));
  const had = plan.hours.filter((hour) => hour.class === klass).map(({ lesson }) => lesson.slug);
  const gives = (slug: string) => plan.lessons.find((one) => one.slug === slug)?.gives ?? [];
  // What the class has had, or has in its plan, is not planned a second time.
  const fresh = (chosen?.lessons ?? []).filter((slug) => !had.includes(slug));
  const again = (chosen?.lessons.length ?? 0) - fresh.length;
  const lacks = outOfOrder(
    fresh.map((slug) => ({ lesson: { slug, title: slug } })),
    plan.lessons,
    had.flatMap(gives),
  );
  return (
    <>
      <div className="flex flex-wrap gap-2">
        <label className="flex min-w-0 flex-1 flex-col">
          <span className="text-ink-2">class</span>
          <select
            className="input w-full"
            value={klass}
            onChange={(event) => setKlass(Number(event.target.value))}
          >
            {plan.classes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex min-w-0 flex-1 flex-col">
          <span className="text-ink-2">series</span>
          <select
            className="input w-full"
            value={series}
            onChange={(event) => setSeries(Number(event.target.value))}
          >
            {plan.series.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {chosen ? (
        <p className="text-ink-2">
          {countOf(fresh.length, 'lesson')} for {countOf(free.length, 'free meeting')} of {term.name}
          {first ? `, from ${clock.day(plan.meetings.find((one) => one.id === first.id)!.startsAt)} on` : ''}.
          {again > 0 ? ` ${again} of the series it has had, or has in its plan.` : ''}
        </p>
      ) : null}
      {chosen && lacks.length > 0 ? (
        <p className="text-brass">
          △ {plan.lessons.find((one) => one.slug === fresh[lacks[0]!.at])?.title} comes after skills that this
          class has not had by then.
        </p>
      ) : null}
      <button
        type="button"
        className="btn btn-primary w-fit"
        disabled={fresh.length === 0 || !first || busy}
        onClick={() => {
          const { slots: filled, over } = fillFrom(
            slots.map((slot) => (mine.has(slot.id) || slot.lesson !== null ? slot : { ...slot, lost: true })),
            first!.id,
            fresh,
          );
          const was = new Map(slots.map((slot) => [slot.id, slot]));
          const titles = over.map((slug) => plan.lessons.find((one) => one.slug === slug)?.title ?? slug);
          arrange(
            klass,
            arrangementTo(
              plan,
              klass,
              { slots: filled.map((slot) => ({ ...slot, lost: was.get(slot.id)!.lost })), over: [] },
              '',
            ),
            over.length === 0
              ? `${chosen!.name} is planned.`
              : `Planned as far as there are meetings. No room for ${titles.join(', ')}.`,
          );
        }}
      >
        Fill the term
      </button>
    </>
  );
}

function DaysOffForm({ plan }: { plan: YearPlan }) {
  const [name, setName] = useState('');
  const [days, setDays] = useState({ from: '', to: '' });
  const [read, setRead] = useState<{ days: NewDayOff[]; skipped: string[] } | null>(null);
  const remove = useRemoval('days-off', 'The day off is removed; its meetings take place.', () =>
    planTouched(),
  );
  const save = useChange(
    (body: { days: NewDayOff[] }) => api('POST /days-off', { body }),
    () => planTouched(),
  );
  const add = (all: NewDayOff[]) =>
    save.mutate(
      { days: all },
      {
        onSuccess: ({ moved, over }) => {
          setName('');
          setRead(null);
          toast.success(
            `${countOf(all.length, 'day off', 'days off')} kept${moved > 0 ? `; ${countOf(moved, 'meeting')} lost, the lessons moved on` : ''}${over.length > 0 ? `; no room any more for ${over.join(', ')}` : ''}.`,
          );
        },
      },
    );
  const take = async (file: File) => {
    try {
      if (file.size > 250_000) throw new Error('The file is larger than 250 kB: export the holidays alone.');
      setRead(await api('POST /days-off/readings', { body: { text: await file.text() } }));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const to = days.to || days.from;
  return (
    <>
      <ul>
        {plan.daysOff.map((one) => (
          <li key={one.id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate">
              {one.name}{' '}
              <span className="text-ink-2">
                {one.from === one.to ? one.from : `${one.from} to ${one.to}`}
              </span>
            </span>
            <RemoveButton title={`Remove ${one.name}, ${one.from}`} onClick={() => void remove(one.id)} />
          </li>
        ))}
      </ul>
      <label className="flex flex-col">
        <span className="text-ink-2">name</span>
        <input
          className="input w-full"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Days {...days} set={setDays} />
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-plain"
          disabled={save.isPending || name.trim() === '' || days.from === '' || to < days.from}
          onClick={() => add([{ name: name.trim(), from: days.from, to }])}
        >
          <Plus size={18} aria-hidden="true" /> Add
        </button>
        <FileButton
          label="Holidays as an iCalendar file"
          accept=".ics,text/calendar"
          take={(file) => void take(file)}
        >
          From a file (.ics)
        </FileButton>
      </div>
      {read ? (
        <div className="flex flex-col gap-1 border-l-4 border-l-sea bg-sea-soft/60 py-2 pl-3">
          <p className="font-bold">{countOf(read.days.length, 'day off', 'days off')} found</p>
          <ul className="max-h-40 overflow-y-auto" tabIndex={0} aria-label="Days off found">
            {read.days.map((one) => (
              <li key={`${one.name} ${one.from}`}>
                {one.name}{' '}
                <span className="text-ink-2">
                  {one.from === one.to ? one.from : `${one.from} to ${one.to}`}
                </span>
              </li>
            ))}
          </ul>
          {read.skipped.length > 0 ? (
            <details>
              <summary className="min-h-11 cursor-pointer py-2">
                {countOf(read.skipped.length, 'event')} left out
              </summary>
              <ul className="text-ink-2">
                {read.skipped.map((says, i) => (
                  <li key={i}>{says}</li>
                ))}
              </ul>
            </details>
          ) : null}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-primary"
              disabled={read.days.length === 0 || save.isPending}
              onClick={() => add(read.days)}
            >
              Take them
            </button>
            <button type="button" className="btn btn-plain" onClick={() => setRead(null)}>
              Leave it
            </button>
          </div>
        </div>
      ) : null}
    </>
  );
}

/** The same term on other days, for the classes that come after: a year is rolled over. */
function CopyForm({ plan, term, made }: { plan: YearPlan; term: Term; made: (id: number) => void }) {
  const [name, setName] = useState('');
  const [from, setFrom] = useState('');
  // Classes that are put away by now had it too: their plan is taken over by those who come after.
  const had = [...new Set(plan.meetings.filter((one) => one.term === term.id).map((one) => one.class))];
  const [to, setTo] = useState<Readonly<Record<number, number>>>({});
  const copy = useChange(
    (body: TermCopy) => api('POST /terms/:id/copies', { id: term.id, body }),
    () => planTouched(),
  );
  const classes = had.flatMap((one) => {
    const next = to[one] ?? one;
    return next === 0 ? [] : [{ from: one, to: next }];
  });
  const nameOf = (id: number) => plan.classes.find((one) => one.id === id)?.name ?? `class ${id}`;
  return (
    <>
      <label className="flex flex-col">
        <span className="text-ink-2">name of the new term</span>
        <input
          className="input w-full"
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="flex flex-col">
        <span className="text-ink-2">its first day</span>
        <input
          type="date"
          className="input w-40"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
        />
      </label>
      {had.map((one) => (
        <label key={one} className="flex flex-col">
          <span className="text-ink-2">the plan of {nameOf(one)} goes to</span>
          <select
            className="input w-full"
            value={to[one] ?? one}
            onChange={(event) => setTo({ ...to, [one]: Number(event.target.value) })}
          >
            <option value={0}>nobody</option>
            {plan.classes.map(({ id, name: word }) => (
              <option key={id} value={id}>
                {word}
              </option>
            ))}
          </select>
        </label>
      ))}
      <button
        type="button"
        className="btn btn-primary w-fit"
        disabled={copy.isPending || name.trim() === '' || from === '' || classes.length === 0}
        onClick={() =>
          copy.mutate(
            { name: name.trim(), from, classes },
            {
              onSuccess: ({ id, meetings, hours, over }) => {
                made(id);
                toast.success(
                  `${name.trim()}: ${countOf(meetings, 'meeting')}, ${countOf(hours, 'lesson')}${over.length > 0 ? `; no room for ${over.join(', ')}` : ''}.`,
                );
              },
            },
          )
        }
      >
        Copy the plan
      </button>
    </>
  );
}

/** Zones that this browser knows; where it does not tell, the school's own. */
const zonesHere = (own: string): string[] => [
  ...new Set([own, ...Intl.supportedValuesOf('timeZone'), 'UTC']),
];

function ZoneForm({ plan }: { plan: YearPlan }) {
  const save = useChange(
    (zone: string) => api('PATCH /plan', { body: { zone } }),
    () => planTouched(),
  );
  return (
    <label className="flex flex-col">
      <span className="text-ink-2">the school’s clock</span>
      <select
        className="input w-full"
        value={plan.zone}
        disabled={save.isPending}
        onChange={(event) => save.mutate(event.target.value)}
      >
        {zonesHere(plan.zone).map((zone) => (
          <option key={zone} value={zone}>
            {zone}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The term that is looked at: its days, its meetings, what fills it, and the days off. */
export function TermPanel({
  plan,
  term,
  choose,
}: {
  plan: YearPlan;
  term: Term | null;
  choose: (id: number) => void;
}) {
  const clock = clockOf(plan.zone);
  const [klass, setKlass] = useState(plan.classes[0]?.id ?? 0);
  const own = term ? plan.meetings.filter((one) => one.term === term.id) : [];
  const free = own.filter(
    (one) =>
      one.lost === null && one.startsAt >= plan.now && !plan.hours.some(({ meeting }) => meeting === one.id),
  ).length;
  const remove = useRemoval('terms', 'The term is removed; its meetings stay.', () => planTouched());
  return (
    <Panel
      className="shrink-0"
      title={term?.name ?? 'No term yet'}
      aside={
        term
          ? `${clock.day(Date.parse(`${term.from}T12:00Z`))} to ${clock.day(Date.parse(`${term.to}T12:00Z`))}`
          : 'the days between two holidays'
      }
    >
      {term ? (
        <p className="mb-1 text-ink-2">
          {countOf(own.length, 'meeting')}, {free} still free.
        </p>
      ) : null}
      {term && plan.classes.length > 0 ? (
        <>
          <Folded
            key={`${term.id} ${own.length > 0}`}
            title="Fill it with a series"
            open={own.length > 0 && free > 0}
          >
            <FillForm plan={plan} term={term} klass={klass} setKlass={setKlass} />
          </Folded>
          <Folded key={term.id} title="When a class meets" open={own.length === 0}>
            <MeetingsForm plan={plan} term={term} klass={klass} setKlass={setKlass} />
          </Folded>
        </>
      ) : null}
      <Folded title="Days off">
        <DaysOffForm plan={plan} />
      </Folded>
      {term && own.length > 0 ? (
        <Folded key={`copy ${term.id}`} title="The same again on other days">
          <CopyForm plan={plan} term={term} made={choose} />
        </Folded>
      ) : null}
      <Folded title="Another term" open={!term}>
        <TermForm made={choose} />
        {term ? (
          <button type="button" className="btn btn-plain w-fit" onClick={() => void remove(term.id)}>
            Remove {term.name}
          </button>
        ) : null}
        <ZoneForm plan={plan} />
      </Folded>
    </Panel>
  );
}
