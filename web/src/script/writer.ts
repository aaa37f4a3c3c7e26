const KEY = 'who writes';

/** Who writes on this machine, in their own words; empty when nobody said. */
export function writerName(): string {
  try {
    return localStorage.getItem(KEY) ?? '';
  } catch {
    return '';
  }
}

/** Keeps who writes; false where storage is refused. */
export function keepWriter(name: string): void {
  try {
    localStorage.setItem(KEY, name);
  } catch {
    // The name stands until the page is left.
  }
}
