import type { Knob } from '@vigilum/core/tuning';
import { Labelled } from '../ui/fields.tsx';
import { NumberField } from '../ui/NumberField.tsx';

/** One axis of a sweep as it is chosen: a number of the script, and from where to where. */
export interface AxisChoice {
  knob: string;
  from: string;
  to: string;
}

/** The choice of one axis. `none`: the sweep may do without it. */
export function AxisFields({
  label,
  knobs,
  value,
  change,
  pick,
  none = false,
  good,
}: {
  label: string;
  knobs: readonly Knob[];
  value: AxisChoice;
  change: (value: AxisChoice) => void;
  /** Another number: with its own range. */
  pick: (name: string) => void;
  none?: boolean;
  good: boolean;
}) {
  const knob = knobs.find(({ name }) => name === value.knob);
  const unit = knob?.unit ? ` ${knob.unit === 'deg' ? '°' : knob.unit}` : '';
  return (
    <fieldset className="flex flex-wrap items-end gap-2">
      <legend className="sr-only">{label}</legend>
      <Labelled label={label} className="min-w-40 flex-1">
        <select className="input h-11" value={value.knob} onChange={(event) => pick(event.target.value)}>
          {none ? <option value="">none</option> : null}
          {knobs.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </Labelled>
      {knob ? (
        <>
          <NumberField
            label={`from${unit}`}
            className="w-20"
            value={value.from}
            good={good}
            change={(from) => change({ ...value, from })}
          />
          <NumberField
            label={`to${unit}`}
            className="w-20"
            value={value.to}
            good={good}
            change={(to) => change({ ...value, to })}
          />
        </>
      ) : null}
    </fieldset>
  );
}
