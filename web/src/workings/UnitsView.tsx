import { useState } from 'react';
import {
  convert,
  formatNumber,
  kindWords,
  units,
  type QuantityKind,
  type Unit,
  typedNumber,
} from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Panel } from '../ui/Panel.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { NumberField } from '../ui/NumberField.tsx';

const kinds: QuantityKind[] = ['length', 'angle', 'time'];
const all = Object.keys(units) as Unit[];

/** One value in every unit of its kind. A length never becomes an angle. */
export default function UnitsView() {
  const [text, setText] = useState('15');
  const [unit, setUnit] = useState<Unit>('cm');
  const value = typedNumber(text);
  const good = Math.abs(value) <= 1e9;
  const { kind } = units[unit];
  return (
    <Panel title="Units" aside="always shown, never guessed">
      <div className="flex flex-wrap items-end gap-3">
        <NumberField label="value" value={text} change={setText} good={good} className="w-40" />
        <Labelled label="unit">
          <select
            className="input w-44"
            value={unit}
            onChange={(event) => setUnit(event.target.value as Unit)}
          >
            {kinds.map((k) => (
              <optgroup key={k} label={kindWords[k].replace(/^an? /, '')}>
                {all
                  .filter((u) => units[u].kind === k)
                  .map((u) => (
                    <option key={u} value={u}>
                      {u}, {units[u].word}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </Labelled>
      </div>
      {good ? (
        <table className="mt-5 w-full max-w-2xl">
          <TableHead columns={['the same in', '|value', 'working']} />
          <tbody>
            {all
              .filter((u) => units[u].kind === kind)
              .map((u) => (
                <tr key={u} className={`h-14 border-t border-line-soft ${u === unit ? 'bg-sea-soft' : ''}`}>
                  <th scope="row" className="pl-2 text-left font-normal">
                    {units[u].word}
                  </th>
                  <td className="text-right font-mono text-2xl font-bold whitespace-nowrap">
                    {formatNumber(convert(value, unit, u), 4)} {u}
                  </td>
                  <td className="pl-6 font-mono">
                    {u === unit
                      ? ''
                      : `${formatNumber(value, 4)} × ${formatNumber(units[unit].inBase, 4)} ÷ ${formatNumber(units[u].inBase, 4)}`}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      ) : (
        <p className="mt-3 text-fault">Type a number.</p>
      )}
      <p className="mt-4 text-ink-2">
        1 in = 25.4 mm exactly (international yard and pound agreement, 1959). A turn is 360 degrees.
      </p>
    </Panel>
  );
}
