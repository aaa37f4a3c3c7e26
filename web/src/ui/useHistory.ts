import { useCallback, useState } from 'react';

/** Most steps back that are kept. */
const MOST = 200;

/** A value with its past and its undone future. `amend` changes it without a step of its own, as while dragging. */
export function useHistory<T>(first: T) {
  const [{ past, now, future }, set] = useState<{ past: T[]; now: T; future: T[] }>({
    past: [],
    now: first,
    future: [],
  });
  const change = useCallback(
    (next: T) => set((was) => ({ past: [...was.past, was.now].slice(-MOST), now: next, future: [] })),
    [],
  );
  const amend = useCallback((next: T) => set((was) => ({ ...was, now: next })), []);
  const undo = useCallback(
    () =>
      set((was) =>
        was.past.length === 0
          ? was
          : { past: was.past.slice(0, -1), now: was.past.at(-1)!, future: [was.now, ...was.future] },
      ),
    [],
  );
  const redo = useCallback(
    () =>
      set((was) =>
        was.future.length === 0
          ? was
          : { past: [...was.past, was.now], now: was.future[0]!, future: was.future.slice(1) },
      ),
    [],
  );
  return { now, change, amend, undo, redo, canUndo: past.length > 0, canRedo: future.length > 0 };
}
