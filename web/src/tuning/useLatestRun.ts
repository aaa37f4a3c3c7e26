import { useEffect, useRef, useState } from 'react';
import type { Rehearsal } from '@vigilum/core/lesson';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { simulation, type Job } from '../workers/simulation.ts';

/**
 * The run of whatever is set now. While one is under way, only the newest of what was set meanwhile is run next: a slider that is
 * pulled never waits for runs that nobody will see. `fault` tells why the newest could not run.
 */
export function useLatestRun(
  job: Job | null,
  start: string,
  seed: number,
): { rehearsal: Rehearsal | null; text: string; fault: string | null } {
  const [shown, setShown] = useState<{ rehearsal: Rehearsal | null; text: string }>({
    rehearsal: null,
    text: '',
  });
  const [fault, setFault] = useState<string | null>(null);
  const wanted = useRef<{ job: Job; start: string; seed: number } | null>(null);
  const busy = useRef(false);
  const gone = useRef(false);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
    };
  }, []);
  useEffect(() => {
    wanted.current = job && { job, start, seed };
    const go = async () => {
      if (busy.current) return;
      busy.current = true;
      while (wanted.current && !gone.current) {
        const next = wanted.current;
        wanted.current = null;
        try {
          const rehearsal = await simulation().attempt(next.job, next.start, next.seed);
          if (gone.current) break;
          setShown({ rehearsal, text: next.job.text });
          setFault(null);
        } catch (error) {
          if (!gone.current) setFault(sentenceOf(error));
        }
      }
      busy.current = false;
    };
    void go();
  }, [job, start, seed]);
  return { ...shown, fault };
}
