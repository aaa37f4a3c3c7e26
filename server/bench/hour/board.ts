import type { Client } from '@vigilum/contract/client';
import { clientOf, follow, type Hour } from './pages.ts';
import type { Team } from './school.ts';

/** Changes that come within this time are asked for together, ms. */
const GATHER_MS = 250;

/** A board that shows some teams: asked for again when it has heard that one of them did something. */
export function board(
  hour: Hour,
  cookie: string,
  n: number,
  own: readonly Team[],
  ask: (api: Client) => Promise<unknown>,
): () => void {
  const { figures } = hour;
  const api = clientOf(hour, 'bench-board', cookie, n);
  const ids = new Set(own.map(({ id }) => id));
  const waiting = new Set<number>();
  let busy = false;
  let planned = false;
  const plan = () => {
    if (planned || busy || waiting.size === 0) return;
    planned = true;
    setTimeout(() => {
      planned = false;
      busy = true;
      const wanted = [...waiting];
      waiting.clear();
      // What was stored before this question is shown by its answer.
      const due = wanted.flatMap((id) => {
        const at = figures.stored.get(id);
        figures.stored.delete(id);
        return at === undefined ? [] : [at];
      });
      figures.requestsOfBoards++;
      void ask(api)
        .then(
          () => {
            figures.boardChanges += wanted.length;
            for (const at of due) figures.toBoard.push(performance.now() - at);
          },
          () => wanted.forEach((id) => waiting.add(id)),
        )
        .finally(() => {
          busy = false;
          plan();
        });
    }, GATHER_MS);
  };
  return follow(hour.servers.baseOf(n), cookie, (change) => {
    const touched = change.what === 'evidence' ? [change.team] : change.what === 'robot' ? change.teams : [];
    for (const id of touched) if (ids.has(id)) waiting.add(id);
    plan();
  });
}
