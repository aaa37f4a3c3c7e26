import { useEffect, useMemo, useRef, useState } from 'react';
import type { KnownRobot, Lesson } from '@vigilum/core/lesson';
import { review, type ReviewContext } from '@vigilum/core/review';
import type { Finding, Program } from '@vigilum/core/script';
import { simulations } from '../../workers/simulation.ts';

/** A look is taken when typing has rested for so long, ms. */
const REST_MS = 400;

/**
 * What the review says of a script: at once what needs no look; a moment later, after a few quick runs in a worker, what is so on this
 * robot and course. Where nothing can be run, what can be said from the text alone.
 */
export function useLookedFindings(
  text: string,
  program: Program,
  context: ReviewContext,
  lesson: Lesson,
  known: KnownRobot,
): Finding[] {
  const atOnce = useMemo(() => review(program, context, 'later'), [program, context]);
  const latest = useRef({ lesson, known });
  useEffect(() => {
    latest.current = { lesson, known };
  });
  const [looked, setLooked] = useState<{ program: Program; findings: Finding[] } | null>(null);
  useEffect(() => {
    let current = true;
    const timer = window.setTimeout(() => {
      void simulations()[0]!
        .look({ ...latest.current, text }, context)
        .catch(() => review(program, context))
        .then((findings) => {
          if (current) setLooked({ program, findings });
        });
    }, REST_MS);
    return () => {
      current = false;
      window.clearTimeout(timer);
    };
  }, [text, program, context]);
  return looked?.program === program ? looked.findings : atOnce;
}
