import {
  isWorking,
  LESSON_LIMIT,
  stepFacts,
  stepKinds,
  type Lesson,
  type LessonStep,
  type StepKind,
} from '@vigilum/core/lesson';
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
    <label className="flex flex-col">
      <span className="text-ink-2">minutes</span>
      <input
        className="input w-24 font-mono"
        inputMode="numeric"
        autoComplete="off"
        value={typed}
        aria-invalid={!good}
        onChange={(event) => type(event.target.value)}
      />
    </label>
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
      <label className="flex flex-col">
        <span className="text-ink-2">title</span>
        <input
          className="input w-full"
          maxLength={80}
          value={step.title}
          onChange={(event) => change({ ...step, title: event.target.value }, 'title')}
        />
      </label>
      <div className="flex items-end gap-3">
        <label className="flex flex-1 flex-col">
          <span className="text-ink-2">kind</span>
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
        </label>
        <Minutes value={step.minutes} change={(minutes) => change({ ...step, minutes }, 'minutes')} />
      </div>
      <label className="flex flex-col">
        <span className="text-ink-2">what the team reads, in Markdown</span>
        <textarea
          className="input h-auto w-full py-2 leading-6 whitespace-pre-wrap"
          rows={6}
          maxLength={LESSON_LIMIT.textCharacters}
          value={step.text}
          onChange={(event) => change({ ...step, text: event.target.value }, 'text')}
        />
      </label>
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
      <label className="flex flex-col">
        <span className="text-ink-2">done when</span>
        <input
          className="input w-full"
          maxLength={300}
          value={step.expects}
          onChange={(event) => change({ ...step, expects: event.target.value }, 'expects')}
        />
      </label>
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
