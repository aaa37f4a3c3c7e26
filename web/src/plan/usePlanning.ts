import { useState } from 'react';
import type { SchoolAsk, SchoolPlan } from '@vigilum/core/year';
import { useLongWork } from '../ui/useLongWork.ts';
import { simulation } from '../workers/simulation.ts';

/** A plan for some classes, searched in a worker with progress; cancelled, the best so far is shown. */
export function usePlanning() {
  const [found, setFound] = useState<{ plan: SchoolPlan; ask: SchoolAsk; whole: boolean } | null>(null);
  const [progress, setProgress] = useState(0);
  const { going, run, cancel } = useLongWork();
  const begin = (ask: SchoolAsk) => {
    setFound(null);
    setProgress(0);
    return run(async (mine) => {
      const worker = simulation();
      await worker.beginPlanning(ask);
      while (mine()) {
        const step = await worker.morePlanning();
        if (!mine()) return;
        setProgress(step.done / Math.max(1, step.of));
        if (step.best) setFound({ plan: step.best, ask, whole: step.over });
        if (step.over) return;
      }
    });
  };
  return { found, progress, going, begin, cancel, clear: () => setFound(null) };
}
