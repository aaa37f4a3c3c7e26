import { useEffect, useRef } from 'react';
import { NavLink } from 'react-router';
import type { Stage } from '@vigilum/core/classroom';
import { stageWords } from '../ui/stageWords.ts';
import { tones } from '../ui/verdict.tsx';

function Dot({ stage, here }: { stage: Stage; here: boolean }) {
  const tone = stage.state;
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

/** The seven stages along the signal line: state, and the number that came out of each. */
export function WatchStrip({ stages, here, base }: { stages: readonly Stage[]; here: string; base: string }) {
  const current = useRef<HTMLLIElement>(null);
  // On a phone the strip is wider than the screen: keep the open stage in sight.
  useEffect(() => {
    // In newer browsers this gives a promise, which is no clean-up.
    void current.current?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [here]);
  const reached = stages.findLastIndex((stage) => stage.state !== 'none');
  return (
    <nav aria-label="Stages" className="relative overflow-x-auto print:hidden">
      <ol className="grid min-w-[38rem] grid-cols-7">
        {stages.map((stage, i) => {
          const isHere = stage.stage === here;
          const word = stageWords[stage.stage];
          return (
            <li key={stage.stage} ref={isHere ? current : undefined} className="relative">
              <span
                aria-hidden="true"
                className={`absolute top-[2.85rem] left-0 h-0.5 w-1/2 ${i <= reached ? 'bg-signal' : 'bg-line'}`}
              />
              <span
                aria-hidden="true"
                className={`absolute top-[2.85rem] right-0 h-0.5 w-1/2 ${i < reached ? 'bg-signal' : 'bg-line'}`}
              />
              <NavLink
                to={`${base}/${stage.stage}`}
                title={`${word} (${i + 1})`}
                className={`flex min-h-[5.6rem] flex-col items-center gap-1.5 rounded-lg px-1 pt-1.5 pb-1 hover:bg-line-soft ${isHere ? 'font-bold text-signal' : ''}`}
              >
                <span className="leading-6 font-bold">{word}</span>
                <Dot stage={stage} here={isHere} />
                <span className={`leading-5 whitespace-nowrap ${isHere ? 'text-ink' : 'text-ink-2'}`}>
                  {stage.figure || ' '}
                </span>
                <span className="sr-only">{tones[stage.state].word}</span>
              </NavLink>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
