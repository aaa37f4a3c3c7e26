import { RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import type { Conditions } from '@vigilum/core/sim';
import { Button } from '../ui/Button.tsx';
import { conditionFields, type ConditionField } from './conditionWords.ts';

function RangeField({
  field,
  range,
  change,
}: {
  field: ConditionField;
  range: [number, number];
  change: (range: [number, number]) => void;
}) {
  const shown = range.map((value) => formatNumber(value / field.perUnit)) as [string, string];
  const [typed, setTyped] = useState(shown);
  const read = (texts: [string, string]): [number, number] | null => {
    const [low, high] = texts.map((text) => typedNumber(text)) as [number, number];
    const fine = [low, high].every((v) => Number.isFinite(v) && v >= field.limit[0] && v <= field.limit[1]);
    return fine && low <= high ? [low * field.perUnit, high * field.perUnit] : null;
  };
  const wrong = read(typed) === null;
  const put = (at: 0 | 1, text: string) => {
    const next: [string, string] = at === 0 ? [text, typed[1]] : [typed[0], text];
    setTyped(next);
    const good = read(next);
    if (good) change(good);
  };
  return (
    <>
      <span className="self-center text-ink-2">{field.name}</span>
      {([0, 1] as const).map((at) => (
        <input
          key={at}
          aria-label={`${field.name}, ${at === 0 ? 'from' : 'to'}`}
          aria-invalid={wrong}
          inputMode="decimal"
          className="input h-11 w-full min-w-0 px-2 text-right font-mono"
          value={typed[at]}
          onChange={(event) => put(at, event.target.value)}
        />
      ))}
      <span className="self-center text-ink-2">{field.unit}</span>
      {wrong ? (
        <span className="col-span-4 text-fault">
          From a smaller to a larger number, {field.limit[0]} to {field.limit[1]}.
        </span>
      ) : null}
    </>
  );
}

/** What varies from run to run, as ranges. */
export function ConditionsEditor({
  conditions,
  usual,
  change,
}: {
  conditions: Conditions;
  /** The lesson's own: there is a way back to them. */
  usual: Conditions;
  change: (conditions: Conditions) => void;
}) {
  const [round, setRound] = useState(0);
  const same = JSON.stringify(conditions) === JSON.stringify(usual);
  return (
    <div className="flex flex-col gap-3">
      <div key={round} className="grid grid-cols-[minmax(0,1fr)_4.6rem_4.6rem_5.2rem] gap-x-2 gap-y-1.5">
        {conditionFields.map((field) => (
          <RangeField
            key={field.id}
            field={field}
            range={conditions[field.id] ?? [field.usual, field.usual]}
            change={(range) => change({ ...conditions, [field.id]: range })}
          />
        ))}
      </div>
      {same ? null : (
        <div>
          <Button
            icon={RotateCcw}
            onClick={() => {
              change(usual);
              setRound(round + 1);
            }}
          >
            Back to the lesson’s own
          </Button>
        </div>
      )}
    </div>
  );
}
