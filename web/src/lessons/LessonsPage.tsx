import { sentence } from '@vigilum/core/expect';
import type { Lesson } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { sensorWords } from '@vigilum/core/sensing';
import { useLessons } from '../data/queries.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

function LessonSheet({ lesson }: { lesson: Lesson }) {
  const rows: [string, string][] = [
    ['sensor', `${sensorWords[lesson.need.kind]}, on ${lesson.need.socket}`],
    ['read first', lesson.read.tasks.map((task) => task.surface).join(', ')],
    ['time', `${lesson.minutes} min`],
    [
      'proof',
      `${lesson.proof.runs} runs; proved when the pass rate is surely above ${formatNumber(100 * lesson.proof.bar, 0)} %`,
    ],
    ['on the floor', `${lesson.floor.trials} trials by ruler`],
  ];
  return (
    <section className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <Panel title={lesson.title} aside={lesson.aim}>
        <MatDrawing
          className="max-h-[30rem] w-full"
          course={lesson.course}
          label={`The mat of ${lesson.title}, to scale.`}
        />
        <p className="mt-2 text-ink-2">
          The mat is {formatNumber(lesson.course.heightMm / 10)} cm long and{' '}
          {formatNumber(lesson.course.widthMm / 10)} cm wide; a square is 10 cm.
        </p>
        <h3 className="mt-4 mb-1 font-bold">Read before programming, {lesson.read.burst} looks each</h3>
        <ul className="flex flex-col gap-1">
          {lesson.read.tasks.map((task) => (
            <li key={task.surface}>
              <strong>{task.surface}</strong> <span className="text-ink-2">{task.how}</span>
            </li>
          ))}
        </ul>
        <h3 className="mt-4 mb-1 font-bold">Cautions</h3>
        <ul className="flex flex-col gap-1 text-ink-2">
          {lesson.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      </Panel>
      <Panel title="What the lesson asks">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
          {rows.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink-2">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
        <h3 className="mt-4 mb-1 font-bold">The robot is expected to</h3>
        <ul className="flex flex-col gap-1">
          {lesson.expectations.map((expectation, i) => (
            <li key={i} className="border-l-4 border-l-signal pl-3">
              {sentence(expectation, lesson.course)}
            </li>
          ))}
        </ul>
        <h3 className="mt-4 mb-1 font-bold">Model answer (for the teacher)</h3>
        <pre className="rounded-lg border border-line p-3 font-mono leading-7">
          {lesson.modelScript.trimEnd()}
        </pre>
      </Panel>
    </section>
  );
}

/** The lessons on this server: course to scale, needs, expectations, model answer. */
export default function LessonsPage() {
  const lessons = useLessons();
  if (lessons.isPending) return <Loading what="the lessons" />;
  if (lessons.isError) return <Failed error={lessons.error} again={() => void lessons.refetch()} />;
  return (
    <main className="flex flex-1 flex-col gap-5 px-6 py-3.5 max-sm:px-3">
      <h1 className="text-title font-bold">Lessons</h1>
      {lessons.data.lessons.length === 0 ? (
        <Empty title="No lesson yet.">
          <p>
            This data folder holds no lesson. Start <code className="font-mono">npm run demo</code> to see
            one.
          </p>
        </Empty>
      ) : (
        lessons.data.lessons.map((lesson) => <LessonSheet key={lesson.slug} lesson={lesson} />)
      )}
    </main>
  );
}
