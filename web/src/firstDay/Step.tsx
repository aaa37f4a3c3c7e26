import { Check } from 'lucide-react';
import { Button } from '../ui/Button.tsx';
import { useEffect, useRef, type ReactNode } from 'react';

export type StepState = 'done' | 'now' | 'later';

/** One step of the first day: what it is, what came of it, and its form while it is the one to do. */
export function Step({
  n,
  title,
  state,
  figure,
  again,
  takesFocus,
  children,
}: {
  n: number;
  title: string;
  state: StepState;
  /** What came of it, in a few words. */
  figure: string;
  /** Opens it although it is done. */
  again?: () => void;
  /** It was reached by finishing the one before. */
  takesFocus: boolean;
  children: ReactNode;
}) {
  const body = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (state === 'now' && takesFocus)
      body.current?.querySelector<HTMLElement>('input:not([type=file]), textarea, select, button')?.focus();
  }, [state, takesFocus]);
  const words = { done: 'done', now: 'next', later: 'later' }[state];
  return (
    <li className="panel p-4" aria-current={state === 'now' ? 'step' : undefined}>
      <div className="flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1">
        <span
          aria-hidden="true"
          className={`grid size-9 shrink-0 place-items-center rounded-full border font-mono font-bold ${
            state === 'done'
              ? 'border-sea bg-sea text-sheet'
              : state === 'now'
                ? 'border-sea text-sea'
                : 'border-edge text-ink-2'
          }`}
        >
          {state === 'done' ? <Check size={20} /> : n}
        </span>
        <h2 className="text-lg font-bold">{title}</h2>
        <span className="text-ink-2">{figure || words}</span>
        <span className="sr-only">({words})</span>
        {state === 'done' && again ? (
          <Button className="ml-auto" onClick={again}>
            Do it again
          </Button>
        ) : null}
      </div>
      {state === 'now' ? (
        <div ref={body} className="mt-2 pl-12 max-sm:pl-0">
          {children}
        </div>
      ) : null}
    </li>
  );
}
