import { useState } from 'react';
import { resultFacts, type Goal, type ResultKey, type WalkStep } from '@vigilum/core/tuning';
import { Choice } from '../ui/Choice.tsx';
import { useWalkAxes } from './useWalkAxes.ts';
import { WalkChart } from './WalkChart.tsx';
import { WalkList } from './WalkList.tsx';

/** The walk, as a picture of one number against one result, or as a table of everything. */
export function WalkView({
  walk,
  goals,
  className = 'min-h-36 flex-1',
}: {
  walk: readonly WalkStep[];
  goals: readonly Goal[];
  className?: string;
}) {
  const { knobs, results, knob, result, setKnob, setResult } = useWalkAxes(walk, goals);
  const [view, setView] = useState<'picture' | 'table'>('picture');
  if (!knob || !result)
    return <p className="text-ink-2">No trial has a number and a result yet: run it once.</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-1">
      <div className="flex flex-wrap items-center gap-2">
        {view === 'picture' ? (
          <>
            <select
              aria-label="Number"
              className="input h-11 w-auto max-w-44"
              value={knob.name}
              onChange={(event) => setKnob(event.target.value)}
            >
              {knobs.map(({ name }) => (
                <option key={name}>{name}</option>
              ))}
            </select>
            <span className="text-ink-2">against</span>
            <select
              aria-label="What came out"
              className="input h-11 w-auto max-w-52"
              value={result}
              onChange={(event) => setResult(event.target.value as ResultKey)}
            >
              {results.map((key) => (
                <option key={key} value={key}>
                  {resultFacts[key].name}
                </option>
              ))}
            </select>
          </>
        ) : (
          <h2 className="text-lg font-bold">The walk</h2>
        )}
        <span className="ml-auto">
          <Choice
            label="How the walk is shown"
            options={['picture', 'table'] as const}
            value={view}
            choose={setView}
          />
        </span>
      </div>
      {view === 'picture' ? (
        <WalkChart walk={walk} goals={goals} knob={knob} result={result} className={className} />
      ) : (
        <div
          className="min-h-0 flex-1 overflow-auto"
          tabIndex={0}
          role="group"
          aria-label="The walk as a table"
        >
          <WalkList walk={walk} goals={goals} />
        </div>
      )}
    </div>
  );
}
