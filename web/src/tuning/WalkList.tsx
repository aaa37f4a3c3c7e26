import { Star } from 'lucide-react';
import {
  resultsTold,
  resultFacts,
  resultText,
  stepSays,
  type Goal,
  type WalkStep,
} from '@vigilum/core/tuning';
import { VerdictMark, type Tone } from '../ui/verdict.tsx';

const toneOf = (kept: boolean | null): Tone => (kept === null ? 'none' : kept ? 'done' : 'fault');
const wordOf = (kept: boolean | null) => (kept === null ? 'not told' : kept ? 'kept' : 'broken');
const sources = { try: 'simulated', proof: 'proof', floor: 'floor' } as const;

/** The walk as a table, the newest trial first: what was changed and what came of it. */
export function WalkList({ walk, goals }: { walk: readonly WalkStep[]; goals: readonly Goal[] }) {
  const told = resultsTold(walk);
  const wanted = goals.map(({ key }) => key).filter((key) => told.includes(key));
  const shown = [...new Set([...wanted, ...told.filter((key) => key !== 'pass rate')])].slice(0, 3);
  const rate = told.includes('pass rate');
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full">
        <thead className="text-left text-ink-2">
          <tr>
            <th scope="col">trial</th>
            <th scope="col">what was changed</th>
            {shown.map((key) => (
              <th key={key} scope="col" className="pl-3 text-right">
                {resultFacts[key].name}
              </th>
            ))}
            {rate ? (
              <th scope="col" className="pl-3 text-right">
                runs that pass
              </th>
            ) : null}
            <th scope="col" className="pl-3">
              lesson
            </th>
          </tr>
        </thead>
        <tbody>
          {[...walk].reverse().map((step) => {
            const { trial, nth, changes, best } = step;
            return (
              <tr key={trial.id} className="border-t border-line-soft align-top">
                <th scope="row" className="py-1.5 pr-3 text-left font-normal whitespace-nowrap">
                  <span className="font-mono font-bold">{nth}</span>{' '}
                  <span className="text-ink-2">{sources[trial.source]}</span>
                  {best ? (
                    <Star size={15} aria-label="best so far" className="ml-1 inline text-done" />
                  ) : null}
                </th>
                <td className="py-1.5 pr-3">
                  {changes.length > 1 ? (
                    <span className="font-semibold text-brass">△ {stepSays(step)}</span>
                  ) : (
                    stepSays(step) || <span className="text-ink-2">the same again</span>
                  )}
                </td>
                {shown.map((key) => (
                  <td key={key} className="py-1.5 pl-3 text-right font-mono whitespace-nowrap">
                    {trial.results[key] === undefined ? '–' : resultText(key, trial.results[key])}
                  </td>
                ))}
                {rate ? (
                  <td className="py-1.5 pl-3 text-right font-mono whitespace-nowrap">
                    {trial.results['pass rate'] === undefined
                      ? ''
                      : `${resultText('pass rate', trial.results['pass rate'])} of ${trial.runs}`}
                  </td>
                ) : null}
                <td className="py-1.5 pl-3 whitespace-nowrap">
                  <span className="inline-flex items-center gap-1.5">
                    <VerdictMark tone={toneOf(trial.kept)} /> {wordOf(trial.kept)}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
