import { useState } from 'react';
import type { Course } from '@vigilum/core/course';
import {
  decideWayOf,
  lessonAt,
  needsOfLesson,
  readWayOf,
  sensorAt,
  tasksAt,
  truthsAt,
  wantedGapMm,
  type Lesson,
  type LessonStep,
  type ReadTask,
  type WorkingPart,
} from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { sensorWords } from '@vigilum/core/sensing';
import { methodNames } from '@vigilum/core/threshold';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useTyped } from '../ui/useTyped.ts';
import { without } from '../ui/without.ts';
import { Own } from './Own.tsx';

/** Surfaces of a course with their reflectance, as a read step can ask for them. */
export const surfacesOf = (course: Course): { name: string; reflectance: number }[] => [
  ...new Map(
    [course.base, ...course.marks.map(({ surface }) => surface)].map((surface) => [
      surface.name,
      { name: surface.name, reflectance: surface.reflectance },
    ]),
  ).values(),
];

/** How one of several things is set up to be read. */
function HowField({
  tasks,
  at,
  change,
}: {
  tasks: readonly ReadTask[];
  at: number;
  change: (tasks: ReadTask[], field: string) => void;
}) {
  const { surface, how } = tasks[at]!;
  return (
    <input
      className="input w-full"
      aria-label={`how to read ${surface}`}
      placeholder="how the team sets it up"
      maxLength={300}
      value={how}
      onChange={(event) =>
        change(
          tasks.map((other, i) => (i === at ? { ...other, how: event.target.value } : other)),
          `how ${at}`,
        )
      }
    />
  );
}

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
          {task.reflectance === undefined ? null : (
            <span className="text-ink-2">reflects {formatNumber(100 * task.reflectance, 0)} %</span>
          )}
          <HowField tasks={tasks} at={i} change={change} />
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
                { surface: name, reflectance, how: `Put the sensor over the ${name}.` },
              ].map((task) => ({ ...task, reflectance: task.reflectance ?? 1 }));
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

/** What a sensor that sees no two levels is shown: colours, places, cases, each with how. */
function NamedTasks({
  tasks,
  usual,
  change,
}: {
  tasks: readonly ReadTask[];
  /** Names that the course suggests. */
  usual: readonly string[];
  change: (tasks: ReadTask[], field: string) => void;
}) {
  const [name, setName] = useState('');
  const clean = name.trim();
  const taken = tasks.some(({ surface }) => surface.toLowerCase() === clean.toLowerCase());
  const add = () => {
    if (clean === '' || taken || tasks.length >= 12) return;
    change([...tasks, { surface: clean, how: '' }], '');
    setName('');
  };
  return (
    <div className="flex flex-col gap-2">
      {tasks.map((task, i) => (
        <div key={task.surface} className="flex flex-wrap items-center gap-2 border-l-4 border-l-line pl-3">
          <span className="flex-1 font-bold">{task.surface}</span>
          <RemoveButton
            title={`Do not read ${task.surface}`}
            onClick={() =>
              change(
                tasks.filter((_, j) => j !== i),
                '',
              )
            }
          />
          <HowField tasks={tasks} at={i} change={change} />
        </div>
      ))}
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Labelled label="one more to read" className="min-w-0 flex-1">
          <input
            className="input w-full"
            list="usual-things"
            maxLength={60}
            autoComplete="off"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <datalist id="usual-things">
            {usual.map((thing) => (
              <option key={thing} value={thing} />
            ))}
          </datalist>
        </Labelled>
        <Button type="submit" disabled={clean === '' || taken}>
          Add
        </Button>
      </form>
      {taken ? <p className="text-fault">“{clean}” is in the list already.</p> : null}
    </div>
  );
}

/** Numbers typed with commas between; the last good ones are kept while something cannot be read. */
function Truths({
  label,
  values,
  good,
  change,
}: {
  label: string;
  values: readonly number[];
  good: (value: number) => boolean;
  change: (values: number[]) => void;
}) {
  const read = (text: string): readonly number[] | undefined => {
    const numbers = text
      .split(/[,;\s]+/)
      .filter(Boolean)
      .map(Number);
    return numbers.length > 0 && numbers.length <= 12 && numbers.every(good)
      ? [...new Set(numbers)]
      : undefined;
  };
  const write = (numbers: readonly number[]) => numbers.join(', ');
  const field = useTyped(values, { write, read }, (numbers) => change([...numbers]));
  return (
    <Labelled label={<>{label}, with commas between</>}>
      <input
        className="input w-full font-mono"
        value={field.typed}
        aria-invalid={!field.good}
        onChange={(event) => field.type(event.target.value)}
      />
      {field.good ? null : (
        <span className="text-fault">One to twelve numbers, for example {write(values)}.</span>
      )}
    </Labelled>
  );
}

/** Which sensor a step reads or decides on, and what it is shown. */
export function ReadPart({
  kind,
  step,
  lesson,
  change,
}: {
  kind: 'read' | 'decide';
  step: LessonStep;
  lesson: Lesson;
  change: (part: WorkingPart, field: string) => void;
}) {
  const part = step.part ?? {};
  const needs = needsOfLesson(lesson);
  const need = sensorAt(lesson, step);
  const here = lessonAt(lesson, step);
  const way = readWayOf(need.kind);
  const decides = decideWayOf(need.kind);
  const gap = wantedGapMm(lesson);
  const surfaces = surfacesOf(here.course).map(({ name }) => name);
  return (
    <>
      <Labelled label={kind === 'read' ? 'reads with' : 'decides for'}>
        <select
          className="input h-11 w-full"
          value={need.socket}
          onChange={(event) => {
            const kept = without(without(without(part, 'socket'), 'tasks'), 'at');
            const first = event.target.value === lesson.need.socket;
            change(first ? kept : { ...kept, socket: event.target.value }, '');
          }}
        >
          {needs.map(({ name, kind: sensor, socket }) => (
            <option key={socket} value={socket}>
              {name}: {sensorWords[sensor]} on {socket}
            </option>
          ))}
        </select>
      </Labelled>
      {kind === 'decide' && decides !== 'two surfaces' ? (
        <p className="text-ink-2">
          {decides === null
            ? `A ${sensorWords[need.kind]} sensor needs no threshold: the script compares with something that is known.`
            : gap === null
              ? 'From the wanted gap, the speed and the way that stopping takes. The lesson has no expectation “ends with gap”, so the team types the gap.'
              : `From the gap of ${formatNumber(gap)} mm that the lesson expects, the speed, and the way that stopping takes.`}
        </p>
      ) : way === 'surfaces' && need.kind === 'light' ? (
        <Own
          what="surfaces"
          own={part.tasks !== undefined}
          set={(own) => change(own ? { ...part, tasks: tasksAt(lesson, step) } : without(part, 'tasks'), '')}
        >
          <TasksEditor
            tasks={here.read.tasks}
            course={here.course}
            change={(tasks, field) => change({ ...part, tasks }, field)}
          />
        </Own>
      ) : way === 'surfaces' ? (
        <NamedTasks
          tasks={here.read.tasks}
          usual={surfaces}
          change={(tasks, field) => change({ ...part, tasks }, field)}
        />
      ) : way === 'presses' ? (
        <p className="text-ink-2">The team presses and lets go three times, and sees what counts.</p>
      ) : way !== null ? (
        <Truths
          key={`${step.id} ${need.socket}`}
          label={way === 'ruler' ? 'distances by ruler, mm' : 'turns, degrees to the right'}
          values={truthsAt(lesson, step)}
          good={(value) =>
            way === 'ruler' ? value > 0 && value <= 10_000 : value !== 0 && Math.abs(value) <= 3600
          }
          change={(at) => change({ ...part, at }, 'true values')}
        />
      ) : null}
      {kind === 'decide' && decides === 'two surfaces' ? (
        <Labelled label="recommend the method of threshold">
          <select
            className="input h-11 w-full"
            value={part.method ?? ''}
            onChange={(event) =>
              change(
                event.target.value ? { ...part, method: event.target.value } : without(part, 'method'),
                '',
              )
            }
          >
            <option value="">the one that the readings speak for</option>
            {methodNames.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
      ) : null}
    </>
  );
}
