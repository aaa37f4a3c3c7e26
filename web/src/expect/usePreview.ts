import { useEffect, useState } from 'react';
import type { Expectation, Judgement } from '@vigilum/core/expect';
import type { Lesson } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import type { Kit } from '@vigilum/core/sensing';
import { simulation } from '../workers/simulation.ts';

/** How one script does by the expectation that is being written. */
export interface PreviewRow {
  name: string;
  judgement: Judgement;
}

/** Runs the model answer and the typical faults once each and judges them by one expectation alone. */
export function usePreview(lesson: Lesson, kit: Kit | null, expectation: Expectation): PreviewRow[] {
  const [rows, setRows] = useState<PreviewRow[]>([]);
  const key = JSON.stringify(expectation);
  useEffect(() => {
    let stale = false;
    const { robot } = lesson;
    if (!robot || !kit) return;
    const alone = { ...lesson, expectations: [JSON.parse(key) as Expectation] };
    const known = { kit, build: robot.build, sets: [], thresholds: robot.thresholds };
    const scripts = [
      { name: 'model answer', script: lesson.modelScript },
      ...(lesson.faults ?? []).map(({ name, script }) => ({ name: `fault: ${name}`, script })),
    ].filter(({ script }) => canRun(parseScript(script)));
    const look = async () => {
      const found: PreviewRow[] = [];
      for (const { name, script } of scripts) {
        const { judgements } = await simulation().attempt(
          { lesson: alone, known, text: script },
          lesson.course.starts[0]!.name,
          1,
        );
        if (stale) return;
        found.push({ name, judgement: judgements[0]! });
        setRows([...found]);
      }
    };
    // A moment's rest between two letters typed, so that not every letter is run.
    const timer = setTimeout(() => void look().catch(() => setRows([])), 200);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [lesson, kit, key]);
  return rows;
}
