import { createStore, del, entries, set } from 'idb-keyval';

/** What a browser keeps of what is not yet stored. */
export interface Shelf {
  all(): Promise<[string, unknown][]>;
  put(key: string, value: unknown): Promise<void>;
  drop(key: string): Promise<void>;
}

/** A shelf that is empty after a reload: for tests, and for browsers that refuse to keep anything. */
export function memoryShelf(): Shelf & { held: Map<string, unknown> } {
  const held = new Map<string, unknown>();
  return {
    held,
    all: () => Promise.resolve([...held]),
    put: (key, value) => Promise.resolve(void held.set(key, structuredClone(value))),
    drop: (key) => Promise.resolve(void held.delete(key)),
  };
}

/** The browser's own database. */
export function browserShelf(): Shelf {
  const store = createStore('vigilum', 'unsaved');
  const memory = memoryShelf();
  // A browser that refuses its database still keeps things while the page is open.
  const or = async <T>(work: () => Promise<T>, instead: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch {
      return instead();
    }
  };
  return {
    all: () =>
      or(
        () => entries<string, unknown>(store),
        () => memory.all(),
      ),
    put: (key, value) =>
      or(
        () => set(key, value, store),
        () => memory.put(key, value),
      ),
    drop: (key) =>
      or(
        () => del(key, store),
        () => memory.drop(key),
      ),
  };
}
