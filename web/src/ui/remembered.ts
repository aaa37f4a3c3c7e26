import { useSyncExternalStore } from 'react';

/** A choice that this machine remembers; for this page only where storage is refused. */
export function remembered<T extends string>(key: string, options: readonly T[], usual: T) {
  const listeners = new Set<() => void>();
  let current: T = usual;
  try {
    const word = localStorage.getItem(key);
    current = options.find((option) => option === word) ?? usual;
  } catch {
    // Storage is refused: the usual choice stands.
  }
  return {
    set: (value: T): void => {
      current = value;
      try {
        localStorage.setItem(key, value);
      } catch {
        // Kept for this page only.
      }
      for (const tell of listeners) tell();
    },
    use: (): T =>
      useSyncExternalStore(
        (tell) => {
          listeners.add(tell);
          return () => listeners.delete(tell);
        },
        () => current,
      ),
  };
}
