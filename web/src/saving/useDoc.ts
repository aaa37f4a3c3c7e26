import { useEffect, useMemo, useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { outbox } from './box.ts';
import type { Doc, Kind } from './doc.ts';
import type { Side } from './machine.ts';
import type { Addition, Entry, Waits } from './outbox.ts';

const nothing = () => () => undefined;

/** What a page that holds its own text must know of a thing: all but the letters typed on it. */
const told = <Id, V, A extends { revision: number }>({ state, outside, answer }: Doc<Id, V, A>): string =>
  [state.phase, outside, state.says, state.theirs?.revision, answer?.revision].join(' ');

/** The same for a thing that may not be there yet: a kit that is being made. */
export function useDocOf<Id, V, A extends { revision: number }>(
  kind: Kind<Id, V, A>,
  id: Id | null,
  base: Side<V> | null,
  /** Whether every letter makes the page anew; else only what it did not type itself. */
  everyLetter = true,
): Doc<Id, V, A> | null {
  const name = JSON.stringify(id);
  const doc = useMemo(
    (): Doc<Id, V, A> | null => (id === null || base === null ? null : outbox.open<Id, V, A>(kind, id, base)),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the thing is another only when its name is
    [kind, name],
  );
  useSyncExternalStore(doc?.subscribe ?? nothing, () =>
    !doc || everyLetter ? (doc?.state ?? null) : told(doc),
  );
  const revision = base?.revision;
  useEffect(() => {
    if (doc && base) doc.happen({ is: 'heard', theirs: base });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a revision has one value
  }, [doc, revision]);
  useEffect(
    () => () => {
      if (!doc) return;
      if (kind.restMs !== null) doc.save();
      // The page that comes next may show it as well.
      window.setTimeout(() => outbox.release(doc), 1000);
    },
    [doc, kind],
  );
  return doc;
}

/**
 * One thing that is edited, as it was left or as the server has it. It follows what others save, and is saved when the page
 * is left.
 */
export const useDoc = <Id, V, A extends { revision: number }>(
  kind: Kind<Id, V, A>,
  id: Id,
  base: Side<V>,
  everyLetter = true,
): Doc<Id, V, A> => useDocOf(kind, id, base, everyLetter)!;

/** Saves a thing by a button, and says what became of it where the page does not show it. True when the server has it. */
export async function saveNow<Id, V, A extends { revision: number }>(
  doc: Doc<Id, V, A>,
  value: V,
): Promise<boolean> {
  doc.put(value);
  await doc.quiet();
  const { phase } = doc.state;
  if (phase === 'offline') toast('The server does not answer. It is kept here and saved when it does.');
  return phase === 'idle' || phase === 'typing';
}

/** What waits for the server, for all the application. */
export const useWaits = (): Waits => useSyncExternalStore(outbox.subscribe, outbox.waits);

/** Additions of a kind that wait for the server. */
export function useWaiting<Given, Answer>(kind: Addition<Given, Answer>): (Entry & { given: Given })[] {
  useWaits();
  return outbox.waiting(kind);
}
