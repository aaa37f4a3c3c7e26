import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { JudgedRun } from '@vigilum/core/expect';
import { sentenceOf } from '../data/queries.ts';
import { simulations, type Job } from '../workers/simulation.ts';

/** Runs judged between two looks at the cancel button. */
const CHUNK = 4;

export type ShownRun = JudgedRun & { ok: boolean };

/** Many runs, shared out among the page's workers, shown as they come. */
export function useProof() {
  const [runs, setRuns] = useState<readonly (ShownRun | undefined)[]>([]);
  const [going, setGoing] = useState(false);
  const turn = useRef(0);
  useEffect(() => () => void turn.current++, []);

  /** Starts; resolves to whether all runs were done. */
  const prove = async (job: Job, seed: number, wanted: number): Promise<boolean> => {
    const mine = ++turn.current;
    setGoing(true);
    setRuns([]);
    const done: (ShownRun | undefined)[] = [];
    let next = 0;
    try {
      await Promise.all(
        simulations().map(async (worker) => {
          while (next < wanted && turn.current === mine) {
            // The first result comes at once; then a few at a time.
            const from = next;
            const count = Math.min(from === 0 ? 1 : CHUNK, wanted - from);
            next += count;
            const some = await worker.proveSome(job, seed, from, count);
            if (turn.current !== mine) return;
            some.forEach((run, i) => (done[from + i] = run));
            setRuns([...done]);
          }
        }),
      );
      return turn.current === mine && done.filter(Boolean).length === wanted;
    } catch (error) {
      toast.error(sentenceOf(error));
      return false;
    } finally {
      if (turn.current === mine) setGoing(false);
    }
  };
  const cancel = () => {
    turn.current++;
    setGoing(false);
  };
  const known = runs.filter((run): run is ShownRun => run !== undefined);
  return { runs: known, going, prove, cancel, clear: () => setRuns([]) };
}
