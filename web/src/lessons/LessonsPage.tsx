import { Plus } from 'lucide-react';
import { Link } from 'react-router';
import type { Lesson } from '@vigilum/core/lesson';
import { sensorWords } from '@vigilum/core/sensing';
import { ImportLesson } from '../builder/ImportLesson.tsx';
import { useLessons } from '../data/queries.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

function LessonCard({ lesson }: { lesson: Lesson }) {
  const kinds = [lesson.need, ...(lesson.also ?? [])].map(({ kind }) => sensorWords[kind]);
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
        {[...new Set(kinds)].join(', ')} · {lesson.minutes} min
      </p>
    </Link>
  );
}

/** The lessons on this server, in their order. */
export default function LessonsPage() {
  const lessons = useLessons();
  if (lessons.isPending) return <Loading what="the lessons" />;
  if (lessons.isError) return <Failed error={lessons.error} again={() => void lessons.refetch()} />;
  return (
    <main className="flex flex-1 flex-col gap-4 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-3">
        <h1 className="text-title font-bold">Lessons</h1>
        <span className="ml-auto flex flex-wrap gap-2">
          <ImportLesson />
          <Link className="btn btn-primary" to="/lessons/new">
            <Plus size={18} aria-hidden="true" /> New lesson
          </Link>
        </span>
      </header>
      {lessons.data.lessons.length === 0 ? (
        <Empty title="No lesson yet.">
          <p>Make one from an aim and a kit, or import a file.</p>
        </Empty>
      ) : (
        <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4">
          {lessons.data.lessons.map((lesson) => (
            <LessonCard key={lesson.slug} lesson={lesson} />
          ))}
        </div>
      )}
    </main>
  );
}
