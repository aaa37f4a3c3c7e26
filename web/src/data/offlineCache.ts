import { createAsyncStoragePersister } from '@tanstack/query-async-storage-persister';
import { persistQueryClientRestore, persistQueryClientSubscribe } from '@tanstack/query-persist-client-core';
import type { Query, QueryClient } from '@tanstack/react-query';
import { clear, createStore, del, get, set } from 'idb-keyval';
import type { Me } from '@vigilum/contract/types';
import { api } from './api.ts';
import { keys } from './keys.ts';

/** A server that does not say who is here within this time is taken for away, ms. */
const PATIENCE_MS = 2000;
/** What is older is of another lesson, ms. */
export const KEPT_MS = 3 * 24 * 3600_000;
/** A team's lesson with all its evidence takes some 300 kB; a tablet keeps so much at most, letters. */
const MOST_KEPT = 8_000_000;
/** What is on a team's page, by the first part of its key. */
const OF_TEAM: readonly unknown[] = [
  'me',
  'team',
  'hour of team',
  'robot',
  'robots',
  'kit',
  'kits',
  'lesson',
  'homework',
  'script',
  'phrasebooks',
];

const store = createStore('vigilum-shown', 'queries');
const persister = createAsyncStoragePersister({
  key: 'team',
  throttleTime: 2000,
  storage: {
    getItem: (key) => get<string>(key, store).catch(() => null),
    // What does not fit is not kept, rather than half of it.
    setItem: (key, text) =>
      (text.length > MOST_KEPT ? del(key, store) : set(key, text, store)).catch(() => undefined),
    removeItem: (key) => del(key, store).catch(() => undefined),
  },
});

/** Whether a query belongs to what a team's tablet keeps. */
const isKept = ({ queryKey, state }: Query): boolean =>
  state.data !== undefined && OF_TEAM.includes(queryKey[0]);

const KNOWN = 'vigilum me';
/** Who this browser was when the server last answered. */
function remembered(): Me | null {
  try {
    return JSON.parse(localStorage.getItem(KNOWN) ?? 'null') as Me | null;
  } catch {
    return null;
  }
}

let stop: (() => void) | null = null;

/** Keeps what a team is shown in this browser, so that its tablet starts without the server; what is kept of others is cleared. */
export function keepShown(client: QueryClient, me: Me): void {
  try {
    localStorage.setItem(KNOWN, JSON.stringify(me));
  } catch {
    // A browser that keeps nothing asks again.
  }
  if (me.role === 'team') {
    stop ??= persistQueryClientSubscribe({
      queryClient: client,
      persister,
      dehydrateOptions: { shouldDehydrateQuery: isKept, shouldDehydrateMutation: () => false },
    });
    return;
  }
  stop?.();
  stop = null;
  void clear(store).catch(() => undefined);
}

/** When a team's lesson stands, the rest that it needs without the server is fetched, ms. */
const AHEAD_MS = 3000;

/** Fetches a team's script ahead, so that its tablet has it without the server too. Returns how not to. */
export function fetchAhead(client: QueryClient, team: string, lesson: string): () => void {
  const path = { id: Number(team), slug: lesson };
  const timer = setTimeout(
    () =>
      client.getQueryData(keys.script(team, lesson)) === undefined &&
      void client.prefetchQuery({
        queryKey: keys.script(team, lesson),
        queryFn: () => api('GET /teams/:id/lessons/:slug/script', path),
        gcTime: KEPT_MS,
        staleTime: KEPT_MS,
      }),
    AHEAD_MS,
  );
  return () => clearTimeout(timer);
}

/**
 * Finds out who is here before anything is shown: from the server or, where it is away, from what this tablet was shown before. Whatever
 * comes out of the browser counts as old, and is asked for again as soon as the server answers.
 */
export async function startShown(client: QueryClient): Promise<void> {
  const away = new Promise<null>((done) => setTimeout(() => done(null), PATIENCE_MS));
  const me = await Promise.race([api('GET /me').catch(() => null), away]);
  if (me) {
    client.setQueryData(keys.me, me);
    keepShown(client, me);
    return;
  }
  await persistQueryClientRestore({
    queryClient: client,
    persister,
    maxAge: KEPT_MS,
    hydrateOptions: { defaultOptions: { queries: { gcTime: KEPT_MS } } },
  }).catch(() => undefined);
  await client.invalidateQueries({ refetchType: 'none' });
  const known = client.getQueryData<Me>(keys.me) ?? remembered();
  if (!known) return;
  client.setQueryData(keys.me, known);
  await client.invalidateQueries({ queryKey: keys.me, refetchType: 'none' });
  if (known.role === 'team') keepShown(client, known);
}
