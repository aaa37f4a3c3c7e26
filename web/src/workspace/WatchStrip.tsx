import { useEffect, useRef } from 'react';
import { NavLink } from 'react-router';
import { tones } from '../ui/verdict.tsx';
import type { StripStep } from '@vigilum/core/hour';

function Dot({ step, here }: { step: StripStep; here: boolean }) {
  const tone = step.state;
  const { icon: Icon } = tones[tone];
  const fill =
    tone === 'done'
      ? 'bg-signal text-sheet border-signal'
      : tone === 'risk'
        ? 'bg-sheet text-brass border-brass'
        : tone === 'fault'
          ? 'bg-sheet text-fault border-fault'
          : tone === 'now'
            ? 'bg-sheet text-signal border-signal'
            : 'bg-sheet text-ink-2 border-edge';
  return (
    <span
      className={`z-10 grid size-6 place-items-center rounded-full border-2 ${fill} ${here ? 'outline-4 outline-signal-soft' : ''}`}
    >
      {tone === 'none' || tone === 'now' ? null : <Icon size={13} strokeWidth={3.4} aria-hidden="true" />}
    </span>
  );
}

/** The steps of a lesson along the signal line: state, and the number that came out of each. */
export function WatchStrip({
  steps,
  here,
  base,
}: {
  steps: readonly StripStep[];
  here: string;
  base: string;
}) {
  const current = useRef<HTMLLIElement>(null);
  // On a phone the strip is wider than the screen: keep the open step in sight.
  useEffect(() => {
    // In newer browsers this gives a promise, which is no clean-up.
    void current.current?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [here]);
  const reached = steps.findLastIndex((step) => step.state !== 'none');
  return (
    <nav aria-label="Stages" className="relative overflow-x-auto print:hidden">
      <ol className="grid auto-cols-[minmax(5.4rem,1fr)] grid-flow-col">
        {steps.map((step, i) => {
          const isHere = step.id === here;
          return (
            <li key={step.id} ref={isHere ? current : undefined} className="relative">
              <span
                aria-hidden="true"
                className={`absolute top-[2.85rem] left-0 h-0.5 w-1/2 ${i <= reached ? 'bg-signal' : 'bg-line'}`}
              />
              <span
                aria-hidden="true"
                className={`absolute top-[2.85rem] right-0 h-0.5 w-1/2 ${i < reached ? 'bg-signal' : 'bg-line'}`}
              />
              <NavLink
                to={`${base}/${step.id}`}
                title={step.title}
                className={`flex min-h-[5.6rem] flex-col items-center gap-1.5 rounded-lg px-1 pt-1.5 pb-1 hover:bg-line-soft ${isHere ? 'font-bold text-signal' : ''}`}
              >
                <span className="leading-6 font-bold whitespace-nowrap">{step.word}</span>
                <Dot step={step} here={isHere} />
                <span className={`leading-5 whitespace-nowrap ${isHere ? 'text-ink' : 'text-ink-2'}`}>
                  {step.figure || ' '}
                </span>
                <span className="sr-only">{tones[step.state].word}</span>
              </NavLink>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
