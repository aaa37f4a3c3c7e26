import type { ReactNode } from 'react';

/** A box to tick, as large as a finger, with its words beside it. */
export function CheckBox({
  checked,
  change,
  children,
}: {
  checked: boolean;
  change: (checked: boolean) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex min-h-11 items-center gap-2">
      <input
        type="checkbox"
        className="size-5 shrink-0 accent-(--sea)"
        checked={checked}
        onChange={(event) => change(event.target.checked)}
      />
      {children}
    </label>
  );
}
