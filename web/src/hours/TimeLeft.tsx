import { hourLeft, hourState } from '@vigilum/core/classroom';
import type { Hour } from '@vigilum/contract/types';
import { clock, useNow } from '../ui/time.ts';

/** What is left of an hour, or what became of it. */
export function TimeLeft({ hour, skew }: { hour: Hour; skew: number }) {
  const now = useNow() + skew;
  const left = hourLeft(hour, now);
  const state = hourState(hour, now);
  const told = () => {
    switch (state) {
      case 'planned':
        return `planned, ${hour.minutes} min`;
      case 'running':
        return (
          <>
            <strong className="font-mono">{clock(left)}</strong> left of {hour.minutes} min
          </>
        );
      case 'paused':
        return (
          <>
            paused, <strong className="font-mono">{clock(left)}</strong> left
          </>
        );
      case 'over':
        return 'time is up';
      case 'ended':
        return 'ended';
    }
  };
  return (
    <span className="rounded-full border border-line bg-sheet px-3.5 py-1.5 whitespace-nowrap">{told()}</span>
  );
}
