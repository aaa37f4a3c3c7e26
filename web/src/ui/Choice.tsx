/** One of a few, as buttons side by side: unit, view, direction. */
export function Choice<T extends string>({
  label,
  options,
  value,
  choose,
  words,
}: {
  label: string;
  options: readonly T[];
  value: T;
  choose: (value: T) => void;
  words?: Partial<Record<T, string>>;
}) {
  return (
    <div role="group" aria-label={label} className="inline-flex flex-wrap gap-1">
      {options.map((option) => (
        <button
          key={option}
          type="button"
          aria-pressed={option === value}
          className={`min-h-11 rounded-lg border px-3.5 ${option === value ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`}
          onClick={() => choose(option)}
        >
          {words?.[option] ?? option}
        </button>
      ))}
    </div>
  );
}
