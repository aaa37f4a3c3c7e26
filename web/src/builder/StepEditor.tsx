import {
  isWorking,
  LESSON_LIMIT,
  stepFacts,
  stepKinds,
  type Lesson,
  type LessonStep,
  type StepKind,
} from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import { useTyped } from '../ui/useTyped.ts';
import { without } from '../ui/without.ts';
import { Lines } from './Lines.tsx';
import { PartEditor } from './PartEditor.tsx';

/** A whole number of minutes as typed. */
function Minutes({ value, change }: { value: number; change: (minutes: number) => void }) {
  const { typed, good, type } = useTyped(
    value,
    {
      write: String,
      read: (text) =>
        /^\d{1,3}$/.test(text.trim()) && Number(text) <= LESSON_LIMIT.period ? Number(text) : undefined,
    },
    change,
  );
  return (
    <Labelled label="minutes">
      <input
        className="input w-24 font-mono"
        inputMode="numeric"
        autoComplete="off"
        value={typed}
        aria-invalid={!good}
        onChange={(event) => type(event.target.value)}
      />
    </Labelled>
  );
}

/** Everything that one step says and does. */
export function StepEditor({
  step,
  lesson,
  change,
}: {
  step: LessonStep;
  lesson: Lesson;
  change: (step: LessonStep, field: string) => void;
}) {
  return (
    <div className="flex flex-col gap-3">
      <Labelled label="title">
        <input
          className="input w-full"
          maxLength={80}
          value={step.title}
          onChange={(event) => change({ ...step, title: event.target.value }, 'title')}
        />
      </Labelled>
      <div className="flex items-end gap-3">
        <Labelled label="kind" className="flex-1">
          <select
            className="input h-11 w-full"
            value={step.kind}
            onChange={(event) => change({ ...step, kind: event.target.value as StepKind }, '')}
          >
            {stepKinds.map((kind) => (
              <option key={kind} value={kind}>
                {stepFacts[kind].word}
              </option>
            ))}
          </select>
        </Labelled>
        <Minutes value={step.minutes} change={(minutes) => change({ ...step, minutes }, 'minutes')} />
      </div>
      <Labelled label="what the team reads, in Markdown">
        <textarea
          className="input h-auto w-full py-2 leading-6 whitespace-pre-wrap"
          rows={6}
          maxLength={LESSON_LIMIT.textCharacters}
          value={step.text}
          onChange={(event) => change({ ...step, text: event.target.value }, 'text')}
        />
      </Labelled>
      {isWorking(step.kind) ? (
        <PartEditor
          kind={step.kind}
          step={step}
          lesson={lesson}
          change={(part, field) => {
            change(Object.keys(part).length > 0 ? { ...step, part } : without(step, 'part'), field);
          }}
        />
      ) : null}
      <Labelled label="done when">
        <input
          className="input w-full"
          maxLength={300}
          value={step.expects}
          onChange={(event) => change({ ...step, expects: event.target.value }, 'expects')}
        />
      </Labelled>
      <Lines
        label="hints, opened one at a time"
        one="hint"
        lines={step.hints}
        change={(hints, field) => change({ ...step, hints }, field)}
      />
      <Lines
        label="cautions of this step"
        one="caution"
        lines={step.cautions}
        change={(cautions, field) => change({ ...step, cautions }, field)}
      />
    </div>
  );
}
