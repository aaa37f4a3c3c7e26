import { formatNumber } from '@vigilum/core/quantity';
import type { Confusion } from '@vigilum/core/threshold';

/** What is taken for what when each look goes to the nearest mean: rows are what lay there, columns what it was taken for. */
export function ConfusionTable({ confusion }: { confusion: Confusion }) {
  const { names, counts, total, right } = confusion;
  return (
    <div className="relative overflow-x-auto">
      <table>
        <caption className="pb-1 text-left text-ink-2">
          {right} of {total} looks taken right, each judged without itself; rows lay there, columns it was
          taken for
        </caption>
        <thead className="text-sm text-ink-2">
          <tr>
            <td />
            {names.map((name) => (
              <th key={name} scope="col" className="px-2 pb-1 font-semibold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {names.map((name, i) => (
            <tr key={name} className="h-10 border-t border-line-soft">
              <th scope="row" className="pr-3 text-left font-bold whitespace-nowrap">
                {name}
              </th>
              {counts[i]!.map((n, j) => (
                <td
                  key={names[j]}
                  className={`px-2 text-center font-mono text-lg ${n === 0 ? 'text-ink-2' : i === j ? 'bg-done-soft font-bold text-done' : 'bg-fault-soft font-bold text-fault'}`}
                >
                  {n === 0 ? '·' : i === j ? n : `✕ ${n}`}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The worst of what is mixed up, in a sentence; null when nothing is. */
export function mixedSentence({ mixed, total }: Confusion): string | null {
  const [worst] = mixed;
  if (!worst || total === 0) return null;
  return `The ${worst.name} is taken for the ${worst.takenFor} in ${worst.times} of ${worst.of} looks (${formatNumber((100 * worst.times) / worst.of, 0)} %).`;
}
