import { Plus } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import {
  inOrder,
  kindsOf,
  lessonMatches,
  lessonOrders,
  type Lesson,
  type LessonOrder,
} from '@vigilum/core/lesson';
import { countOf } from '@vigilum/core/quantity';
import { sensorWords, type SensorKind } from '@vigilum/core/sensing';
import type { LessonFacts } from '@vigilum/contract/types';
import { Button, LinkButton } from '../ui/Button.tsx';
import { ImportLesson } from '../builder/ImportLesson.tsx';
import { useLessons } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

/** Where a lesson comes from; of two of one name also what tells them apart. */
function origin({ shipped, changedAt, slug }: LessonFacts, twin: boolean): string {
  const made = shipped ? (changedAt === null ? 'shipped' : 'shipped, changed here') : 'made here';
  const when = changedAt === null ? '' : `, ${whenOf(changedAt)}`;
  return `${made}${when}${twin ? ` (${slug})` : ''}`;
}

function LessonCard({ lesson, facts, twin }: { lesson: Lesson; facts: LessonFacts; twin: boolean }) {
  const kinds = kindsOf(lesson).map((kind) => sensorWords[kind]);
  return (
    <Link to={`/lessons/${lesson.slug}`} className="panel flex min-w-0 flex-col gap-2 p-4 hover:border-sea">
      <div className="grid h-36 place-items-center overflow-hidden">
        <MatDrawing
          className="max-h-36 max-w-full"
          course={lesson.course}
          plain
          label={`The mat of ${lesson.title}.`}
        />
      </div>
      <h2 className="text-lg leading-tight font-bold">{lesson.title}</h2>
      <p>{lesson.aim}</p>
      <p className="mt-auto text-ink-2">
        {kinds.join(', ')} · {lesson.minutes} min
        {facts.shipped && facts.changedAt === null && !twin ? '' : ` · ${origin(facts, twin)}`}
      </p>
    </Link>
  );
}

const orderWords: Record<LessonOrder, string> = {
  'as they stand': 'in the order of the year',
  title: 'by title',
  minutes: 'shortest first',
  newest: 'changed last first',
};

/** One choice among what the lessons have; the first is all of them. */
function Pick({
  label,
  all,
  value,
  options,
  choose,
}: {
  label: string;
  all: string;
  value: string | null;
  options: readonly (readonly [value: string, word: string])[];
  choose: (value: string | null) => void;
}) {
  return (
    <select
      aria-label={label}
      className="input w-auto max-w-60"
      value={value ?? ''}
      onChange={(event) => choose(event.target.value === '' ? null : event.target.value)}
    >
      <option value="">{all}</option>
      {options.map(([id, word]) => (
        <option key={id} value={id}>
          {word}
        </option>
      ))}
    </select>
  );
}

const sorted = (values: readonly string[]): string[] =>
  [...new Set(values)].sort((a, b) => a.localeCompare(b, 'en'));

/** The lessons on this server: looked through by word, sensor, kit and skill. What was looked for stays in the address. */
export default function LessonsPage() {
  const query = useLessons();
  const [params, setParams] = useSearchParams();
  if (query.isPending) return <Loading what="the lessons" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { lessons, facts } = query.data;
  const set = (name: string, value: string | null) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === null || value === '') next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  const kinds = sorted(lessons.flatMap(kindsOf)) as SensorKind[];
  const order = lessonOrders.find((one) => one === params.get('order')) ?? 'as they stand';
  const search = {
    words: params.get('words') ?? '',
    kind: kinds.find((kind) => kind === params.get('kind')) ?? null,
    kit: params.get('kit'),
    skill: params.get('skill'),
  };
  const factsOf = new Map(facts.map((one) => [one.slug, one]));
  const shown = inOrder(
    lessons.filter((lesson) => lessonMatches(lesson, search)),
    order,
    ({ slug }) => factsOf.get(slug)?.changedAt ?? null,
  );
  const looking = params.size > 0;
  return (
    <main className="flex flex-1 flex-col gap-4 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-3">
        <h1 className="text-title font-bold">Lessons</h1>
        <span className="ml-auto flex flex-wrap gap-2">
          <ImportLesson />
          <LinkButton main icon={Plus} to="/lessons/new">
            New lesson
          </LinkButton>
        </span>
      </header>
      {lessons.length === 0 ? (
        <Empty title="No lesson yet.">
          <p>Make one from an aim and a kit, or import a file.</p>
        </Empty>
      ) : (
        <>
          <div role="search" className="flex flex-wrap items-center gap-2">
            <input
              type="search"
              aria-label="words of title, aim or skill"
              placeholder="title, aim, skill"
              className="input w-56"
              value={search.words}
              onChange={(event) => set('words', event.target.value)}
            />
            <Pick
              label="sensor"
              all="all sensors"
              value={search.kind}
              options={kinds.map((kind) => [kind, sensorWords[kind]])}
              choose={(kind) => set('kind', kind)}
            />
            <Pick
              label="kit"
              all="all kits"
              value={search.kit}
              options={sorted(lessons.flatMap(({ robot }) => robot?.kit ?? [])).map((kit) => [kit, kit])}
              choose={(kit) => set('kit', kit)}
            />
            <Pick
              label="skill"
              all="all skills"
              value={search.skill}
              options={sorted(lessons.flatMap(({ skills }) => skills ?? [])).map((skill) => [skill, skill])}
              choose={(skill) => set('skill', skill)}
            />
            <Pick
              label="order"
              all={orderWords['as they stand']}
              value={order === 'as they stand' ? null : order}
              options={lessonOrders.slice(1).map((one) => [one, orderWords[one]])}
              choose={(one) => set('order', one)}
            />
            <span role="status" className="text-ink-2">
              {looking
                ? `${shown.length} of ${countOf(lessons.length, 'lesson')}`
                : countOf(lessons.length, 'lesson')}
            </span>
          </div>
          {shown.length === 0 ? (
            <Empty title="No lesson has all of that.">
              <Button main onClick={() => setParams({}, { replace: true })}>
                Show all lessons
              </Button>
            </Empty>
          ) : (
            <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4">
              {shown.map((lesson) => (
                <LessonCard
                  key={lesson.slug}
                  lesson={lesson}
                  facts={factsOf.get(lesson.slug) ?? { slug: lesson.slug, shipped: false, changedAt: null }}
                  twin={lessons.some((other) => other !== lesson && other.title === lesson.title)}
                />
              ))}
            </div>
          )}
        </>
      )}
    </main>
  );
}
