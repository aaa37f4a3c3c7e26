import { Plus } from 'lucide-react';
import type { Course } from '@vigilum/core/course';
import { expectationChoices, readFormula, sentence, type Expectation } from '@vigilum/core/expect';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { Field } from './Field.tsx';

/** What is wrong with formulas of one's own among expectations, each in one sentence. */
export const unreadFormulas = (list: readonly Expectation[]): string[] =>
  list.flatMap((one) => {
    if (one.kind !== 'formula') return [];
    const read = readFormula(one.formula);
    return read.ok ? [] : [`“${one.says}”: ${read.says}`];
  });

/** Expectations as sentences, one of them chosen; sentences are added and taken out. */
export function ExpectationList({
  list,
  at,
  choose,
  change,
  course,
}: {
  list: readonly Expectation[];
  at: number;
  choose: (at: number) => void;
  change: (list: Expectation[]) => void;
  course: Course;
}) {
  const possible = expectationChoices.filter(({ fresh }) => fresh(course) !== null);
  return (
    <>
      <ol className="flex flex-col gap-1">
        {list.map((expectation, i) => (
          <li key={i} className="flex items-center gap-1">
            <button
              type="button"
              aria-pressed={i === at}
              className={`min-h-11 min-w-0 flex-1 rounded-lg border-l-4 px-3 py-1.5 text-left ${i === at ? 'border-l-signal bg-sea-soft font-bold text-sea' : 'border-l-signal hover:bg-line-soft'}`}
              onClick={() => choose(i)}
            >
              {sentence(expectation, course)}
            </button>
            <RemoveButton
              title={`Take expectation ${i + 1} out`}
              onClick={() => {
                change(list.filter((_, j) => j !== i));
                choose(Math.max(0, Math.min(at, list.length - 2)));
              }}
            />
          </li>
        ))}
      </ol>
      <label className="mt-3 flex flex-wrap items-center gap-2">
        <Plus size={18} aria-hidden="true" />
        <span className="font-bold">Add: the robot</span>
        <select
          className="input h-11 w-auto max-w-full"
          value=""
          onChange={(event) => {
            const fresh = possible.find(({ kind }) => kind === event.target.value)?.fresh(course);
            if (!fresh) return;
            change([...list, fresh]);
            choose(list.length);
          }}
        >
          <option value="">choose a sentence</option>
          {possible.map(({ kind, title }) => (
            <option key={kind} value={kind}>
              {title}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}

/** The numbers and words inside one sentence. */
export function ExpectationFields({
  expectation,
  put,
  course,
  sockets,
}: {
  expectation: Expectation;
  put: (expectation: Expectation) => void;
  course: Course;
  sockets: readonly string[];
}) {
  const choice = expectationChoices.find(({ kind }) => kind === expectation.kind);
  if (!choice || choice.fields.length === 0) return null;
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      {choice.fields.map((field) => (
        <div key={field.id} className={['formula', 'zones'].includes(field.is) ? 'sm:col-span-2' : ''}>
          <Field
            field={field}
            value={(expectation as unknown as Record<string, unknown>)[field.id]}
            change={(value) => put({ ...expectation, [field.id]: value })}
            course={course}
            sockets={sockets}
          />
        </div>
      ))}
    </div>
  );
}
