import { Scissors } from 'lucide-react';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { cutsOf, outlookSays, type Cut } from '@vigilum/core/hour';
import { countOf } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import type { Live, Running } from './useLive.ts';

/** How the hour will go on, against its plan, and what could be cut or stretched by one press. */
export function PacePanel({ live, running, may }: { live: Live; running: Running; may: boolean }) {
  const { sheet, outlook, given, clock, state } = live;
  const { plan } = sheet.run;
  const going = state === 'running' || state === 'paused' || state === 'over';
  const cuts = useMemo(
    () => (going && may ? cutsOf(given, outlook, plan) : []),
    [going, may, given, outlook, plan],
  );
  const apply = ({ change, says }: Cut) => {
    if ('moreMin' in change) return running.more.mutate(sheet.hour.minutes + change.moreMin);
    running.run.mutate(
      { plan: change.plan },
      {
        onSuccess: () =>
          toast(`Changed: ${says}.`, {
            action: { label: 'Undo', onClick: () => running.run.mutate({ plan }) },
            duration: 10_000,
          }),
      },
    );
  };
  const changed = Object.values(plan).some((part) => Object.keys(part as object).length > 0);
  const [first, ...more] = going ? outlookSays(given, outlook, clock) : [];
  return (
    <section aria-label="Pace" className="panel flex shrink-0 flex-col gap-1.5 px-4 py-2.5">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <p className="mr-auto text-lg leading-tight font-bold">
          {first ??
            (sheet.teams.length === 0
              ? 'This class has no team yet.'
              : state === 'ended'
                ? 'The hour has ended.'
                : 'The forecast begins with the hour.')}
        </p>
        <ul className="flex flex-wrap gap-1.5" aria-label="Milestones">
          {outlook.milestones.map(({ word, byMin, done, of, late }) => (
            <li
              key={word}
              className={`rounded-full border px-2.5 leading-6 ${late ? 'border-brass bg-brass-soft text-brass' : 'border-line bg-sheet'}`}
            >
              {word} by <span className="font-mono">:{String(byMin).padStart(2, '0')}</span>{' '}
              <strong className="font-mono">
                {done}/{of}
              </strong>
              {late ? ' late' : ''}
            </li>
          ))}
        </ul>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <p className="mr-auto text-ink-2">
          {more.join(' ')}{' '}
          {outlook.learnt.from === 0
            ? 'By the plan: no times of this class yet.'
            : `Learnt from ${countOf(outlook.learnt.from, 'time')}.`}
        </p>
        {may && going ? (
          <ul aria-label="What could be cut or stretched" className="flex flex-wrap gap-1.5">
            {cuts.slice(0, 3).map((cut) => (
              <li key={cut.id}>
                <Button icon={Scissors} className="px-3" onClick={() => apply(cut)}>
                  {cut.says}
                  <span className="font-normal text-ink-2">
                    {cut.to} through, not {cut.from}
                  </span>
                </Button>
              </li>
            ))}
            {changed ? (
              <li>
                <Button className="px-3" onClick={() => running.run.mutate({ plan: {} })}>
                  Back to the lesson’s own plan
                </Button>
              </li>
            ) : null}
          </ul>
        ) : null}
      </div>
    </section>
  );
}
