import { useMemo, useState } from 'react';
import { knobsMoved, resultsTold, type Goal, type ResultKey, type WalkStep } from '@vigilum/core/tuning';

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
