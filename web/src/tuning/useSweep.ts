import { useState } from 'react';
import {
  emptySweep,
  SWEEP_STAGES,
  sweepTasks,
  withRuns,
  type Axis,
  type Sweep,
  type SweepTask,
} from '@vigilum/core/tuning';
import { useLongWork } from '../ui/useLongWork.ts';
import { simulation, simulations, type Job } from '../workers/simulation.ts';

/** Points that a worker takes at once, so that the picture grows and cancelling is heard: more where each is short work. */
const CHUNK_RUNS = 10;

export interface SweepPlan {
  job: Job;
  x: Axis;
  y: Axis | null;
  runs: number;
  bar: number;
  seed: number;
}

/** A sweep that is shared out among the page's workers: coarse first, then the rim, then the rest; shown as it comes. */
export function useSweep() {
  const [sweep, setSweep] = useState<Sweep | null>(null);
  const [took, setTook] = useState<{ firstMs: number; ms: number } | null>(null);
  const [cannot, setCannot] = useState(0);
  const { going, run, cancel } = useLongWork();
  const begin = ({ job, x, y, runs, bar, seed }: SweepPlan) =>
    run(async (mine) => {
      // A sweep is pieces of a few hundredths of a second: the worker for single runs helps, and nobody waits longer for it than that.
      const workers = [simulation(), ...simulations()];
      const from = performance.now();
      let firstMs = 0;
      let field = emptySweep(x, y, bar);
      setSweep(field);
      setTook(null);
      setCannot(0);
      const refused = new Set<number>();
      let drawn = 0;
      const show = () => {
        // A picture a quarter of a second is enough for eyes; drawing it more often would slow the runs.
        const now = performance.now();
        if (now - drawn < 250) return;
        drawn = now;
        setSweep(field);
      };
      for (let stage = 0; stage < SWEEP_STAGES && mine(); stage++) {
        const tasks = sweepTasks(field, stage, runs).filter(({ index }) => !refused.has(index));
        await Promise.all(
          workers.map(async (worker) => {
            while (tasks.length > 0 && mine()) {
              const some: SweepTask[] = [];
              for (let n = 0; tasks.length > 0 && n < CHUNK_RUNS; n += some.at(-1)!.count)
                some.push(tasks.shift()!);
              const found = await worker.sweepSome(job, some, seed);
              if (!mine()) return;
              const points = [...field.points];
              found.forEach((mineToo, i) => {
                const { index } = some[i]!;
                if (mineToo) points[index] = withRuns(points[index]!, mineToo);
                else refused.add(index);
              });
              field = { ...field, points };
              show();
            }
          }),
        );
        if (!mine()) return;
        setSweep(field);
        setCannot(refused.size);
        if (stage === 0) firstMs = performance.now() - from;
      }
      setTook({ firstMs, ms: performance.now() - from });
    });
  return { sweep, going, begin, cancel, took, cannot };
}
