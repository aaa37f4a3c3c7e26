import type { RunLog } from '../sim/index.ts';
import { writeCsv } from './csv.ts';

const places = (value: number): number | null => (Number.isFinite(value) ? Number(value.toFixed(3)) : null);

/** The head of a column of a log: “floor (%)”. */
export const columnHead = ({ name, unit }: RunLog['columns'][number]): string =>
  unit === '' ? name : `${name} (${unit})`;

/** What a program logged as CSV: a row for each time it logged, s from the start; empty where a column had nothing then. */
export const logCsv = ({ columns, rows }: RunLog): string =>
  writeCsv([
    ['time (s)', ...columns.map(columnHead)],
    ...rows.map(({ atS, values }) => [places(atS), ...values.map(places)]),
  ]);
