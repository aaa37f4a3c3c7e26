import { useEffect, type ReactNode } from 'react';
import { Mark } from '../ui/Wordmark.tsx';

/** The frame of every way in: the mark, what this is, one thing to do. */
export function Doorway({
  title,
  school,
  children,
  below,
}: {
  title: string;
  school?: string;
  children: ReactNode;
  below?: ReactNode;
}) {
  useEffect(() => {
    document.title = `${title} · Vigilum`;
  }, [title]);
  return (
    <main className="flex min-h-dvh flex-col items-center gap-5 px-4 py-[8vh]">
      <div className="flex items-center gap-3 text-ink">
        <Mark className="w-14" />
        <span className="text-2xl font-bold">Vigilum</span>
        {school ? <span className="text-ink-2">{school}</span> : null}
      </div>
      <section className="panel w-full max-w-[30rem] p-6 max-sm:p-4">
        <h1 className="mb-4 text-title font-bold">{title}</h1>
        {children}
      </section>
      {below ? <div className="flex flex-wrap justify-center gap-x-6 gap-y-2">{below}</div> : null}
    </main>
  );
}

/** What went wrong, where it is read out. */
export function Refusal({ says }: { says: string | null }) {
  return says === null ? null : (
    <p role="alert" className="border-l-4 border-l-fault pl-3 font-semibold text-fault">
      {says}
    </p>
  );
}
