import { Lightbulb } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Advice } from '@vigilum/core/tuning';

/** What to try next, and why. */
export function AdviceCard({ advice, children }: { advice: Advice; children?: ReactNode }) {
  return (
    <article
      aria-label="What next?"
      aria-live="polite"
      className="border-l-4 border-l-sea bg-sea-soft/60 py-2 pr-3 pl-3"
    >
      <p className="flex items-start gap-2 font-bold">
        <Lightbulb size={20} aria-hidden="true" className="mt-0.5 shrink-0 text-sea" />
        {advice.says}
      </p>
      <p className="mt-0.5 text-ink-2">{advice.why}</p>
      {children ? <div className="mt-2 flex flex-wrap gap-2">{children}</div> : null}
    </article>
  );
}
