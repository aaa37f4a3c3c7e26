import { readingColumns, type ImportChoices, type ReadingColumn } from '@vigilum/core/formats';
import { sensorWords, type Kit, type SensorKind } from '@vigilum/core/sensing';
import type { Preview } from '../workers/readingsFile.worker.ts';

const columnWords: Record<ReadingColumn, string> = {
  value: 'reading',
  surface: 'surface',
  socket: 'socket',
  kind: 'what it measures',
  'true value': 'true value (ruler)',
  unit: 'unit',
  light: 'light note',
  red: 'red',
  green: 'green',
  blue: 'blue',
};

/** What a column of the file holds, and what holds for all lines where no column says it. */
export function ColumnChoices({
  preview,
  choices,
  kit,
  change,
}: {
  preview: Preview;
  choices: ImportChoices;
  kit: Kit;
  change: (choices: ImportChoices) => void;
}) {
  const { mapping } = choices;
  const kinds = [...new Set(kit.sensors.flatMap(({ modes }) => modes.map(({ kind }) => kind)))];
  const rgb = choices.kind === 'rgb' || mapping.red !== undefined;
  const shown = readingColumns.filter((column) => rgb || !['red', 'green', 'blue'].includes(column));
  const map = (column: ReadingColumn, place: string) => {
    const changed = { ...mapping };
    if (place === '') delete changed[column];
    else changed[column] = Number(place);
    change({ ...choices, mapping: changed });
  };
  const example = (at: number | undefined) => (at === undefined ? '' : (preview.rows[0]?.[at] ?? ''));
  const fixed = 'input h-11 w-full';
  return (
    <div className="flex flex-col gap-2">
      {shown.map((column) => (
        <div key={column} className="grid grid-cols-[8.5rem_minmax(0,1fr)] items-center gap-x-3">
          <label htmlFor={`column-${column}`} className="text-ink-2">
            {columnWords[column]}
          </label>
          <select
            id={`column-${column}`}
            className={fixed}
            value={mapping[column] ?? ''}
            onChange={(event) => map(column, event.target.value)}
          >
            <option value="">not in the file</option>
            {preview.header.map((head, i) => (
              <option key={i} value={i}>
                {head || `column ${i + 1}`}, e.g. {example(i) || '(empty)'}
              </option>
            ))}
          </select>
          {mapping[column] !== undefined ? null : column === 'surface' ? (
            <label className="col-start-2 mt-1">
              <span className="sr-only">surface for all lines</span>
              <input
                className={fixed}
                maxLength={60}
                placeholder="surface for all lines"
                defaultValue={choices.surface}
                onBlur={(event) => change({ ...choices, surface: event.target.value.trim() })}
              />
            </label>
          ) : column === 'socket' ? (
            <select
              aria-label="socket for all lines"
              className={`${fixed} col-start-2 mt-1`}
              value={choices.socket}
              onChange={(event) => change({ ...choices, socket: event.target.value })}
            >
              {kit.sockets
                .filter(({ takes }) => takes === 'sensor')
                .map(({ name }) => (
                  <option key={name}>{name}</option>
                ))}
            </select>
          ) : column === 'kind' ? (
            <select
              aria-label="what all lines measure"
              className={`${fixed} col-start-2 mt-1`}
              value={choices.kind}
              onChange={(event) => change({ ...choices, kind: event.target.value as SensorKind })}
            >
              {kinds.map((kind) => (
                <option key={kind} value={kind}>
                  {sensorWords[kind]}
                </option>
              ))}
            </select>
          ) : column === 'unit' ? (
            <select
              aria-label="unit of all lines"
              className={`${fixed} col-start-2 mt-1`}
              value={choices.unit}
              onChange={(event) => change({ ...choices, unit: event.target.value })}
            >
              <option value="">the sensor’s own</option>
              {['mm', 'cm', 'in', '%', 'deg'].map((unit) => (
                <option key={unit}>{unit}</option>
              ))}
            </select>
          ) : null}
        </div>
      ))}
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5 accent-(--sea)"
          checked={choices.decimalComma}
          onChange={(event) => change({ ...choices, decimalComma: event.target.checked })}
        />
        12,5 means twelve and a half
      </label>
    </div>
  );
}
