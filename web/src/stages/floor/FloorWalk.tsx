import { useMemo } from 'react';
import { goalsOf, knobFactsOf } from '@vigilum/core/lesson';
import { adviseNext, compareLastTwo, knobsOf, walkOf } from '@vigilum/core/tuning';
import { useWalk } from '../../tuning/useWalk.ts';
import { WalkView } from '../../tuning/WalkView.tsx';
import type { StageContext } from '../../workspace/context.ts';

/** The trials of this work with their numbers, what the lesson wants, and what to drive next. */
export function useFloorTuning({ record, known, path }: StageContext) {
  const { lesson, script } = record;
  const query = useWalk(path);
  const trials = useMemo(
    () => (query.data?.trials ?? []).filter(({ source }) => source !== 'proof'),
    [query.data],
  );
  const goals = useMemo(() => goalsOf(lesson), [lesson]);
  const walk = useMemo(() => walkOf(trials, goals), [trials, goals]);
  const driven = useMemo(() => trials.filter(({ source }) => source === 'floor'), [trials]);
  const knobs = useMemo(() => knobsOf(script?.text ?? '', knobFactsOf(known)), [script?.text, known]);
  const advice = useMemo(
    () => (driven.length > 0 ? adviseNext({ trials: driven, goals, knobs, source: 'floor' }) : null),
    [driven, goals, knobs],
  );
  const compared = useMemo(() => compareLastTwo(driven, goals), [driven, goals]);
  return { walk, goals, driven, advice, compared };
}

/** The walk towards the right value, on the floor and simulated, and whether the last change was one. */
export function FloorWalk({ tuning }: { tuning: ReturnType<typeof useFloorTuning> }) {
  const { walk, goals, driven, compared } = tuning;
  if (driven.length === 0) return null;
  return (
    <section className="mt-3 flex flex-col gap-2 border-t border-line-soft pt-3">
      <h3 className="font-bold">The walk: what was changed, and what came out</h3>
      {compared ? (
        <p>
          <strong>{compared.of}:</strong> {compared.says}
        </p>
      ) : null}
      <WalkView walk={walk} goals={goals} className="h-64" />
    </section>
  );
}
