import { useMemo } from 'react';
import { goalsOf, knobFactsOf } from '@vigilum/core/lesson';
import { adviseNext, compareLastTwo, knobsOf, walkOf } from '@vigilum/core/tuning';
import { AdviceCard } from '../../tuning/AdviceCard.tsx';
import { useWalk } from '../../tuning/useWalk.ts';
import { WalkView } from '../../tuning/WalkView.tsx';
import type { StageContext } from '../../workspace/context.ts';

/** The walk towards the right value, on the floor and simulated, and what to drive next. */
export function FloorWalk({ context }: { context: StageContext }) {
  const { record, known, path } = context;
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
    () => adviseNext({ trials: driven, goals, knobs, source: 'floor' }),
    [driven, goals, knobs],
  );
  const compared = useMemo(() => compareLastTwo(driven, goals), [driven, goals]);
  if (driven.length === 0) return null;
  return (
    <section className="mt-3 flex flex-col gap-2 border-t border-line-soft pt-3">
      <h3 className="font-bold">The walk: what was changed, and what came out</h3>
      <WalkView walk={walk} goals={goals} className="h-64" />
      {compared ? (
        <p>
          <strong>{compared.of}:</strong> {compared.says}
        </p>
      ) : null}
      <AdviceCard advice={advice} />
    </section>
  );
}
