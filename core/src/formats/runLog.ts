import { countOf, found, refused, toBase, units, type Outcome, type Unit } from '../quantity/index.ts';
import { fromBaseTo, type ReadingUnit } from '../sensing/index.ts';
import type { Trace } from '../sim/index.ts';
import { readCsv } from './csv.ts';

/** Most rows of a log, and most columns that are kept. */
export const LOG_ROWS = 20_000;
export const LOG_COLUMNS = 24;

/** What a column of a log is: the time, a signal in a unit, or nothing that is wanted. */
export type LogColumn =
  | { as: 'time'; unit: 's' | 'ms' }
  /** `noReading`: the number that this sensor says when it has nothing to say. */
  | { as: 'signal'; signal: string; unit: Unit | ''; target: string; noReading?: number }
  | { as: 'nothing' };

export interface LogHead {
  columns: string[];
  rows: number;
}

/** The head of a log: its columns' names, and how many rows there are. */
export function logHead(text: string): Outcome<LogHead> {
  const { records, faults } = readCsv(text);
  if (faults[0])
    return refused(`Line ${faults[0].line}: ${faults[0].says}`, 'Mend that line and choose the file again.');
  const [head, ...rows] = records;
  if (!head || rows.length === 0)
    return refused('The file holds no rows.', 'A log has a line of names and then one line for each moment.');
  if (rows.length > LOG_ROWS)
    return refused(`The file has more than ${LOG_ROWS} rows.`, 'Log fewer moments, or cut the file.');
  if (head.fields.length > LOG_COLUMNS)
    return refused(`The file has more than ${LOG_COLUMNS} columns.`, 'Leave some out.');
  return found({ columns: head.fields.map((field) => field.trim()), rows: rows.length });
}

/** Signals that a log may hold, in the units that expectations take them in. */
export const logSignals: Readonly<Record<string, ReadingUnit | 'mm/s' | 's'>> = {
  x: 'mm',
  y: 'mm',
  bearing: 'deg',
  speed: 'mm/s',
  'gap ahead': 'mm',
  turned: 'deg',
  travelled: 'mm',
  'number shown': '',
};

const guesses: [RegExp, string][] = [
  [/^(x|x.?mm)$/i, 'x'],
  [/^(y|y.?mm)$/i, 'y'],
  [/bearing/i, 'bearing'],
  [/heading|gyro|turned/i, 'turned'],
  [/speed|velocity/i, 'speed'],
  [/gap|distance|range/i, 'gap ahead'],
  [/count|shown|display/i, 'number shown'],
];

/** What a column most likely is, by its name; `sockets` are the robot's. */
export function guessColumn(
  typed: string,
  sockets: readonly { socket: string; unit: ReadingUnit; noReading?: number }[],
): LogColumn {
  const name = typed.replace(/_/g, ' ').trim();
  const unitIn = (text: string) => /\b(mm|cm|in|deg|ms|s|%)\b/i.exec(text)?.[1]?.toLowerCase();
  const unit = unitIn(name);
  if (/^(t|time|seconds?|millis|ms)\b/i.test(name))
    return { as: 'time', unit: unit === 'ms' || /milli|^ms/i.test(name) ? 'ms' : 's' };
  const own = sockets.find(({ socket }) => new RegExp(`(^|[^a-z0-9])${socket}([^a-z0-9]|$)`, 'i').test(name));
  if (own) {
    // A socket's own name is no unit: the S of S-b are no seconds.
    const beside = unitIn(name.replace(new RegExp(own.socket, 'i'), ' '));
    const said = beside && Object.hasOwn(units, beside) ? (beside as Unit) : '';
    return {
      as: 'signal',
      signal: own.socket,
      unit: said || (own.unit === 'deg/s' ? '' : own.unit),
      target: own.unit,
      ...(own.noReading === undefined ? {} : { noReading: own.noReading }),
    };
  }
  const known = guesses.find(([pattern]) => pattern.test(name))?.[1];
  if (!known) return { as: 'nothing' };
  const target = logSignals[known]!;
  const usual: Unit | '' = target === 'mm' || target === 'mm/s' ? 'mm' : target === 'deg' ? 'deg' : '';
  return {
    as: 'signal',
    signal: known,
    unit: unit && Object.hasOwn(units, unit) ? (unit as Unit) : usual,
    target,
  };
}

/**
 * A real robot's log as a trace: the time from its first row, each mapped column in its signal's own unit, an empty field as
 * no reading. Refuses what is no number, and times that do not go forward, with the line.
 */
export function readRunLog(text: string, mapping: readonly LogColumn[]): Outcome<Trace> {
  const head = logHead(text);
  if (!head.ok) return head;
  const at = mapping.findIndex(({ as }) => as === 'time');
  if (at < 0) return refused('No column is the time.', 'Say which column holds the time.');
  const signals = mapping.flatMap((column, i) => (column.as === 'signal' ? [{ ...column, i }] : []));
  if (signals.length === 0) return refused('No column is a signal.', 'Say what at least one column holds.');
  const twice = signals.find(({ signal }, k) => signals.findIndex((other) => other.signal === signal) !== k);
  if (twice) return refused(`Two columns are “${twice.signal}”.`, 'Choose one of them.');
  const rows = readCsv(text).records.slice(1);
  const n = rows.length;
  const timesS = new Float32Array(n);
  const columns = signals.map(() => new Float32Array(n));
  const time = mapping[at] as Extract<LogColumn, { as: 'time' }>;
  const perS = time.unit === 'ms' ? 1000 : 1;
  // A decimal comma is understood where commas do not part the fields.
  const number = (field: string | undefined) => {
    const plain = (field ?? '').trim().replace(/^'/, '').replace(',', '.');
    return plain === '' || plain.toLowerCase() === 'none' ? NaN : Number(plain);
  };
  let first = 0;
  for (let r = 0; r < n; r++) {
    const { line, fields } = rows[r]!;
    const [has, named] = [
      fields.findLastIndex((field) => field.trim() !== '') + 1,
      head.value.columns.length,
    ];
    if (fields.length < named || has > named)
      return refused(
        `Line ${line} has ${countOf(fields.length, 'field')}, the first line names ${named}.`,
        has > named
          ? 'Is a decimal comma in it? Then part the fields by semicolons, or write points.'
          : 'Leave a field empty where there was no reading, and keep its comma.',
      );
    const t = number(fields[at]) / perS;
    if (!Number.isFinite(t))
      return refused(`Line ${line}: the time “${fields[at] ?? ''}” is no number.`, 'Mend that line.');
    if (r === 0) first = t;
    timesS[r] = t - first;
    if (r > 0 && !(timesS[r]! > timesS[r - 1]!))
      return refused(
        `Line ${line}: the time does not go forward.`,
        'Sort the rows by time and leave doubles out.',
      );
    for (const [k, { i, unit, target, noReading }] of signals.entries()) {
      const raw = number(fields[i]);
      const field = (fields[i] ?? '').trim();
      if (Number.isNaN(raw) && field !== '' && field.toLowerCase() !== 'none')
        return refused(
          `Line ${line}: “${field.slice(0, 20)}” is no number.`,
          'Leave the field empty where there was no reading.',
        );
      const told = raw === noReading ? NaN : raw;
      const base = unit === '' ? told : toBase(told, unit);
      columns[k]![r] = target === 'mm/s' || unit === '' ? base : fromBaseTo(base, target as ReadingUnit);
    }
  }
  return found({
    timesS,
    signals: Object.fromEntries(
      signals.map(({ signal, target }, k) => [signal, { unit: target, values: columns[k]! }]),
    ),
  });
}
