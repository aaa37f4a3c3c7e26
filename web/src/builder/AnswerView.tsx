import { Play } from 'lucide-react';
import { needsOfLesson, withCourse } from '@vigilum/core/lesson';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import { useTyped } from '../ui/useTyped.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { Panel } from '../ui/Panel.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { useBuilder } from './BuilderLayout.tsx';
import { CourseChoice, ExpectationsEditor } from './PartEditor.tsx';
import { TasksEditor } from './ReadPart.tsx';
import { RobotEditor } from './RobotEditor.tsx';
import { ScriptBox } from './ScriptBox.tsx';

/** What the word `threshold` stands for on a socket, as typed; empty for none. */
function Threshold({
  socket,
  value,
  change,
}: {
  socket: string;
  value: number | null;
  change: (value: number | null) => void;
}) {
  const read = (text: string): number | null | undefined => {
    if (text.trim() === '') return null;
    const number = typedNumber(text);
    return Number.isFinite(number) ? number : undefined;
  };
  const write = (number: number | null) => (number === null ? '' : formatNumber(number, 3));
  const { typed, good, type } = useTyped(value, { write, read }, change);
  return (
    <NumberField
      label={`threshold on ${socket}`}
      value={typed}
      good={good}
      wrong="A number."
      className="w-28"
      change={type}
    />
  );
}

/** The model answer and all that it is judged by: course, readings, expectations, and the verdict. */
export default function AnswerView() {
  const { lesson, change, model, prove, saving, draft } = useBuilder();
  // A word for “threshold” makes sense where a number is compared.
  const sensorsWithThreshold = lesson.robot
    ? needsOfLesson(lesson).filter(({ kind }) => !['touch', 'colour', 'rgb'].includes(kind))
    : [];
  const tone = model.state === 'proved' ? 'done' : model.state === 'not proved' ? 'fault' : 'now';
  const { proof } = model;
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="The model answer"
        footer={
          <Button
            main
            icon={Play}
            disabled={model.busy || saving.phase !== 'idle'}
            onClick={() => void prove()}
          >
            {model.busy ? 'Proving …' : `Prove it with ${lesson.proof.runs} runs`}
          </Button>
        }
      >
        <div className="flex flex-col gap-3">
          <div className="flex items-start gap-2" role="status">
            <VerdictMark tone={tone} />
            <p>
              <strong>
                {model.busy
                  ? 'Being judged …'
                  : model.state === 'proved'
                    ? 'Proved.'
                    : model.state === 'not proved'
                      ? 'It does not pass.'
                      : 'Never proved as it stands.'}
              </strong>{' '}
              {proof
                ? `${proof.passes} of ${proof.runs} runs pass; the true rate is likely between ${formatNumber(100 * proof.low, 0)} and ${formatNumber(100 * proof.high, 0)} %.`
                : ''}
              {model.says ? <span className="text-fault"> {model.says}</span> : null}
            </p>
          </div>
          {proof && model.state === 'not proved' ? (
            <ul className="flex flex-col gap-1">
              {proof.each
                .filter(({ passes }) => passes < proof.runs)
                .map(({ worstSays, passes }, i) => (
                  <li key={i} className="border-l-4 border-l-fault pl-3">
                    {passes} of {proof.runs}: {worstSays}
                  </li>
                ))}
            </ul>
          ) : null}
          <ScriptBox
            label="model answer (only the teacher sees it)"
            lesson={lesson}
            text={lesson.modelScript}
            change={(modelScript) => change({ ...lesson, modelScript }, 'model')}
          />
          <ScriptBox
            label="what a team starts from"
            lesson={lesson}
            text={lesson.startScript}
            change={(startScript) => change({ ...lesson, startScript }, 'start')}
          />
          <div className="flex flex-wrap items-end gap-3">
            {sensorsWithThreshold.map(({ socket }) => (
              <Threshold
                key={socket}
                socket={socket}
                value={lesson.robot?.thresholds[socket] ?? null}
                change={(next) => {
                  if (!lesson.robot) return;
                  const thresholds = { ...lesson.robot.thresholds };
                  if (next === null) delete thresholds[socket];
                  else thresholds[socket] = next;
                  change({ ...lesson, robot: { ...lesson.robot, thresholds } }, `threshold ${socket}`);
                }}
              />
            ))}
          </div>
          <section>
            <h3 className="mb-1 font-bold">Sensors and robot</h3>
            <RobotEditor lesson={lesson} kits={draft.kits} change={change} />
          </section>
        </div>
      </Panel>
      <Panel title="What it is judged by">
        <div className="flex flex-col gap-4">
          <section>
            <h3 className="mb-1 font-bold">The course</h3>
            {lesson.twist?.family ? (
              <p className="text-ink-2">
                The twist makes it anew for each team; another course would be the same for all.
              </p>
            ) : null}
            <CourseChoice
              course={lesson.course}
              lesson={lesson.slug}
              change={(course) => change(withCourse(lesson, course).lesson)}
            />
          </section>
          <section>
            <h3 className="mb-1 font-bold">The robot is expected to</h3>
            <ExpectationsEditor
              list={lesson.expectations}
              lesson={lesson}
              change={(expectations, field) => change({ ...lesson, expectations }, field)}
            />
          </section>
          <section>
            <h3 className="mb-1 font-bold">Surfaces to read before programming</h3>
            <TasksEditor
              tasks={lesson.read.tasks}
              course={lesson.course}
              change={(tasks, field) => change({ ...lesson, read: { ...lesson.read, tasks } }, field)}
            />
          </section>
        </div>
      </Panel>
    </div>
  );
}
