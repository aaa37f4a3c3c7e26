import { wilson } from '@vigilum/core/statistics';
import { formatNumber } from '@vigilum/core/quantity';
import {
  knobAmount,
  knobsAt,
  resultFacts,
  resultText,
  safeAt,
  valueAt,
  type ResultKey,
  type Sweep,
} from '@vigilum/core/tuning';
import { VerdictMark } from '../ui/verdict.tsx';

/** Every point of a sweep as a row. */
export function SweepTable({ sweep, result }: { sweep: Sweep; result: ResultKey }) {
  const { x, y } = sweep;
  return (
    <div
      className="min-h-0 flex-1 overflow-auto"
      tabIndex={0}
      role="group"
      aria-label="Every point of the sweep"
    >
      <table className="w-full">
        <thead className="sticky top-0 bg-sheet text-left text-ink-2">
          <tr>
            <th scope="col">{x.knob}</th>
            {y ? <th scope="col">{y.knob}</th> : null}
            <th scope="col" className="text-right">
              runs that pass
            </th>
            <th scope="col" className="pl-4 text-right">
              pass rate
            </th>
            {result === 'pass rate' ? null : (
              <th scope="col" className="pl-4 text-right">
                {resultFacts[result].name}
              </th>
            )}
            <th scope="col" className="pl-4">
              safe
            </th>
          </tr>
        </thead>
        <tbody>
          {sweep.points.map((point, index) => {
            const safe = safeAt(point, sweep.bar);
            if (!point || !safe) return null;
            const knobs = knobsAt(sweep, index);
            const { low, high } = wilson(point.passes, point.runs);
            const value = valueAt(point, result);
            return (
              <tr key={index} className="border-t border-line-soft">
                <td className="py-1 font-mono">{knobAmount({ value: knobs[x.knob]!, unit: x.unit })}</td>
                {y ? (
                  <td className="py-1 font-mono">{knobAmount({ value: knobs[y.knob]!, unit: y.unit })}</td>
                ) : null}
                <td className="text-right font-mono">
                  {point.passes}/{point.runs}
                </td>
                <td className="pl-4 text-right font-mono whitespace-nowrap">
                  {formatNumber(100 * low, 0)} to {formatNumber(100 * high, 0)} %
                </td>
                {result === 'pass rate' ? null : (
                  <td className="pl-4 text-right font-mono whitespace-nowrap">
                    {value === null ? '–' : resultText(result, value)}
                  </td>
                )}
                <td className="pl-4 whitespace-nowrap">
                  <span className="inline-flex items-center gap-1.5">
                    <VerdictMark tone={safe.safe ? 'done' : 'fault'} /> {safe.safe ? 'safe' : 'not safe'}
                    {safe.sure ? '' : ', not yet sure'}
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
