import { Check } from 'lucide-react';

/** A true value that a lesson asks for, and whether it was read. */
export interface AskedTruth {
  truth: number;
  read: boolean;
}

/** What the lesson asks to be read at, each one press away, and which of them are done. */
export function Asked({
  asked,
  unit = '',
  says,
  choose,
}: {
  asked: readonly AskedTruth[];
  /** What the numbers are in, where they do not say it themselves. */
  unit?: string;
  says: (truth: number) => string;
  choose: (truth: number) => void;
}) {
  if (asked.length === 0) return null;
  return (
    <div role="group" aria-label="The lesson asks for" className="mb-2 flex flex-wrap items-center gap-1.5">
      <span className="w-full text-ink-2">The lesson asks for{unit ? `, ${unit}` : ''}</span>
      {asked.map(({ truth, read }) => (
        <button
          key={truth}
          type="button"
          className={`flex min-h-11 items-center gap-1.5 rounded-lg border px-3 font-mono ${read ? 'border-line text-done' : 'border-edge bg-sheet font-bold'}`}
          onClick={() => choose(truth)}
        >
          {read ? <Check size={16} aria-hidden="true" /> : null}
          {says(truth)}
          {read ? <span className="sr-only">read</span> : null}
        </button>
      ))}
    </div>
  );
}
