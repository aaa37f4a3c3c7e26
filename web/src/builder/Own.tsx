import type { ReactNode } from 'react';

/** A choice between the lesson’s own and this step's own. */
export function Own({
  what,
  own,
  set,
  children,
}: {
  what: string;
  own: boolean;
  set: (own: boolean) => void;
  children: ReactNode;
}) {
  return (
    <div className="flex flex-col gap-2">
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5 accent-sea"
          checked={own}
          onChange={(event) => set(event.target.checked)}
        />
        This step has {what} of its own
      </label>
      {own ? children : null}
    </div>
  );
}
