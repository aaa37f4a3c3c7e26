import type { Lesson } from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import type { SecondChoice, SecondRobotState } from './useSecondRobot.ts';

const names: Record<SecondChoice['runs'], string> = {
  nothing: 'none',
  'the same': 'runs the same script',
  'its own': 'runs a script of its own',
};

/** Puts a second robot on the course, to send words to and to meet; only where the course has a place for it. */
export function SecondRobot({
  second,
  lesson,
  start,
}: {
  second: SecondRobotState;
  lesson: Lesson;
  start: string;
}) {
  const { starts, opponent } = lesson.course;
  if (starts.length < 2 || opponent) return null;
  const { choice, change, startBeside } = second;
  const free = starts.filter(({ name }) => name !== start);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <Labelled beside label="second robot">
        <select
          className="input h-11 w-auto"
          value={choice.runs}
          onChange={({ target }) => change({ runs: target.value as SecondChoice['runs'] })}
        >
          {Object.entries(names).map(([runs, name]) => (
            <option key={runs} value={runs}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      {choice.runs === 'nothing' ? null : (
        <Labelled beside label="from">
          <select
            className="input h-11 w-auto"
            aria-label="Start of the second robot"
            value={startBeside(start)}
            onChange={({ target }) => change({ start: target.value })}
          >
            {free.map(({ name }) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
      )}
      {choice.runs === 'its own' ? (
        <textarea
          className="input h-28 w-full font-mono"
          aria-label="Script of the second robot"
          placeholder={'wait until heard "go"\ndrive 30 % for 20 cm'}
          value={choice.text}
          maxLength={20_000}
          spellCheck={false}
          onChange={({ target }) => change({ text: target.value })}
        />
      ) : null}
    </div>
  );
}
