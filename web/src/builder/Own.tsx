import type { ReactNode } from 'react';
import { CheckBox } from '../ui/CheckBox.tsx';

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
      <CheckBox checked={own} change={set}>
        This step has {what} of its own
      </CheckBox>
      {own ? children : null}
    </div>
  );
}
