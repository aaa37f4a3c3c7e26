import type { UseMutationResult } from '@tanstack/react-query';
import { RotateCw } from 'lucide-react';

/** After a save that failed: what was read is still here, and can be sent again. */
export function SaveAgain<Output, Input>({
  save,
  what,
}: {
  save: UseMutationResult<Output, Error, Input>;
  what: string;
}) {
  if (!save.isError || save.variables === undefined) return null;
  return (
    <button type="button" className="btn btn-plain" onClick={() => save.mutate(save.variables)}>
      <RotateCw size={18} aria-hidden="true" /> {what} is not saved: save again
    </button>
  );
}
