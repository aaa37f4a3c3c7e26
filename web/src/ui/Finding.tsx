import type { ReactNode } from 'react';
import { tones, VerdictMark, type Tone } from './verdict.tsx';

const rules: Record<Tone, string> = {
  done: 'border-l-done',
  now: 'border-l-sea',
  risk: 'border-l-brass',
  fault: 'border-l-fault',
  none: 'border-l-line',
};

/** One thing to say: a coloured rule, one bold sentence, one plain one, at most one action. */
export function FindingCard({
  tone,
  says,
  more,
  where,
  children,
}: {
  tone: Tone;
  says: string;
  more?: string;
  where?: string;
  children?: ReactNode;
}) {
  return (
    <article className={`border-l-4 py-0.5 pl-3 ${rules[tone]}`}>
      <div className="flex items-start gap-2">
        <span className="pt-0.5">
          <VerdictMark tone={tone} />
        </span>
        <p className="font-bold">
          <span className="sr-only">{tones[tone].word}: </span>
          {where ? <span className="font-mono font-semibold text-ink-2">{where} </span> : null}
          {says}
        </p>
      </div>
      {more ? <p className="mt-0.5 text-ink-2">{more}</p> : null}
      {children ? <div className="mt-2">{children}</div> : null}
    </article>
  );
}
