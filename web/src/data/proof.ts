import { useSyncExternalStore } from 'react';

/** What the server wants to know before it does what destroys or reveals much: the password, once more. */
interface Asked {
  answer: (given: boolean) => void;
}

let asked: Asked | null = null;
const listeners = new Set<() => void>();
const set = (next: Asked | null) => {
  asked = next;
  for (const tell of listeners) tell();
};

/** Asks whoever is here for their password; false where they think better of it. */
export const askForProof = (): Promise<boolean> =>
  new Promise((done) => {
    // One question at a time: who did not answer the one before has not proved anything.
    asked?.answer(false);
    set({
      answer: (given) => {
        set(null);
        done(given);
      },
    });
  });

/** What is asked now; null for nothing. */
export const useProofAsked = (): Asked | null =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => asked,
  );
