import { createStore, del, entries, set } from 'idb-keyval';

/** What a browser keeps of what is not yet stored. */
export interface Shelf {
  all(): Promise<[string, unknown][]>;
  put(key: string, value: unknown): Promise<void>;
  drop(key: string): Promise<void>;
}

/** A shelf that is told when its page is left: what it has not taken by then must be safe at once. */
export interface LeavableShelf extends Shelf {
  leave(): void;
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

/** A key of the browser's storage under which a page that is left puts what its database has not taken yet. */
const RESCUED = 'vigilum rescued ';

/** What the browser's storage does, as far as it is needed. */
export type Pocket = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

/**
 * A shelf that takes its time, such as the browser's database, with nothing lost on the way: of one thing only the newest state waits, and
 * what still waits when the page is left goes into `pocket`, which takes it at once, and is put back by the next page.
 */
export function unhurried(slow: Shelf, pocket: Pocket): LeavableShelf {
  /** The newest state of what the shelf has not taken; null for what is dropped. */
  const waiting = new Map<string, { value: unknown } | null>();
  const busy = new Map<string, Promise<void>>();
  const pump = async (key: string): Promise<void> => {
    for (let next = waiting.get(key); next !== undefined; next = waiting.get(key)) {
      await (next === null ? slow.drop(key) : slow.put(key, next.value));
      // A newer one may have come meanwhile.
      if (waiting.get(key) === next) waiting.delete(key);
    }
    busy.delete(key);
  };
  const take = (key: string, state: { value: unknown } | null): Promise<void> => {
    waiting.set(key, state);
    const now = busy.get(key) ?? pump(key);
    busy.set(key, now);
    return now;
  };
  const rescued = (): [string, { value: unknown } | null][] =>
    Array.from({ length: pocket.length }, (_, i) => pocket.key(i) ?? '')
      .filter((name) => name.startsWith(RESCUED))
      .map((name) => [
        name.slice(RESCUED.length),
        JSON.parse(pocket.getItem(name) ?? 'null') as { value: unknown } | null,
      ]);
  return {
    put: (key, value) => take(key, { value }),
    drop: (key) => take(key, null),
    async all() {
      const held = new Map(await slow.all());
      for (const [key, state] of rescued()) {
        if (state === null) held.delete(key);
        else held.set(key, state.value);
        await take(key, state);
        pocket.removeItem(RESCUED + key);
      }
      return [...held];
    },
    leave() {
      for (const [key, state] of waiting)
        try {
          pocket.setItem(RESCUED + key, JSON.stringify(state));
        } catch {
          // A browser that keeps nothing has nothing to put back.
        }
    },
  };
}

/** The browser's own database. */
export function browserShelf(): LeavableShelf {
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
  const slow: Shelf = {
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
  let pocket: Pocket;
  try {
    pocket = window.localStorage;
  } catch {
    return { ...slow, leave: () => undefined };
  }
  return unhurried(slow, pocket);
}
