import { CalendarPlus, DatabaseBackup, ListChecks, Play } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Lesson } from '@vigilum/core/lesson';
import { countOf } from '@vigilum/core/quantity';
import type { ClassEntry, NewPeriod } from '@vigilum/contract/types';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import {
  useChange,
  useClasses,
  useClassHours,
  useKits,
  useLessons,
  useRobots,
  useSchool,
} from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { NewClassForm } from '../setup/NewClassForm.tsx';
import { CheckBox } from '../ui/CheckBox.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';

const field = 'flex min-w-0 flex-col gap-0.5';

function StartRow({ entry, lessons }: { entry: ClassEntry; lessons: readonly Lesson[] }) {
  const navigate = useNavigate();
  const [slug, setSlug] = useState(lessons[0]?.slug ?? '');
  const lesson = lessons.find((l) => l.slug === slug);
  const [minutes, setMinutes] = useState(String(lesson?.minutes ?? 50));
  const [when, setWhen] = useState('');
  const [anew, setAnew] = useState(false);
  const planned = when === '' ? null : new Date(when).getTime();
  // Where the class had this lesson a little while ago, it may go on or begin with nothing.
  const before = useClassHours(String(entry.id)).data?.hours.find(
    (hour) => hour.lesson.slug === slug && hour.beganAt !== null,
  );
  const start = useChange(
    (body: NewPeriod) => api('POST /periods', { body }),
    (_, { classId }) => [{ what: 'class', class: classId, part: 'period' }],
  );
  const n = Number(minutes);
  const good =
    lesson !== undefined && Number.isInteger(n) && n >= 5 && n <= 480 && !Number.isNaN(planned ?? 0);
  return (
    <li className="flex flex-wrap items-end gap-3 border-t border-line-soft py-3 first:border-t-0">
      <div className="basis-full">
        <Link
          to={`/classes/${entry.id}`}
          className="inline-flex min-h-11 items-center text-lg font-bold text-sea underline"
        >
          {entry.name}
        </Link>
        <div className="text-ink-2">
          {entry.school}, {countOf(entry.teams, 'team')}
        </div>
      </div>
      <label className={field}>
        <span className="text-ink-2">lesson</span>
        <select className="input w-44" value={slug} onChange={(event) => setSlug(event.target.value)}>
          {lessons.map((l) => (
            <option key={l.slug} value={l.slug}>
              {l.title}
            </option>
          ))}
        </select>
      </label>
      <label className={field}>
        <span className="text-ink-2">minutes, 5 to 480</span>
        <input
          className="input w-28 font-mono"
          inputMode="numeric"
          value={minutes}
          aria-invalid={!good}
          onChange={(event) => setMinutes(event.target.value)}
        />
      </label>
      <label className={field}>
        <span className="text-ink-2">on another day (empty: now)</span>
        <input
          type="datetime-local"
          className="input w-56"
          value={when}
          onChange={(event) => setWhen(event.target.value)}
        />
      </label>
      <Button
        main
        disabled={!good || start.isPending}
        onClick={() =>
          start.mutate(
            {
              classId: entry.id,
              lesson: slug,
              minutes: n,
              ...(anew ? { anew } : {}),
              ...(planned === null ? {} : { startsAt: planned }),
            },
            { onSuccess: () => void navigate('/') },
          )
        }
      >
        {planned === null ? (
          <Play size={18} aria-hidden="true" />
        ) : (
          <CalendarPlus size={18} aria-hidden="true" />
        )}
        {planned === null ? 'Start now' : 'Plan it'}
      </Button>
      {before ? (
        <div className="basis-full">
          <CheckBox checked={anew} change={setAnew}>
            begin with nothing; otherwise it goes on where {whenOf(before.startsAt)} left it
          </CheckBox>
        </div>
      ) : null}
    </li>
  );
}

/** Classes of other years: kept, out of the way, and back by a press. */
function PutAway({ classes }: { classes: readonly ClassEntry[] }) {
  const back = useChange(
    (id: number) => api('PATCH /classes/:id', { id, body: { archived: false } }),
    (_, id) => [{ what: 'class', class: id, part: 'teams' }],
  );
  if (classes.length === 0) return null;
  return (
    <details className="border-t border-line-soft pt-2">
      <summary className="flex min-h-11 cursor-pointer items-center text-ink-2">
        Put away: {countOf(classes.length, 'class', 'classes')}
      </summary>
      <ul>
        {classes.map(({ id, name, school }) => (
          <li key={id} className="flex flex-wrap items-center gap-3">
            <Link to={`/classes/${id}`} className="inline-flex min-h-11 items-center underline">
              {name}, {school}
            </Link>
            <Button disabled={back.isPending} onClick={() => back.mutate(id)}>
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Classes and the start of a period: what a new data folder begins with. */
export default function StartPage() {
  const lessons = useLessons();
  const classes = useClasses();
  const school = useSchool();
  const kits = useKits();
  const robots = useRobots();
  const asked = [lessons, classes, school, kits, robots];
  const failed = asked.find(({ isError }) => isError);
  if (failed?.error)
    return <Failed error={failed.error} again={() => asked.forEach((query) => void query.refetch())} />;
  if (!lessons.data || !classes.data || !school.data || !kits.data || !robots.data)
    return <Loading what="the classes" />;
  const list = classes.data.classes.filter(({ archived }) => !archived);
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="mr-auto text-title font-bold">Start a lesson hour</h1>
        <LinkButton icon={DatabaseBackup} to="/data">
          Data and backups
        </LinkButton>
        <LinkButton icon={ListChecks} to="/first-day">
          Set up step by step
        </LinkButton>
      </div>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[minmax(0,1fr)_25rem]">
        <Panel title="Classes" aside={list.length === 0 ? undefined : 'choose a lesson and start'}>
          {list.length === 0 ? (
            <p className="text-ink-2">No class yet. Add one with its teams; then start a lesson with it.</p>
          ) : (
            <ul>
              {list.map((entry) => (
                <StartRow key={entry.id} entry={entry} lessons={lessons.data.lessons} />
              ))}
            </ul>
          )}
          <PutAway classes={classes.data.classes.filter(({ archived }) => archived)} />
        </Panel>
        <Panel title="New class">
          <NewClassForm
            school={school.data.name}
            kits={kits.data.kits.map(({ kit }) => kit)}
            robots={robots.data.robots}
          />
        </Panel>
      </div>
    </main>
  );
}
