import { Download } from 'lucide-react';
import { logCsv, columnHead } from '@vigilum/core/formats';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import type { RunLog } from '@vigilum/core/sim';
import { Button } from '../ui/Button.tsx';
import { saveFile } from '../ui/saveFile.ts';

/** More rows than this are only in the file. */
const SHOWN = 200;

/** What the program logged in a run, to look at and to take along as a file. */
export function LogTable({ log }: { log: RunLog }) {
  const { columns, rows, full } = log;
  if (columns.length === 0) return null;
  return (
    <section aria-label="Log" className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="font-bold">Log: {countOf(rows.length, 'row')}</h3>
        <Button
          icon={Download}
          disabled={rows.length === 0}
          onClick={() => saveFile('log.csv', 'text/csv', logCsv(log))}
        >
          Save as CSV
        </Button>
      </div>
      {full ? <p>It logged more than is kept: these are the first rows.</p> : null}
      {rows.length === 0 ? (
        <p className="text-ink-2">The program never came to a step that logs.</p>
      ) : (
        <div
          className="max-h-64 overflow-auto rounded-lg border border-edge"
          tabIndex={0}
          aria-label="Rows of the log"
        >
          <table className="w-full text-right tabular-nums">
            <thead className="sticky top-0 bg-paper">
              <tr>
                {['time (s)', ...columns.map(columnHead)].map((head, i) => (
                  <th key={i} scope="col" className="px-3 py-1 font-bold">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, SHOWN).map(({ atS, values }, row) => (
                <tr key={row} className="border-t border-edge">
                  <td className="px-3 py-1">{formatNumber(atS, 2)}</td>
                  {columns.map((_, i) => (
                    <td key={i} className="px-3 py-1">
                      {Number.isFinite(values[i]) ? formatNumber(values[i], 2) : ''}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {rows.length > SHOWN ? (
        <p className="text-ink-2">{rows.length - SHOWN} more rows are in the file.</p>
      ) : null}
    </section>
  );
}
