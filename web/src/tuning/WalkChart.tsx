import { useMemo, useState } from 'react';
import {
  knobsMoved,
  resultFacts,
  resultText,
  resultsTold,
  type Goal,
  type ResultKey,
  type WalkStep,
} from '@vigilum/core/tuning';
import { Chart } from '../ui/Chart.tsx';
import { walkOption, walkPoints } from './walkOption.ts';

/** What is shown first: the number that was moved most, against what the lesson asks for. */
export function useWalkAxes(walk: readonly WalkStep[], goals: readonly Goal[]) {
  const knobs = useMemo(() => knobsMoved(walk), [walk]);
  const results = useMemo(() => resultsTold(walk), [walk]);
  const [knobName, setKnob] = useState('');
  const [chosen, setResult] = useState<ResultKey | ''>('');
  const knob = knobs.find(({ name }) => name === knobName) ?? knobs[0];
  const wanted = goals.map(({ key }) => key).find((key) => results.includes(key));
  const result = results.find((key) => key === chosen) ?? wanted ?? results[0];
  return { knobs, results, knob, result, setKnob, setResult };
}

/** The walk as a picture: value against result, with the choice of both. */
export function WalkChart({
  walk,
  goals,
  className = 'min-h-56 flex-1',
}: {
  walk: readonly WalkStep[];
  goals: readonly Goal[];
  className?: string;
}) {
  const { knobs, results, knob, result, setKnob, setResult } = useWalkAxes(walk, goals);
  if (!knob || !result)
    return <p className="text-ink-2">No trial has a number and a result yet: run it once.</p>;
  const goal = goals.find(({ key }) => key === result);
  const points = walkPoints(walk, knob.name, result);
  const driven = points.filter(({ step }) => step.trial.source === 'floor').length;
  const best = points.filter(({ step }) => step.best).at(-1);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <label className="flex items-center gap-2">
          <span className="text-ink-2">number</span>
          <select className="input h-11 w-auto" value={knob.name} onChange={(e) => setKnob(e.target.value)}>
            {knobs.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          <span className="text-ink-2">what came out</span>
          <select
            className="input h-11 w-auto"
            value={result}
            onChange={(event) => setResult(event.target.value as ResultKey)}
          >
            {results.map((key) => (
              <option key={key} value={key}>
                {resultFacts[key].name}
              </option>
            ))}
          </select>
        </label>
        <span className="text-ink-2">
          ○ simulated {points.length - driven} · ■ on the floor {driven}
          {best ? <> · ringed: best so far</> : null}
        </span>
      </div>
      {points.length > 0 ? (
        <Chart
          className={className}
          label={`${knob.name} against ${resultFacts[result].name} over ${points.length} trials${best ? `; best so far trial ${best.step.nth}: ${resultText(result, best.y)}` : ''}.`}
          option={() => walkOption(points, knob, result, goal)}
          redraw={[walk, knob.name, result]}
        />
      ) : (
        <p className="text-ink-2">No trial has both.</p>
      )}
    </div>
  );
}
