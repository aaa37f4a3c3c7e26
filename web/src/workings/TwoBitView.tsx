import { typedNumber } from '@vigilum/core/quantity';
import { useState } from 'react';
import { twoBitState, twoBitTable } from '@vigilum/core/sensing';
import { Figure, Panel } from '../ui/Panel.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { NumberField } from '../ui/NumberField.tsx';

/** Two floor sensors as one number: left × 2 + right. */
export default function TwoBitView() {
  const [left, setLeft] = useState('24');
  const [right, setRight] = useState('88');
  const [cut, setCut] = useState('50');
  const inputs = [
    ['left reads, %', left, setLeft],
    ['right reads, %', right, setRight],
    ['threshold, %', cut, setCut],
  ] as const;
  const [l, r, t] = [typedNumber(left), typedNumber(right), typedNumber(cut)];
  const good = [l, r, t].every((v) => v >= 0 && v <= 100);
  const [onLeft, onRight] = [l < t, r < t];
  const state = good ? twoBitState(onLeft, onRight) : null;
  const bit = (on: boolean) => (on ? 1 : 0);
  return (
    <Panel title="Two floor sensors" aside="which of four states do they make?">
      <div className="flex flex-wrap items-end gap-4">
        {inputs.map(([label, value, set]) => (
          <NumberField key={label} label={label} value={value} change={set} className="w-32" />
        ))}
        <Figure label="state" value={state === null ? '–' : String(state)} tone="text-signal" />
      </div>
      {good ? (
        <p className="mt-2 font-mono">
          {l} &lt; {t} is {String(onLeft)}, {r} &lt; {t} is {String(onRight)}: {bit(onLeft)} × 2 +{' '}
          {bit(onRight)} = {state}
        </p>
      ) : (
        <p className="mt-2 text-fault">Readings and threshold from 0 to 100 %.</p>
      )}
      <table className="mt-5 w-full max-w-3xl">
        <TableHead columns={['state', 'left', 'right', 'what it means']} />
        <tbody>
          {twoBitTable.map((row) => (
            <tr
              key={row.state}
              className={`h-12 border-t border-line-soft ${row.state === state ? 'bg-sea-soft font-bold' : ''}`}
            >
              <th scope="row" className="pl-2 text-left font-mono text-xl">
                {row.state}
              </th>
              <td>{row.left ? 'on the line' : 'beside it'}</td>
              <td>{row.right ? 'on the line' : 'beside it'}</td>
              <td>{row.says}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-4 text-ink-2">“Seen by either” is state above 0. Source: common practice.</p>
    </Panel>
  );
}
