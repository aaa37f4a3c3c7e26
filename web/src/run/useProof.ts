import { useState } from 'react';
import type { JudgedRun } from '@vigilum/core/expect';
import { useLongWork } from '../ui/useLongWork.ts';
import { simulations, type Job } from '../workers/simulation.ts';

/** Runs judged between two looks at the cancel button. */
const CHUNK = 4;

export type ShownRun = JudgedRun & { ok: boolean };

/** Many runs, shared out among the page's workers, shown as they come. */
export function useProof() {
  const [runs, setRuns] = useState<readonly (ShownRun | undefined)[]>([]);
  const { going, run, cancel } = useLongWork();

  /** Starts; resolves to whether all runs were done. */
  const prove = async (job: Job, seed: number, wanted: number): Promise<boolean> => {
    setRuns([]);
    const done: (ShownRun | undefined)[] = [];
    let next = 0;
    const whole = await run(async (mine) => {
      await Promise.all(
        simulations().map(async (worker) => {
          while (next < wanted && mine()) {
            // The first result comes at once; then a few at a time.
            const from = next;
            const count = Math.min(from === 0 ? 1 : CHUNK, wanted - from);
            next += count;
            const some = await worker.proveSome(job, seed, from, count);
            if (!mine()) return;
            some.forEach((one, i) => (done[from + i] = one));
            setRuns([...done]);
          }
        }),
      );
    });
    return whole && done.filter(Boolean).length === wanted;
  };
  const known = runs.filter((one): one is ShownRun => one !== undefined);
  return { runs: known, going, prove, cancel, clear: () => setRuns([]) };
}
