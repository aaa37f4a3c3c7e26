import { useState } from 'react';

/**
 * A value as somebody types it. Text that cannot be read stays on the screen and is not handed on; when the value
 * changes from elsewhere, by undo say, the text follows it. `read` gives undefined for what is no value.
 */
export function useTyped<T>(
  value: T,
  { write, read }: { write: (value: T) => string; read: (text: string) => T | undefined },
  change: (value: T) => void,
): { typed: string; good: boolean; type: (text: string) => void } {
  const told = write(value);
  const [typed, setTyped] = useState(told);
  const [seen, setSeen] = useState(told);
  if (told !== seen) {
    setSeen(told);
    const own = read(typed);
    if (own === undefined || write(own) !== told) setTyped(told);
  }
  return {
    typed,
    good: read(typed) !== undefined,
    type: (text) => {
      setTyped(text);
      const next = read(text);
      if (next !== undefined) change(next);
    },
  };
}
