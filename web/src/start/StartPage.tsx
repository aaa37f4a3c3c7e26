import { useQuery } from '@tanstack/react-query';
import { CalendarPlus, Play } from 'lucide-react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { Lesson } from '@vigilum/core/lesson';
import { countOf } from '@vigilum/core/quantity';
import type { ClassEntry, NewClass, NewPeriod } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useChange, useClassHours, useLessons } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { CheckBox } from '../ui/CheckBox.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';

const field = 'flex min-w-0 flex-col gap-0.5';

/** Team names as typed: one a line, empty lines left out. */
const teamsOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

function teamsProblem(text: string): string | true {
  const teams = teamsOf(text);
  if (teams.length === 0) return 'At least one team, one name a line.';
  if (teams.length > 20) return `Twenty teams at most; these are ${teams.length}.`;
  const long = teams.find((team) => team.length > 40);
  if (long) return `“${long.slice(0, 20)}…” is longer than 40 letters.`;
  const twice = teams.find((team, i) => teams.findIndex((t) => t.toLowerCase() === team.toLowerCase()) !== i);
  return twice ? `“${twice}” stands twice.` : true;
}

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
        <div className="text-lg font-bold">{entry.name}</div>
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
      <button
        type="button"
        className="btn btn-primary"
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
      </button>
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

interface ClassForm {
  school: string;
  name: string;
  teams: string;
}

function NewClassForm() {
  const save = useChange(
    (body: NewClass) => api('POST /classes', { body }),
    ({ id }) => [{ what: 'class', class: id, part: 'teams' }],
  );
  const { register, handleSubmit, reset, formState } = useForm<ClassForm>({
    defaultValues: { school: '', name: '', teams: '' },
    mode: 'onTouched',
  });
  const { errors } = formState;
  const submit = handleSubmit(({ school, name, teams }) =>
    save.mutateAsync({ school: school.trim(), name: name.trim(), teams: teamsOf(teams) }).then(
      () => reset(),
      () => undefined,
    ),
  );
  const wanted = (what: string) => (text: string) => text.trim() !== '' || what;
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="flex flex-col gap-3">
      <label className={field}>
        <span className="text-ink-2">school</span>
        <input
          className="input w-full"
          maxLength={120}
          autoComplete="off"
          aria-invalid={!!errors.school}
          {...register('school', { validate: wanted('The name of the school.') })}
        />
        {errors.school ? <span className="text-fault">{errors.school.message}</span> : null}
      </label>
      <label className={field}>
        <span className="text-ink-2">class</span>
        <input
          className="input w-full"
          maxLength={80}
          autoComplete="off"
          aria-invalid={!!errors.name}
          {...register('name', { validate: wanted('The name of the class.') })}
        />
        {errors.name ? <span className="text-fault">{errors.name.message}</span> : null}
      </label>
      <label className={field}>
        <span className="text-ink-2">teams, one nickname a line; no student’s name</span>
        <textarea
          className="input h-44 w-full py-2 leading-7"
          aria-invalid={!!errors.teams}
          {...register('teams', { validate: teamsProblem })}
        />
        {errors.teams ? <span className="text-fault">{errors.teams.message}</span> : null}
      </label>
      <p className="text-ink-2">
        Each team gets a robot of the Cobble kit; what is plugged in is checked at Wire.
      </p>
      <div>
        <button type="submit" className="btn btn-primary" disabled={save.isPending}>
          Add the class
        </button>
      </div>
    </form>
  );
}

/** Classes and the start of a period: what a new data folder begins with. */
export default function StartPage() {
  const lessons = useLessons();
  const classes = useQuery({
    queryKey: keys.classes,
    queryFn: () => api('GET /classes'),
  });
  if (lessons.isPending || classes.isPending) return <Loading what="the classes" />;
  if (lessons.isError) return <Failed error={lessons.error} again={() => void lessons.refetch()} />;
  if (classes.isError) return <Failed error={classes.error} again={() => void classes.refetch()} />;
  const list = classes.data.classes;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <h1 className="text-title font-bold">Start a lesson hour</h1>
      <div className="grid grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem]">
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
        </Panel>
        <Panel title="New class">
          <NewClassForm />
        </Panel>
      </div>
    </main>
  );
}
