import { answerFault, type HandQuestion, type NumberQuestion } from '@vigilum/core/expect';
import { typedNumber } from '@vigilum/core/quantity';

/** An answer while it is given: nothing is taken as said before somebody said it. */
export interface Given {
  text: string;
  minus: boolean | null;
  seen: boolean | null;
}
export const notGiven: Given = { text: '', minus: null, seen: null };

/** What is given as an answer; null for nothing yet, a sentence for what cannot be taken. */
export function answerOf(question: HandQuestion, given: Given): number | boolean | null | { fault: string } {
  if (question.kind === 'seen') return given.seen;
  if (given.text.trim() === '') return null;
  const amount = typedNumber(given.text) * question.perUnit;
  const fault = answerFault(question, amount);
  if (fault || Number.isNaN(amount)) return { fault: fault ?? '' };
  const { ways } = question;
  if (!ways || amount === 0) return amount;
  if (given.minus === null) return { fault: `Say which: ${ways.plus} or ${ways.minus}.` };
  return given.minus ? -amount : amount;
}

const unitWord = { mm: 'mm', cm: 'cm', deg: 'degrees', s: 's', '': '' } as const;
const askOf = ({ asks, unit, tool }: NumberQuestion): string =>
  unit === '' ? asks : `${asks}, ${unitWord[unit]}${tool === 'stopwatch' ? ' by stopwatch' : ''}`;

function Two({
  name,
  legend,
  words,
  value,
  choose,
}: {
  name: string;
  legend: string;
  /** What true and false are called, true first. */
  words: readonly [string, string];
  value: boolean | null;
  choose: (value: boolean) => void;
}) {
  return (
    <fieldset className="flex min-h-11 flex-wrap items-center gap-x-4">
      <legend className="float-left mr-auto py-2 text-ink-2">{legend}</legend>
      {([true, false] as const).map((yes) => (
        <label key={String(yes)} className="flex min-h-11 items-center gap-2">
          <input
            type="radio"
            name={name}
            className="size-5 accent-(--sea)"
            checked={value === yes}
            onChange={() => choose(yes)}
          />{' '}
          {words[yes ? 0 : 1]}
        </label>
      ))}
    </fieldset>
  );
}

/** One thing that is asked after a run: a number with its two ways, or whether something was seen. */
export function AnswerField({
  question,
  given,
  change,
  fault,
}: {
  question: HandQuestion;
  given: Given;
  change: (given: Given) => void;
  /** What is wrong, once it is time to say so. */
  fault: string | null;
}) {
  if (question.kind === 'seen')
    return (
      <Two
        name={question.key}
        legend={question.asks}
        words={['yes', 'no']}
        value={given.seen}
        choose={(seen) => change({ ...given, seen })}
      />
    );
  const { ways } = question;
  return (
    <div>
      <label className="flex flex-wrap items-center gap-x-3">
        <span className="mr-auto min-w-0 flex-1 basis-40 text-ink-2">{askOf(question)}</span>
        <input
          className="input w-28 font-mono text-xl"
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={fault !== null}
          value={given.text}
          onChange={(event) => change({ ...given, text: event.target.value })}
        />
        {fault ? <span className="basis-full text-fault">{fault}</span> : null}
      </label>
      {ways ? (
        <Two
          name={question.key}
          legend={ways.legend}
          words={[ways.plus, ways.minus]}
          value={given.minus === null ? null : !given.minus}
          choose={(plus) => change({ ...given, minus: !plus })}
        />
      ) : null}
    </div>
  );
}
