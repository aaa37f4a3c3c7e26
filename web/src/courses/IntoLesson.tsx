import { BookOpenCheck } from 'lucide-react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { Course } from '@vigilum/core/course';
import { withCourse } from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';

/** Puts a course that was changed by hand into the lesson it was taken from; a version of the lesson is kept. */
export function IntoLesson({
  slug,
  title,
  course,
  changed,
}: {
  slug: string;
  title: string;
  course: Course;
  changed: boolean;
}) {
  const navigate = useNavigate();
  const keep = useChange(
    async (_: void) => {
      const draft = await api('GET /lessons/:slug/draft', { slug });
      const { lesson, freed } = withCourse(draft.lesson, course);
      await api('PUT /lessons/:slug/draft', { slug, body: { revision: draft.revision, lesson } });
      toast.success(
        `${title} has this course now.${freed ? ' It is the same for every team: the twist lets go of it.' : ''}`,
      );
      await navigate(`/lessons/${slug}/build/answer`);
    },
    () => [{ what: 'lesson', lesson: slug, of: 0 }],
  );
  return (
    <Button
      main
      icon={BookOpenCheck}
      className="px-3"
      disabled={!changed || keep.isPending || course.name.trim() === ''}
      title={`${title} is judged anew on it; its Versions keep the lesson as it was`}
      onClick={() => keep.mutate()}
    >
      Put into the lesson
    </Button>
  );
}
