import { useSyncExternalStore } from 'react';

export type Theme = 'daywatch' | 'nightwatch';

const listeners = new Set<() => void>();

function stored(): Theme {
  try {
    return localStorage.getItem('theme') === 'nightwatch' ? 'nightwatch' : 'daywatch';
  } catch {
    return 'daywatch';
  }
}

let current: Theme = stored();
document.documentElement.dataset.theme = current;

export function setTheme(theme: Theme): void {
  current = theme;
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem('theme', theme);
  } catch {
    // Kept for this page only.
  }
  for (const listener of listeners) listener();
}

/** The theme in force; components that draw on canvas use it to draw anew. */
export function useTheme(): Theme {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => current,
  );
}

/** The value of a colour role in the theme in force. */
export const role = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
