import { useState } from 'react';
import { Link } from 'react-router';
import type { Course } from '@vigilum/core/course';
import type { Expectation } from '@vigilum/core/expect';
import {
  lessonAt,
  needsOfLesson,
  type Lesson,
  type LessonStep,
  type WorkingKind,
  type WorkingPart,
} from '@vigilum/core/lesson';
import { typedNumber } from '@vigilum/core/quantity';
import { sensorWords } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { useCourses } from '../courses/queries.ts';
import { ExpectationFields, ExpectationList } from '../expect/ExpectationList.tsx';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { without } from '../ui/without.ts';
import { Own } from './Own.tsx';
import { ReadPart } from './ReadPart.tsx';
import { ScriptBox } from './ScriptBox.tsx';

/** The course of a step or a lesson, chosen among the teacher's own and those of other lessons. */
export function CourseChoice({
  course,
  change,
  lesson,
}: {
  course: Course;
  change: (course: Course) => void;
  /** Slug of the lesson whose own course it is: then it can be changed by hand and put back. */
  lesson?: string;
}) {
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
      <Labelled label="take the course">
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
      </Labelled>
      <p>
        {lesson ? (
          <>
            <Link
              className="inline-flex min-h-11 items-center text-sea underline"
              to={`/courses/lesson/${lesson}`}
            >
              Change this course by hand
            </Link>{' '}
            <span className="text-ink-2">starts, lines, boxes, walls; or</span>{' '}
          </>
        ) : null}
        <Link className="inline-flex min-h-11 items-center text-sea underline" to="/courses">
          {lesson ? 'make another' : 'Make or change a course'}
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
  change: (part: WorkingPart, field: string) => void;
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
        <ReadPart kind={kind} step={step} lesson={lesson} change={change} />
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
        <Labelled label="trials on the floor">
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
        </Labelled>
      ) : null}
    </fieldset>
  );
}

export { Expectations as ExpectationsEditor };
