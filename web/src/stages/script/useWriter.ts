import { useState } from 'react';

const KEY = 'who writes';

const stored = (): string => {
  try {
    return localStorage.getItem(KEY) ?? '';
  } catch {
    return '';
  }
};

/** Who writes on this machine, in their own words: kept here, and saved with each version. */
export function useWriter(): [string, (name: string) => void] {
  const [name, setName] = useState(stored);
  const set = (next: string) => {
    setName(next);
    try {
      localStorage.setItem(KEY, next);
    } catch {
      // Storage is refused: the name stands until the page is left.
    }
  };
  return [name, set];
}
