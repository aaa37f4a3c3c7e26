import type { HourStep, StripStep } from '@vigilum/core/hour';
import { tones } from '../ui/verdict.tsx';

const shapes: Record<StripStep['state'], string> = {
  done: 'bg-done border-done text-sheet',
  risk: 'bg-brass-soft border-brass text-brass',
  fault: 'bg-fault-soft border-fault text-fault',
  now: 'bg-sheet border-signal text-signal',
  none: 'bg-sheet border-edge text-ink-2',
};

/** The steps of a team as a row of marks; the one it is at is ringed. The row is told in words beside it. */
export function StepDots({
  steps,
  strip,
  at,
  large = false,
}: {
  steps: readonly HourStep[];
  strip: readonly Pick<StripStep, 'id' | 'state' | 'figure'>[];
  at: number;
  /** For a projector. */
  large?: boolean;
}) {
  const byId = new Map(strip.map((one) => [one.id, one]));
  return (
    <span aria-hidden="true" className={`flex items-center ${large ? 'gap-0.5 md:gap-1' : 'gap-0.5'}`}>
      {steps.map((step, i) => {
        const own = byId.get(step.id);
        const state = own?.state ?? 'none';
        const { icon: Icon, word } = tones[state];
        return (
          <span
            key={step.id}
            title={`${step.word}: ${word}${own?.figure ? `, ${own.figure}` : ''}`}
            className={`grid place-items-center ${large ? 'size-4 md:size-7' : 'size-4'} rounded-[4px] border-2 ${shapes[state]} ${i === at ? 'outline-2 outline-offset-1 outline-signal' : ''}`}
          >
            {state === 'none' || state === 'now' ? null : <Icon size={large ? 16 : 9} strokeWidth={4} />}
          </span>
        );
      })}
    </span>
  );
}
