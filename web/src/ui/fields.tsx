import type { ReactNode } from 'react';

/** Something to be filled in, with its words above it, or beside it. */
export function Labelled({
  label,
  beside = false,
  className = '',
  children,
}: {
  label: ReactNode;
  beside?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <label className={`flex ${beside ? 'items-center gap-2' : 'flex-col'} ${className}`}>
      <span className="text-ink-2">{label}</span>
      {children}
    </label>
  );
}

/** A line of words. */
export function TextField({
  label,
  value,
  change,
  most,
  className = 'w-full',
}: {
  label: string;
  value: string;
  change: (text: string) => void;
  /** Most characters. */
  most: number;
  className?: string;
}) {
  return (
    <Labelled label={label}>
      <input
        className={`input ${className}`}
        maxLength={most}
        autoComplete="off"
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </Labelled>
  );
}

/** A day of the calendar, as ISO 8601 writes it; '' while none is chosen. */
export function DayField({
  label,
  value,
  change,
}: {
  label: string;
  value: string;
  change: (day: string) => void;
}) {
  return (
    <Labelled label={label}>
      <input
        type="date"
        className="input w-40"
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </Labelled>
  );
}

/** One of several things that have a name. Where nothing may be chosen as well, `none` says so and `clear` does it. */
export function SelectField<Id extends string | number>({
  label,
  value,
  choose,
  options,
  none,
  clear,
  disabled = false,
  className = '',
  width = 'w-full',
}: {
  label: string;
  value: Id | '';
  choose: (id: Id) => void;
  options: readonly { id: Id; name: string }[];
  none?: string;
  clear?: () => void;
  disabled?: boolean;
  className?: string;
  width?: string;
}) {
  return (
    <Labelled label={label} className={className}>
      <select
        className={`input ${width}`}
        value={value}
        disabled={disabled}
        onChange={(event) => {
          const found = options.find(({ id }) => String(id) === event.target.value);
          if (found) choose(found.id);
          else clear?.();
        }}
      >
        {none === undefined ? null : <option value="">{none}</option>}
        {options.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </Labelled>
  );
}
