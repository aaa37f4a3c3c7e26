/** A number that is typed, with its unit in the label. What is wrong with it stands below. */
export function NumberField({
  label,
  value,
  change,
  good = true,
  wrong,
  className = 'w-36',
}: {
  label: string;
  value: string;
  change: (text: string) => void;
  good?: boolean;
  wrong?: string;
  className?: string;
}) {
  return (
    <label className="flex flex-col">
      <span className="text-ink-2">{label}</span>
      <input
        className={`input font-mono text-xl ${className}`}
        inputMode="decimal"
        autoComplete="off"
        value={value}
        aria-invalid={!good}
        onChange={(event) => change(event.target.value)}
      />
      {good || !wrong ? null : <span className="text-fault">{wrong}</span>}
    </label>
  );
}
