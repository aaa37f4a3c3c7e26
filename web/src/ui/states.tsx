import { CircleAlert, Loader } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from './Button.tsx';
import { sentenceOf } from './sentenceOf.ts';

export function Loading({ what }: { what: string }) {
  return (
    <div className="flex items-center gap-3 p-6 text-ink-2" role="status">
      <Loader className="animate-spin" size={20} aria-hidden="true" /> Loading {what} …
    </div>
  );
}

/** A failure: what happened, and one thing to do. */
export function Failed({ error, again }: { error: unknown; again?: () => void }) {
  return (
    <div
      className="panel m-6 flex max-w-xl flex-col items-start gap-3 border-l-4 border-l-fault p-5"
      role="alert"
    >
      <div className="flex items-center gap-2 font-bold">
        <CircleAlert size={20} aria-hidden="true" className="text-fault" /> This did not load.
      </div>
      <p>{sentenceOf(error)}</p>
      {again ? <Button onClick={again}>Try again</Button> : null}
    </div>
  );
}

/** Nothing here yet: says why, and what to do first. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex flex-1 flex-col items-start justify-center gap-2 p-4">
      <p className="text-lg font-bold">{title}</p>
      <div className="flex flex-col items-start gap-3 text-ink-2">{children}</div>
    </div>
  );
}
