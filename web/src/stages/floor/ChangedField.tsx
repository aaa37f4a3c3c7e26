import { typedNumber } from '@vigilum/core/quantity';
import { Labelled } from '../../ui/fields.tsx';
import { knobAmount, type Knob } from '@vigilum/core/tuning';

/** What was changed on the robot before a trial: nothing, one number of the script, or something in words. */
export interface WhatChanged {
  /** Name of a number; '' for nothing, `WORDS` for something else. */
  what: string;
  text: string;
}
export const nothingChanged: WhatChanged = { what: '', text: '' };
const WORDS = ' in words';

/** The change as it is sent, or why it cannot be. */
export function changeOf(
  { what, text }: WhatChanged,
  knobs: readonly Knob[],
): { says: string; knobs: Record<string, number> | null; fault: string | null } {
  if (what === '') return { says: '', knobs: null, fault: null };
  if (what === WORDS) return { says: text.trim(), knobs: null, fault: null };
  const knob = knobs.find(({ name }) => name === what);
  const value = typedNumber(text);
  if (!knob || !Number.isFinite(value) || Math.abs(value) > 100_000)
    return { says: '', knobs: null, fault: `What was ${what} set to? Type a number.` };
  return {
    says: `${what} ${knobAmount({ value, unit: knob.unit })}`,
    knobs: { [what]: value },
    fault: null,
  };
}

/** “Changed before it”: a number of the script with its new value, or words. */
export function ChangedField({
  knobs,
  value,
  change,
  fault,
}: {
  knobs: readonly Knob[];
  value: WhatChanged;
  change: (value: WhatChanged) => void;
  fault: string | null;
}) {
  const knob = knobs.find(({ name }) => name === value.what);
  const unit = knob?.unit === 'deg' ? '°' : (knob?.unit ?? '');
  return (
    <div className={`grid items-end gap-3 ${value.what === '' ? '' : 'grid-cols-2'}`}>
      <Labelled label="changed before it" className="min-w-0">
        <select
          className="input w-full"
          value={value.what}
          onChange={(event) => change({ what: event.target.value, text: '' })}
        >
          <option value="">nothing</option>
          {knobs.map((one) => (
            <option key={one.name} value={one.name}>
              {one.name} (script: {knobAmount(one)})
            </option>
          ))}
          <option value={WORDS}>something else</option>
        </select>
      </Labelled>
      {value.what === '' ? null : (
        <Labelled
          label={knob ? `${knob.name} was set to${unit ? `, ${unit}` : ''}` : 'what was changed'}
          className="min-w-0"
        >
          <input
            className={`input w-full ${knob ? 'font-mono' : ''}`}
            maxLength={knob ? 12 : 120}
            inputMode={knob ? 'decimal' : 'text'}
            autoComplete="off"
            aria-invalid={fault !== null}
            value={value.text}
            onChange={(event) => change({ ...value, text: event.target.value })}
          />
        </Labelled>
      )}
      {fault ? (
        <p role="alert" className="col-span-2 text-fault">
          {fault}
        </p>
      ) : null}
    </div>
  );
}
