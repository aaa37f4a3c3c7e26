import { countOf } from '@vigilum/core/quantity';
import type { CarriedOver } from '@vigilum/core/phrasebook';
import { FindingCard } from '../ui/Finding.tsx';

/** What became of a pasted program: the steps, and every line that was left behind. */
export function Carried({ result }: { result: CarriedOver }) {
  const { text, left, carried, total } = result;
  return (
    <div className="flex flex-col gap-3">
      <p role="status" className="font-bold">
        {total === 0
          ? 'Nothing to carry over yet.'
          : `${carried} of ${countOf(total, 'statement')} carried over${left.length > 0 ? `, ${countOf(left.length, 'line')} left behind` : ''}.`}
      </p>
      <pre
        className="m-0 max-h-80 min-h-32 overflow-auto rounded-lg border border-edge bg-paper p-3 font-mono text-base"
        tabIndex={0}
        aria-label="The steps"
      >
        {text || 'The steps appear here.'}
      </pre>
      {left.length > 0 ? (
        <div className="flex flex-col gap-3" aria-label="Lines left behind">
          {left.slice(0, 40).map(({ line, words, why }, i) => (
            <FindingCard
              key={i}
              tone="risk"
              where={`line ${line}`}
              says={words || 'This program'}
              more={why}
            />
          ))}
          {left.length > 40 ? <p>… and {left.length - 40} more.</p> : null}
        </div>
      ) : null}
    </div>
  );
}
