import { sentence } from '@vigilum/core/expect';
import { measureFacts, measuresOf, stepsOf, thingsToRead } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { sensorWords } from '@vigilum/core/sensing';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useBench } from './LessonLayout.tsx';

/** What a lesson asks: its course to scale, what to read, what is expected, the model answer. */
export default function AboutView() {
  const { lesson } = useBench();
  const { course } = lesson;
  const measures = measuresOf(lesson).map((measure) => measureFacts[measure].tool);
  const rows: [string, string][] = [
    [
      'sensors',
      [lesson.need, ...(lesson.also ?? [])]
        .map(({ kind, socket }) => `${sensorWords[kind]} on ${socket}`)
        .join(', '),
    ],
    ['time', `${lesson.minutes} min`],
    [
      'proof',
      `${lesson.proof.runs} runs; proved when the pass rate is surely above ${formatNumber(100 * lesson.proof.bar, 0)} %`,
    ],
    [
      'on the floor',
      `${lesson.floor.trials} trials by ${[...new Set([...measures, 'stopwatch'])].join(' and ')}`,
    ],
  ];
  const reads = stepsOf(lesson).filter(({ kind }) => kind === 'read');
  return (
    <section className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[minmax(0,1fr)_26rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel scrolls title="The course" aside={lesson.aim}>
        <MatDrawing
          className="max-h-[26rem] w-full shrink-0"
          course={course}
          label={`The mat of ${lesson.title}, to scale.`}
        />
        <p className="mt-2 text-ink-2">
          The mat is {formatNumber(course.heightMm / 10)} cm long and {formatNumber(course.widthMm / 10)} cm
          wide; a square is 10 cm.
        </p>
        {reads.map((step) => (
          <section key={step.id}>
            <h3 className="mt-4 mb-1 font-bold">{step.title || 'Read before programming'}</h3>
            <ul className="flex flex-col gap-1">
              {thingsToRead(lesson, step).map(({ name, how }) => (
                <li key={name}>
                  <strong>{name}</strong> <span className="text-ink-2">{how}</span>
                </li>
              ))}
            </ul>
          </section>
        ))}
        <h3 className="mt-4 mb-1 font-bold">Cautions</h3>
        <ul className="flex flex-col gap-1 text-ink-2">
          {lesson.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      </Panel>
      <Panel scrolls title="What the lesson asks">
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
              {sentence(expectation, course)}
            </li>
          ))}
        </ul>
        <h3 className="mt-4 mb-1 font-bold">Model answer (for the teacher)</h3>
        <pre className="rounded-lg border border-line p-3 font-mono leading-7 whitespace-pre-wrap">
          {lesson.modelScript.trimEnd()}
        </pre>
        {(lesson.faults ?? []).length > 0 ? (
          <>
            <h3 className="mt-4 mb-1 font-bold">Faults to look out for</h3>
            <ul className="flex flex-col gap-1 text-ink-2">
              {lesson.faults!.map(({ name }) => (
                <li key={name}>{name}</li>
              ))}
            </ul>
          </>
        ) : null}
      </Panel>
    </section>
  );
}
