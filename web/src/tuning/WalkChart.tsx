import { resultFacts, resultText, type Goal, type ResultKey, type WalkStep } from '@vigilum/core/tuning';
import { Chart } from '../ui/Chart.tsx';
import { walkOption, walkPoints } from './walkOption.ts';

/** The walk as a picture: value against result, trial by trial. */
export function WalkChart({
  walk,
  goals,
  knob,
  result,
  className,
  small = false,
}: {
  walk: readonly WalkStep[];
  goals: readonly Goal[];
  knob: { name: string; unit: string };
  result: ResultKey;
  className: string;
  /** One of several beside each other, under one legend. */
  small?: boolean;
}) {
  const goal = goals.find(({ key }) => key === result);
  const points = walkPoints(walk, knob.name, result);
  const driven = points.filter(({ step }) => step.trial.source === 'floor').length;
  const best = points.filter(({ step }) => step.best).at(-1);
  if (points.length === 0) return <p className="text-ink-2">No trial has both.</p>;
  return (
    <div className={`relative flex min-h-0 flex-col ${className}`}>
      {small ? null : (
        <p className="absolute top-0 right-4 z-10 text-ink-2" aria-hidden="true">
          ○ simulated {points.length - driven} · <span className="text-brass">■</span> floor {driven}
          {best ? ' · ringed: best' : ''}
        </p>
      )}
      <Chart
        className="min-h-0 flex-1"
        label={`${knob.name} against ${resultFacts[result].name} over ${points.length} trials${best ? `; best so far trial ${best.step.nth}: ${resultText(result, best.y)}` : ''}.`}
        option={() => walkOption(points, knob, result, goal)}
        redraw={[walk, knob.name, result]}
      />
    </div>
  );
}
