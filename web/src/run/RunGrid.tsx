import { runSeed } from '@vigilum/core/lesson';
import type { ShownRun } from './useProof.ts';

/** Every run of a proof as one button: what came of it, and the way to look at it. */
export function RunGrid({
  wanted,
  seed,
  runs,
  look,
}: {
  wanted: number;
  seed: number;
  runs: readonly ShownRun[];
  look: (seed: number) => void;
}) {
  const bySeed = new Map(runs.map((run) => [run.seed, run]));
  const broken = runs.filter(({ ok }) => !ok).length;
  return (
    <>
      {broken > 0 ? (
        <p className="mb-2 text-ink-2">
          {broken} of {runs.length} broke something: press one to see it, and what was different.
        </p>
      ) : null}
      <ol
        className={`grid gap-2 ${wanted > 60 ? 'grid-cols-8 sm:grid-cols-[repeat(16,minmax(0,1fr))]' : 'grid-cols-5 sm:grid-cols-10'}`}
      >
        {Array.from({ length: wanted }, (_, i) => {
          const run = bySeed.get(runSeed(seed, i));
          return (
            <li key={i}>
              <button
                type="button"
                disabled={!run}
                onClick={() => run && look(run.seed)}
                aria-label={`Run ${i + 1}: ${run ? (run.ok ? 'kept all' : 'broke one') : 'not run'}. Replay it.`}
                className={`grid min-h-11 w-full place-items-center rounded-lg font-mono font-bold ${wanted > 60 ? 'text-sm' : ''} ${run ? (run.ok ? 'bg-done-soft text-done' : 'bg-fault-soft text-fault') : 'bg-line-soft text-ink-2'}`}
              >
                {run ? (run.ok ? '✓' : '✕') : '·'} {i + 1}
              </button>
            </li>
          );
        })}
      </ol>
    </>
  );
}
