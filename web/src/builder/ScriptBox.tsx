import { useMemo } from 'react';
import { fillText, usualValues, type Lesson } from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import { parseScript, SCRIPT_LIMIT } from '@vigilum/core/script';

/** A script of a lesson, with the first faults of the script as it stands with the usual values of the twist. */
export function ScriptBox({
  label,
  lesson,
  text,
  change,
}: {
  label: string;
  lesson: Lesson;
  text: string;
  change: (text: string) => void;
}) {
  const findings = useMemo(
    () =>
      parseScript(
        lesson.twist ? fillText(text, lesson.twist, usualValues(lesson.twist)) : text,
      ).findings.slice(0, 4),
    [text, lesson.twist],
  );
  const lines = Math.max(4, Math.min(24, text.split('\n').length + 1));
  return (
    <div className="flex flex-col gap-1">
      <Labelled label={label}>
        <textarea
          className="input h-auto w-full py-2 font-mono leading-6 whitespace-pre-wrap"
          rows={lines}
          spellCheck={false}
          maxLength={SCRIPT_LIMIT.characters}
          value={text}
          onChange={(event) => change(event.target.value)}
        />
      </Labelled>
      {findings.map(({ line, says, mend }, i) => (
        <p key={i} className="border-l-4 border-l-fault pl-3">
          <strong>
            Line {line}: {says}
          </strong>{' '}
          {mend}
        </p>
      ))}
    </div>
  );
}
