import { useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { buildCourse, courseFamilies, type Course } from '@vigilum/core/course';
import { formatNumber } from '@vigilum/core/quantity';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { useRemoval } from '../data/removal.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { readCourseFile } from './importFile.ts';
import type { StoredCourse } from '@vigilum/contract/types';
import { useCourses } from './queries.ts';

const sizeOf = ({ widthMm, heightMm }: Course) =>
  `${formatNumber(widthMm / 10, 0)} × ${formatNumber(heightMm / 10, 0)} cm`;

function Card({ to, course, title, says }: { to: string; course: Course; title: string; says: string }) {
  return (
    <Link to={to} className="panel flex min-w-0 flex-col gap-1.5 p-4 hover:border-sea">
      <div className="grid h-32 place-items-center overflow-hidden">
        <MatDrawing className="max-h-32 max-w-full" course={course} plain label={`The course ${title}.`} />
      </div>
      <h3 className="text-lg leading-tight font-bold">{title}</h3>
      <p className="text-ink-2">{says}</p>
    </Link>
  );
}

function Own({ stored }: { stored: StoredCourse }) {
  const take = useRemoval('courses', `Course ${stored.name} removed.`, (id) => [
    { what: 'course', course: Number(id) },
  ]);
  return (
    <div className="relative grid min-w-0">
      <Card
        to={`/courses/${stored.id}`}
        course={stored.course}
        title={stored.name}
        says={sizeOf(stored.course)}
      />
      <RemoveButton
        className="absolute right-2 bottom-2"
        title={`Remove the course ${stored.name}`}
        onClick={() => void take(stored.id)}
      />
    </div>
  );
}

const grid = 'grid gap-4 sm:grid-cols-2 lg:grid-cols-4';

/** Courses: the teacher's own, families to make one from, and those of the lessons. */
export default function CoursesPage() {
  const query = useCourses();
  const navigate = useNavigate();
  const client = useQueryClient();
  if (query.isPending) return <Loading what="the courses" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { courses, lessons } = query.data;
  const take = async (file: File) => {
    try {
      const { course, problems } = await readCourseFile(file);
      const { id } = await api('POST /courses', { body: { course } });
      await client.invalidateQueries({ queryKey: keys.courses });
      problems.slice(0, 4).forEach((says) => toast(says));
      await navigate(`/courses/${id}`);
    } catch (error) {
      toast.error(error instanceof Error && error.message ? error.message : sentenceOf(error));
    }
  };
  return (
    <main className="flex flex-1 flex-col gap-4 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-3">
        <h1 className="text-title font-bold">Courses</h1>
        <span className="ml-auto">
          <FileButton
            label="Course file"
            accept=".json,.svg,application/json,image/svg+xml"
            take={(file) => void take(file)}
          >
            Import JSON or SVG
          </FileButton>
        </span>
      </header>
      {courses.length > 0 ? (
        <section>
          <h2 className="mb-2 text-lg font-bold">Your own</h2>
          <div className={grid}>
            {courses.map((stored) => (
              <Own key={stored.id} stored={stored} />
            ))}
          </div>
        </section>
      ) : null}
      <section>
        <h2 className="mb-2 text-lg font-bold">Make one</h2>
        <div className={grid}>
          {courseFamilies.map((family) => (
            <Card
              key={family.id}
              to={`/courses/new/${family.id}`}
              course={buildCourse(family)}
              title={family.name}
              says={family.says}
            />
          ))}
        </div>
      </section>
      <section>
        <h2 className="mb-2 text-lg font-bold">Of the lessons</h2>
        <div className={grid}>
          {lessons.map(({ slug, title, course }) => (
            <Card
              key={slug}
              to={`/courses/lesson/${slug}`}
              course={course}
              title={title}
              says={sizeOf(course)}
            />
          ))}
        </div>
      </section>
    </main>
  );
}
