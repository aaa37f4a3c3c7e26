import type { QueryClient } from '@tanstack/react-query';
import type { BoardTeam, Change, ChangeOf, Today } from '@vigilum/contract/types';
import { api } from './api.ts';
import { gathering } from './gather.ts';
import { boardTeams, keys, keysOf } from './keys.ts';
import { PAGE } from './page.ts';
import { patch } from './patches.ts';

/** Changes that come within this time are asked about together, ms. */
const WINDOW_MS = 250;

const withRows = (today: Today, period: number, now: number, rows: readonly BoardTeam[]): Today => {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return {
    ...today,
    now,
    periods: today.periods.map((one) =>
      one.id === period ? { ...one, teams: one.teams.map((team) => byId.get(team.id) ?? team) } : one,
    ),
  };
};

/** Whether a query is on screen now. */
const isShown = (client: QueryClient, key: readonly unknown[]): boolean =>
  client.getQueryCache().find({ queryKey: key, exact: true })?.isActive() ?? false;

/** A page that made a change waits no longer for what it asked because of it, ms. */
const ANSWERED_MS = 4000;

/** Asks for those rows of today's boards that changes concern; a board that nobody shows is asked for when it is opened. */
async function askForRows(client: QueryClient, changes: readonly ChangeOf[]): Promise<void> {
  const touched = changes.flatMap((change) => boardTeams(change) ?? []);
  if (touched.length === 0) return;
  if (!isShown(client, keys.today)) {
    await client.invalidateQueries({ queryKey: keys.today, refetchType: 'none' });
    return;
  }
  const today = client.getQueryData<Today>(keys.today);
  for (const period of today?.periods ?? []) {
    const wanted = new Set(
      touched
        .filter(({ lesson }) => lesson === null || lesson === period.lesson.slug)
        .flatMap(({ teams }) => teams),
    );
    const teams = period.teams.filter(({ id }) => wanted.has(id)).map(({ id }) => id);
    if (teams.length === 0) continue;
    const asked = Date.now();
    const answer = await api('GET /periods/:id/board', {
      id: period.id,
      query: { teams: teams.join(',') },
    }).catch(() => null);
    if (!answer) {
      // Asked for as a whole when the server is back.
      await client.invalidateQueries({ queryKey: keys.today, refetchType: 'none' });
      return;
    }
    const { now, teams: rows } = answer;
    patch<Today>(client, keys.today, (old) => withRows(old, period.id, now, rows), asked);
  }
}

/** Marks what some changes concern as old; what is on screen of it is asked for again, each thing once. */
export async function ask(client: QueryClient, changes: readonly ChangeOf[]): Promise<void> {
  const unlike = new Map(changes.flatMap(keysOf).map((key) => [JSON.stringify(key), key]));
  const asked = Promise.all([
    askForRows(client, changes),
    ...[...unlike.values()].map((queryKey) => client.invalidateQueries({ queryKey })),
  ]);
  // While the server is away what is asked waits for it; whoever made the change does not.
  await Promise.race([asked, new Promise((done) => setTimeout(done, ANSWERED_MS))]);
}

export interface FeedHooks {
  /** The stream is open: the server answers. */
  opened: () => void;
  lost: () => void;
  /** What was missed cannot be told one by one. */
  missed: () => void;
  /** Every change of others, at once. */
  changed: (change: Change) => void;
}

/** The server says every eight seconds that it is there; a line that is silent for longer is dead, ms. */
const SILENT_MS = 20_000;
const AGAIN_MS = 2000;
const CROWDED_MS = 60_000;

/** Asks again for what could not be had while the server was away. */
function askForFailed(client: QueryClient): void {
  void client.refetchQueries({
    type: 'active',
    predicate: ({ state }) => state.isInvalidated || state.status === 'error',
  });
}

/** Listens to what other pages change. Returns how to stop. */
export function listen(
  client: QueryClient,
  after: { revision: number | null },
  hooks: FeedHooks,
): () => void {
  const gather = gathering<Change>((changes) => ask(client, changes), {
    windowMs: WINDOW_MS,
    setTimer: (run, ms) => window.setTimeout(run, ms),
  });
  let source: EventSource | null = null;
  let watchdog = 0;
  let stopped = false;

  const close = () => {
    window.clearTimeout(watchdog);
    source?.close();
    source = null;
  };
  const lose = () => {
    hooks.lost();
    close();
    // Browsers try again by themselves, but not when the line is only silent.
    watchdog = window.setTimeout(open, AGAIN_MS);
  };
  const alive = () => {
    window.clearTimeout(watchdog);
    watchdog = window.setTimeout(lose, SILENT_MS);
  };
  const note = (event: Event): { revision: number } => {
    alive();
    const data = JSON.parse((event as MessageEvent<string>).data) as { revision: number };
    after.revision = data.revision;
    return data;
  };
  function open(): void {
    if (stopped) return;
    close();
    source = new EventSource(`/api/events${after.revision === null ? '' : `?after=${after.revision}`}`);
    source.onopen = () => {
      alive();
      hooks.opened();
      askForFailed(client);
    };
    source.onerror = lose;
    source.addEventListener('awake', alive);
    // Another page of this browser has taken its place; it is not to take one back at once.
    source.addEventListener('crowded', () => {
      close();
      watchdog = window.setTimeout(open, CROWDED_MS);
    });
    source.addEventListener('here', note);
    // What was missed cannot be told one by one. Pages do not all ask in the same moment.
    source.addEventListener('missed', (event) => {
      note(event);
      hooks.missed();
      window.setTimeout(() => void client.invalidateQueries(), Math.random() * 1500);
    });
    source.addEventListener('changed', (event) => {
      const change = note(event) as Change;
      // What this page did itself it knows from the answer.
      if (change.by === PAGE) return;
      hooks.changed(change);
      gather(change);
    });
  }
  window.addEventListener('offline', lose);
  window.addEventListener('online', open);
  open();
  return () => {
    stopped = true;
    window.removeEventListener('offline', lose);
    window.removeEventListener('online', open);
    close();
  };
}
