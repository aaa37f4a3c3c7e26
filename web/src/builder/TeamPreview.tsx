import { sentence } from '@vigilum/core/expect';
import { isWorking, needsOfLesson, thingsToRead, type Lesson, type LessonStep } from '@vigilum/core/lesson';
import { sensorWords, type Kit } from '@vigilum/core/sensing';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { StepText } from '../workspace/StepText.tsx';

const what: Record<string, string> = {
  wire: 'Below stands the wiring of the team’s own robot, with what each sensor says.',
  read: 'Below the team takes its readings.',
  decide: 'Below the team turns its readings into a threshold.',
  script: 'Below the team writes its script.',
  try: 'Below the team predicts, runs and watches.',
  prove: 'Below the team proves its script.',
  floor: 'Below the team logs its trials.',
};

/** A step as a team sees it: its text, and what its working part is about. */
export function TeamPreview({
  lesson,
  step,
  kits,
}: {
  lesson: Lesson;
  step: LessonStep;
  kits: readonly Kit[];
}) {
  const { kind } = step;
  const kit = kits.find(({ slug }) => slug === lesson.robot?.kit);
  return (
    <div className="flex flex-col gap-4">
      <StepText step={step} />
      {isWorking(kind) ? <p className="text-ink-2">{what[kind]}</p> : null}
      {kind === 'wire' ? (
        <ul className="flex flex-col gap-1">
          {needsOfLesson(lesson)
            .filter(({ socket }) => step.part?.sockets?.includes(socket) ?? true)
            .map(({ socket, kind: sensor, name }) => (
              <li key={socket} className="border-l-4 border-l-line pl-3">
                <strong>{socket}</strong> {sensorWords[sensor]}{' '}
                <span className="text-ink-2">called “{name}”</span>
              </li>
            ))}
          {kit ? <li className="text-ink-2">on a {kit.name}</li> : null}
        </ul>
      ) : null}
      {kind === 'read' || kind === 'decide' ? (
        <>
          <p>
            <strong>{lesson.need.socket}</strong> {sensorWords[lesson.need.kind]}{' '}
            <span className="text-ink-2">called “{lesson.need.name}”</span>
          </p>
          <ul className="flex flex-col gap-1">
            {(kind === 'read' ? thingsToRead(lesson, step) : []).map(({ name, how }) => (
              <li key={name} className="border-l-4 border-l-line pl-3">
                <strong>{name}</strong> <span className="text-ink-2">{how}</span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {kind === 'decide' && step.part?.method ? (
        <p>
          Recommended: <strong>{step.part.method}</strong>
        </p>
      ) : null}
      {kind === 'script' ? (
        <pre className="rounded-lg border border-line p-3 font-mono leading-6 whitespace-pre-wrap">
          {lesson.startScript.trimEnd() || '# an empty script'}
        </pre>
      ) : null}
      {['brief', 'predict', 'try', 'prove', 'floor'].includes(kind) ? (
        <MatDrawing
          className="max-h-56 w-full"
          course={lesson.course}
          label={`The course ${lesson.course.name}.`}
        />
      ) : null}
      {kind === 'try' || kind === 'prove' ? (
        <ul className="flex flex-col gap-1">
          {lesson.expectations.map((expectation, i) => (
            <li key={i} className="border-l-4 border-l-signal pl-3">
              {sentence(expectation, lesson.course)}
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
