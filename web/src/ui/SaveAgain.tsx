import type { UseMutationResult } from '@tanstack/react-query';
import { Button } from './Button.tsx';
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
    <Button icon={RotateCw} onClick={() => save.mutate(save.variables)}>
      {what} is not saved: save again
    </Button>
  );
}
