import { useEffect, useMemo, useRef, useState } from 'react';
import { applyFix } from '@vigilum/core/editing';
import type { KnownRobot, Lesson } from '@vigilum/core/lesson';
import type { Finding } from '@vigilum/core/script';
import { simulations } from '../../workers/simulation.ts';

/** A mend is tried when typing has rested for so long, ms. */
const REST_MS = 500;

/** Between two texts: no script holds it. */
const APART = '\u0000';

export type Tried = 'trying' | 'helps' | 'no help';

/**
 * Which one-tap mends may be offered: each is tried in a worker over ten quick runs first. A mend of a text that is no longer shown is
 * forgotten. Where they cannot be tried (no worker, a broken lesson) none is offered.
 */
export function useTriedMends(
  text: string,
  findings: readonly Finding[],
  lesson: Lesson,
  known: KnownRobot,
): (finding: Finding) => Tried {
  // One text, so that the same mends found anew are not tried anew.
  const mends = useMemo(
    () => findings.flatMap(({ fix }) => (fix ? [applyFix(text, fix).text] : [])).join(APART),
    [text, findings],
  );
  const latest = useRef({ lesson, known });
  useEffect(() => {
    latest.current = { lesson, known };
  });
  const [tried, setTried] = useState<{ text: string; help: ReadonlyMap<string, boolean> } | null>(null);
  useEffect(() => {
    if (mends === '') return;
    const mended = mends.split(APART);
    let current = true;
    const timer = window.setTimeout(() => {
      void simulations()[0]!
        .triedMends({ ...latest.current, text }, mended)
        .catch(() => mended.map(() => false))
        .then((help) => {
          if (current) setTried({ text, help: new Map(mended.map((one, i) => [one, help[i] ?? false])) });
        });
    }, REST_MS);
    return () => {
      current = false;
      window.clearTimeout(timer);
    };
  }, [text, mends]);
  return ({ fix }) => {
    if (!fix) return 'no help';
    const help = tried?.text === text ? tried.help.get(applyFix(text, fix).text) : undefined;
    return help === undefined ? 'trying' : help ? 'helps' : 'no help';
  };
}
