import type { Remote } from 'comlink';
import { useState } from 'react';
import { useLongWork } from '../ui/useLongWork.ts';
import { simulations, type Simulation } from '../workers/simulation.ts';

type Worker = Remote<Simulation>;

/**
 * Long work that is shared out to all workers and reports as it goes: `begin` gives a worker its part of it (every n-th from the
 * k-th on), `more` asks for what it has done since, null when there is no more. A new turn, or leaving the page, ends the one before.
 */
export function useReports<R, J>(
  begin: (worker: Worker, job: J, part: [k: number, n: number]) => Promise<void>,
  more: (worker: Worker) => Promise<{ of: number; reports: R[] } | null>,
) {
  const [reports, setReports] = useState<R[]>([]);
  const [of, setOf] = useState(0);
  const { going, run, cancel } = useLongWork();
  const start = (job: J) => {
    setReports([]);
    setOf(0);
    const found: R[] = [];
    return run(async (mine) => {
      const workers = simulations();
      await Promise.all(
        workers.map(async (worker, k) => {
          await begin(worker, job, [k, workers.length]);
          while (mine()) {
            const next = await more(worker);
            if (!next || !mine()) return;
            found.push(...next.reports);
            setOf(next.of);
            setReports([...found]);
          }
        }),
      );
    });
  };
  return { reports, of, going, begin: start, cancel };
}
