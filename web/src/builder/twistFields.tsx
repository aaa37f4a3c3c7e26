import type { NumberParameter, TwistParameter } from '@vigilum/core/lesson';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { useTyped } from '../ui/useTyped.ts';

const unitWords = ['', 'cm', 'mm', 'in', 'deg', 's', '%'] as const;

/** A short text with its label. */
export function Text({
  label,
  value,
  change,
  className = 'w-28',
  mono = false,
}: {
  label: string;
  value: string;
  change: (text: string) => void;
  className?: string;
  mono?: boolean;
}) {
  return (
    <label className={`flex min-w-0 flex-col ${className}`}>
      <span className="text-ink-2">{label}</span>
      <input
        className={`input w-full ${mono ? 'font-mono' : ''}`}
        value={value}
        maxLength={200}
        onChange={(event) => change(event.target.value)}
      />
    </label>
  );
}

const read = (text: string): number | undefined => {
  const number = typedNumber(text);
  return text.trim() !== '' && Number.isFinite(number) ? number : undefined;
};

/** A number as typed; only good ones are handed on. */
export function NumberText({
  label,
  value,
  change,
}: {
  label: string;
  value: number;
  change: (value: number) => void;
}) {
  const { typed, type } = useTyped(value, { write: (number) => formatNumber(number, 4), read }, change);
  return <Text label={label} mono className="w-20" value={typed} change={type} />;
}

/** One parameter: its name, what it is, and what it may be. */
export function ParameterFields({
  parameter,
  change,
}: {
  parameter: TwistParameter;
  change: (parameter: TwistParameter) => void;
}) {
  const both = (
    <>
      <Text label="name" mono value={parameter.name} change={(name) => change({ ...parameter, name })} />
      <Text
        label="what it is"
        className="min-w-40 flex-1"
        value={parameter.says}
        change={(says) => change({ ...parameter, says })}
      />
    </>
  );
  if (parameter.is === 'word')
    return (
      <>
        {both}
        <Text
          label="words, with commas"
          className="min-w-48 flex-1"
          value={parameter.words.join(', ')}
          change={(text) => {
            const words = text.split(',').map((word) => word.trim());
            change({
              ...parameter,
              words,
              usual: words.includes(parameter.usual) ? parameter.usual : words[0]!,
            });
          }}
        />
        <Labelled label="usually">
          <select
            className="input h-11 w-auto"
            value={parameter.usual}
            onChange={(event) => change({ ...parameter, usual: event.target.value })}
          >
            {parameter.words.map((word) => (
              <option key={word}>{word}</option>
            ))}
          </select>
        </Labelled>
      </>
    );
  const number = (field: 'from' | 'to' | 'step' | 'usual', label: string) => (
    <NumberText
      label={label}
      value={parameter[field]}
      change={(value) => change({ ...parameter, [field]: value })}
    />
  );
  return (
    <>
      {both}
      {number('from', 'from')}
      {number('to', 'to')}
      {number('step', 'step')}
      {number('usual', 'usually')}
      <Labelled label="unit">
        <select
          className="input h-11 w-auto"
          value={parameter.unit}
          onChange={(event) => change({ ...parameter, unit: event.target.value as NumberParameter['unit'] })}
        >
          {unitWords.map((unit) => (
            <option key={unit} value={unit}>
              {unit || 'none'}
            </option>
          ))}
        </select>
      </Labelled>
    </>
  );
}
