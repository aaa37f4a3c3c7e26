import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { Course } from '@vigilum/core/course';
import type { Expectation } from '@vigilum/core/expect';
import {
  lessonAt,
  needsOfLesson,
  type Lesson,
  type LessonStep,
  type ReadTask,
  type WorkingKind,
  type WorkingPart,
} from '@vigilum/core/lesson';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { sensorWords } from '@vigilum/core/sensing';
import { wayNames } from '@vigilum/core/threshold';
import { useCourses } from '../courses/queries.ts';
import { ExpectationFields, ExpectationList } from '../lessons/expect/ExpectationList.tsx';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { without } from '../ui/without.ts';
import { ScriptBox } from './ScriptBox.tsx';

type Change = (part: WorkingPart, field: string) => void;

/** A choice between the lesson's own and this step's own. */
function Own({
  what,
  own,
  set,
  children,
}: {
  what: string;
  own: boolean;
  set: (own: boolean) => void;
  children: ReactNode;
}) {
  return (
    <div className="flex flex-col gap-2">
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5 accent-sea"
          checked={own}
          onChange={(event) => set(event.target.checked)}
        />
        This step has {what} of its own
      </label>
      {own ? children : null}
    </div>
  );
}

/** Surfaces of a course with their reflectance, as a read step can ask for them. */
export const surfacesOf = (course: Course): { name: string; reflectance: number }[] => [
  ...new Map(
    [course.base, ...course.marks.map(({ surface }) => surface)].map((surface) => [
      surface.name,
      { name: surface.name, reflectance: surface.reflectance },
    ]),
  ).values(),
];

/** What a team reads before programming: surfaces of the course, each with how. */
export function TasksEditor({
  tasks,
  course,
  change,
}: {
  tasks: readonly ReadTask[];
  course: Course;
  change: (tasks: ReadTask[], field: string) => void;
}) {
  const surfaces = surfacesOf(course);
  const unread = surfaces.filter(({ name }) => !tasks.some(({ surface }) => surface === name));
  return (
    <div className="flex flex-col gap-2">
      {tasks.map((task, i) => (
        <div key={task.surface} className="flex flex-wrap items-center gap-2 border-l-4 border-l-line pl-3">
          <label className="flex min-h-11 items-center gap-2 font-bold">
            <input
              type="checkbox"
              className="size-5 accent-sea"
              checked
              onChange={() =>
                change(
                  tasks.filter((_, j) => j !== i),
                  '',
                )
              }
            />
            {task.surface}
          </label>
          <span className="text-ink-2">reflects {formatNumber(100 * task.reflectance, 0)} %</span>
          <input
            className="input w-full"
            aria-label={`how to read the ${task.surface}`}
            maxLength={300}
            value={task.how}
            onChange={(event) =>
              change(
                tasks.map((other, j) => (j === i ? { ...other, how: event.target.value } : other)),
                `how ${i}`,
              )
            }
          />
        </div>
      ))}
      {unread.map(({ name, reflectance }) => (
        <label key={name} className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-sea"
            checked={false}
            onChange={() => {
              const all = [
                ...tasks,
                {
                  surface: name,
                  reflectance,
                  role: 'light' as const,
                  how: `Put the sensor over the ${name}.`,
                },
              ];
              // The darker of two comes first: thresholds are told as “less than”.
              const dark = Math.min(...all.map((task) => task.reflectance));
              change(
                all
                  .map((task) => ({
                    ...task,
                    role: task.reflectance === dark ? ('dark' as const) : ('light' as const),
                  }))
                  .sort((a, b) => a.reflectance - b.reflectance),
                '',
              );
            }}
          />
          {name} <span className="text-ink-2">reflects {formatNumber(100 * reflectance, 0)} %</span>
        </label>
      ))}
    </div>
  );
}

/** The course of a step or a lesson, chosen among the teacher's own and those of other lessons. */
export function CourseChoice({ course, change }: { course: Course; change: (course: Course) => void }) {
  const courses = useCourses();
  const all = [
    ...(courses.data?.courses ?? []).map(({ id, name, course: own }) => ({
      id: `course-${id}`,
      name,
      course: own,
    })),
    ...(courses.data?.lessons ?? []).map(({ slug, title, course: own }) => ({
      id: slug,
      name: `from the lesson ${title}`,
      course: own,
    })),
  ];
  return (
    <div className="flex flex-col gap-2">
      <label className="flex flex-col">
        <span className="text-ink-2">take the course</span>
        <select
          className="input h-11 w-full"
          value=""
          onChange={(event) => {
            const chosen = all.find(({ id }) => id === event.target.value);
            if (chosen) change(chosen.course);
          }}
        >
          <option value="">now: {course.name}</option>
          {all.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <p>
        <Link className="inline-flex min-h-11 items-center text-sea underline" to="/courses">
          Make or change a course
        </Link>{' '}
        <span className="text-ink-2">by family or by hand; then choose it here.</span>
      </p>
      <MatDrawing
        className="max-h-48 w-full"
        course={course}
        plain
        label={`The course ${course.name}, to scale.`}
      />
    </div>
  );
}

function Expectations({
  list,
  lesson,
  change,
}: {
  list: Expectation[];
  lesson: Lesson;
  change: (list: Expectation[], field: string) => void;
}) {
  const [at, setAt] = useState(0);
  const current = list[at];
  return (
    <div className="flex flex-col gap-3">
      <ExpectationList
        list={list}
        at={at}
        choose={setAt}
        change={(next) => change(next, '')}
        course={lesson.course}
      />
      {current ? (
        <ExpectationFields
          key={`${at} ${current.kind}`}
          expectation={current}
          put={(next) =>
            change(
              list.map((one, i) => (i === at ? next : one)),
              `expectation ${at}`,
            )
          }
          course={lesson.course}
          sockets={(lesson.robot?.build.fittings ?? []).map(({ socket }) => socket)}
        />
      ) : null}
    </div>
  );
}

/** What a working step works with: the lesson's own parts, or some of its own. */
export function PartEditor({
  kind,
  step,
  lesson,
  change,
}: {
  kind: WorkingKind;
  step: LessonStep;
  lesson: Lesson;
  change: Change;
}) {
  const part = step.part ?? {};
  const here = lessonAt(lesson, step);
  const course = (
    <Own
      what="a course"
      own={part.course !== undefined}
      set={(own) => change(own ? { ...part, course: lesson.course } : without(part, 'course'), '')}
    >
      <CourseChoice course={here.course} change={(next) => change({ ...part, course: next }, '')} />
    </Own>
  );
  return (
    <fieldset className="flex flex-col gap-2 rounded-lg border border-line p-3">
      <legend className="px-1 font-bold">What it works with</legend>
      {kind === 'wire' ? (
        <>
          <span className="text-ink-2">sensors to be checked</span>
          {needsOfLesson(lesson).map(({ kind: sensor, socket, name }) => {
            const sockets = part.sockets ?? needsOfLesson(lesson).map((need) => need.socket);
            return (
              <label key={socket} className="flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 accent-sea"
                  checked={sockets.includes(socket)}
                  onChange={(event) =>
                    change(
                      {
                        ...part,
                        sockets: event.target.checked
                          ? [...sockets, socket]
                          : sockets.filter((one) => one !== socket),
                      },
                      '',
                    )
                  }
                />
                {name}: {sensorWords[sensor]} on {socket}
              </label>
            );
          })}
        </>
      ) : null}
      {kind === 'read' || kind === 'decide' ? (
        <Own
          what="surfaces"
          own={part.tasks !== undefined}
          set={(own) => change(own ? { ...part, tasks: lesson.read.tasks } : without(part, 'tasks'), '')}
        >
          <TasksEditor
            tasks={here.read.tasks}
            course={here.course}
            change={(tasks, field) => change({ ...part, tasks }, field)}
          />
        </Own>
      ) : null}
      {kind === 'decide' ? (
        <label className="flex flex-col">
          <span className="text-ink-2">recommend the school of threshold</span>
          <select
            className="input h-11 w-full"
            value={part.school ?? ''}
            onChange={(event) =>
              change(
                event.target.value ? { ...part, school: event.target.value } : without(part, 'school'),
                '',
              )
            }
          >
            <option value="">the one that the readings speak for</option>
            {wayNames.map((way) => (
              <option key={way} value={way}>
                {way}
              </option>
            ))}
          </select>
        </label>
      ) : null}
      {kind === 'script' ? (
        <Own
          what="a starting script"
          own={part.startScript !== undefined}
          set={(own) =>
            change(own ? { ...part, startScript: lesson.startScript } : without(part, 'startScript'), '')
          }
        >
          <ScriptBox
            label="the team starts from"
            lesson={lesson}
            text={here.startScript}
            change={(startScript) => change({ ...part, startScript }, 'start script')}
          />
        </Own>
      ) : null}
      {kind === 'try' || kind === 'prove' ? (
        <>
          {course}
          <Own
            what="expectations"
            own={part.expectations !== undefined}
            set={(own) =>
              change(own ? { ...part, expectations: lesson.expectations } : without(part, 'expectations'), '')
            }
          >
            <Expectations
              list={here.expectations}
              lesson={here}
              change={(expectations, field) => change({ ...part, expectations }, field)}
            />
          </Own>
        </>
      ) : null}
      {kind === 'floor' ? (
        <label className="flex flex-col">
          <span className="text-ink-2">trials on the floor</span>
          <input
            className="input w-24 font-mono"
            inputMode="numeric"
            value={here.floor.trials}
            onChange={(event) => {
              const trials = typedNumber(event.target.value || '0');
              if (Number.isInteger(trials) && trials >= 0 && trials <= 50)
                change({ ...part, trials }, 'trials');
            }}
          />
        </label>
      ) : null}
    </fieldset>
  );
}

export { Expectations as ExpectationsEditor };
