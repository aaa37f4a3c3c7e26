import { Play } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { kitFit, type Lesson } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import type { ClassEntry, NewPeriod } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';

const order = ['fits', 'with a substitute', 'missing'] as const;
const remark = { fits: '', 'with a substitute': ', with a substitute', missing: ', not with this kit' };

/** The first lesson: those that the kit can do come first. */
export function LessonStep({
  klass,
  kit,
  lessons,
}: {
  klass: ClassEntry;
  kit: Kit | undefined;
  lessons: readonly Lesson[];
}) {
  const navigate = useNavigate();
  const graded = lessons
    .map((lesson) => ({ lesson, grade: kit ? kitFit(lesson, kit).grade : ('fits' as const) }))
    .sort((a, b) => order.indexOf(a.grade) - order.indexOf(b.grade));
  const [slug, setSlug] = useState(graded[0]?.lesson.slug ?? '');
  const chosen = graded.find(({ lesson }) => lesson.slug === slug);
  const start = useChange(
    (body: NewPeriod) => api('POST /periods', { body }),
    () => [{ what: 'class', class: klass.id, part: 'period' }],
  );
  if (!chosen) return <p className="text-ink-2">There is no lesson yet: make one under Lessons.</p>;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Labelled label={<>lesson for {klass.name}</>} className="min-w-0">
        <select
          className="input w-80 max-w-full"
          value={slug}
          onChange={(event) => setSlug(event.target.value)}
        >
          {graded.map(({ lesson, grade }) => (
            <option key={lesson.slug} value={lesson.slug}>
              {lesson.title}
              {remark[grade]}
            </option>
          ))}
        </select>
      </Labelled>
      <Button
        main
        icon={Play}
        disabled={start.isPending}
        onClick={() =>
          void start.mutateAsync({ classId: klass.id, lesson: slug, minutes: chosen.lesson.minutes }).then(
            () => navigate('/'),
            () => undefined,
          )
        }
      >
        Start it now, {chosen.lesson.minutes} min
      </Button>
      <p className="basis-full text-ink-2">{chosen.lesson.aim}</p>
      {kit && chosen.grade !== 'fits' ? (
        <p className="basis-full text-brass">{kitFit(chosen.lesson, kit).says}</p>
      ) : null}
    </div>
  );
}
