import { Lightbulb, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { stepFacts, type LessonStep } from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { useHintsGiven } from '../data/teamHour.ts';
import { Markdown } from '../ui/Markdown.tsx';

/** Hints of a step: opened one at a time, each only after the one before it. */
export function Hints({ hints, given = 0 }: { hints: readonly string[]; given?: number }) {
  const [own, setOpen] = useState(0);
  // The teacher may have opened some.
  const open = Math.max(own, Math.min(given, hints.length));
  if (hints.length === 0) return null;
  return (
    <div className="flex flex-col gap-1.5">
      {hints.slice(0, open).map((hint, i) => (
        <p key={i} className="border-l-4 border-l-brass pl-3">
          <Markdown inline text={hint} />
        </p>
      ))}
      {open < hints.length ? (
        <Button icon={Lightbulb} className="w-fit" onClick={() => setOpen(open + 1)}>
          {open === 0 ? 'A hint' : 'Another hint'} ({open + 1} of {hints.length})
        </Button>
      ) : null}
    </div>
  );
}

/** What a step tells a team: its text, what is expected, its hints and cautions. */
export function StepText({ step, headed = true }: { step: LessonStep; headed?: boolean }) {
  const given = useHintsGiven(step.id);
  const { title, text, expects, hints, cautions, minutes, kind } = step;
  return (
    <article className="flex flex-col gap-3">
      {headed ? (
        <h2 className="text-lg leading-tight font-bold">
          {title || stepFacts[kind].word}
          {minutes > 0 ? <span className="ml-2 font-normal text-ink-2">{minutes} min</span> : null}
        </h2>
      ) : null}
      {text ? <Markdown text={text} /> : null}
      {expects ? (
        <p className="border-l-4 border-l-sea pl-3">
          <span className="text-ink-2">Done when: </span>
          <Markdown inline text={expects} />
        </p>
      ) : null}
      <Hints key={step.id} hints={hints} given={given} />
      {cautions.length > 0 ? (
        <ul className="flex flex-col gap-1">
          {cautions.map((caution) => (
            <li key={caution} className="flex items-start gap-2">
              <TriangleAlert size={18} className="mt-0.5 shrink-0 text-brass" aria-hidden="true" />
              <span>
                <span className="sr-only">Caution: </span>
                {caution}
              </span>
            </li>
          ))}
        </ul>
      ) : null}
    </article>
  );
}
