import { useState } from 'react';
import { convert, typedNumber, type Unit } from '@vigilum/core/quantity';
import type { StepField, StepPiece } from '@vigilum/core/editing';

const control =
  'min-h-11 rounded-md border border-edge bg-paper px-2 font-mono font-semibold text-sea focus-visible:outline-3 focus-visible:outline-sea';

/** Four decimals are as fine as anybody sets a robot. */
const tidy = (value: number) => String(Number(value.toFixed(4)));

function NumberField({
  field,
  set,
}: {
  field: Extract<StepField, { kind: 'number' }>;
  set: (value: string) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = draft ?? field.value;
  const sound = Number.isFinite(typedNumber(shown));
  const write = (number: string, unit: string) => set(unit === '' ? number : `${number} ${unit}`);
  return (
    <span className="inline-flex items-center gap-1">
      <input
        className={`${control} w-[5.5rem] text-right ${sound ? '' : 'border-fault'}`}
        inputMode="decimal"
        aria-label={field.unit ? `number in ${field.unit}` : 'number'}
        aria-invalid={!sound}
        value={shown}
        onFocus={(event) => event.target.select()}
        onChange={({ target }) => {
          setDraft(target.value);
          const number = typedNumber(target.value);
          if (Number.isFinite(number)) write(tidy(number), field.unit);
        }}
        onBlur={() => setDraft(null)}
      />
      {field.units.length > 1 ? (
        <select
          className={control}
          aria-label="unit"
          value={field.unit}
          onChange={({ target }) =>
            write(tidy(convert(Number(field.value), field.unit as Unit, target.value as Unit)), target.value)
          }
        >
          {field.units.map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </select>
      ) : field.unit ? (
        <span className="font-mono text-ink-2">{field.unit}</span>
      ) : null}
    </span>
  );
}

function TextField({
  field,
  set,
}: {
  field: Extract<StepField, { kind: 'text' }>;
  set: (value: string) => void;
}) {
  return (
    <input
      className={`${control} w-40`}
      aria-label="text"
      maxLength={60}
      value={field.value}
      // A quotation mark would end the text.
      onChange={({ target }) => set(target.value.replaceAll('"', '').replaceAll('\n', ' '))}
    />
  );
}

function Field({ field, set }: { field: StepField; set: (value: string) => void }) {
  if (field.kind === 'number') return <NumberField field={field} set={set} />;
  if (field.kind === 'text') return <TextField field={field} set={set} />;
  return (
    <select
      className={control}
      aria-label={field.label}
      value={field.value}
      onChange={({ target }) => set(target.value)}
    >
      {field.choices.map(({ value, label }) => (
        <option key={value} value={value}>
          {label}
        </option>
      ))}
    </select>
  );
}

/** A step as a sentence in which every number, name and choice is a field. */
export function StepFields({
  pieces,
  set,
}: {
  pieces: readonly StepPiece[];
  set: (field: StepField, value: string) => void;
}) {
  return (
    <span className="flex flex-wrap items-center gap-x-1.5 gap-y-1 font-mono">
      {pieces.map((piece, i) =>
        piece.kind === 'words' ? (
          <span key={i} className="font-bold">
            {piece.text.trim()}
          </span>
        ) : (
          <Field key={i} field={piece} set={(value) => set(piece, value)} />
        ),
      )}
    </span>
  );
}

/** The same step to be read: fields stand out and can be tapped. */
export function StepWords({ pieces }: { pieces: readonly StepPiece[] }) {
  return (
    <span className="font-mono">
      {pieces.map((piece, i) =>
        piece.kind === 'words' ? (
          <span key={i} className="font-bold">
            {piece.text}
          </span>
        ) : (
          <span key={i} className="text-sea">
            {piece.kind === 'number' ? `${piece.value}${piece.unit && ` ${piece.unit}`}` : piece.value}
          </span>
        ),
      )}
    </span>
  );
}
