import { PAGE_HEADER } from '@vigilum/contract/changes';
import { ApiProblem, createClient, type Client } from '@vigilum/contract/client';
import type { Change } from '@vigilum/contract/types';
import type { Figures } from './figures.ts';
import { wait, type Servers } from './servers.ts';

/** What all pages of an hour share. */
export interface Hour {
  servers: Servers;
  figures: Figures;
}

/** A page's way to the server that it stays with. */
export const clientOf = ({ servers, figures }: Hour, page: string, cookie?: string, n = 0): Client =>
  createClient(figures.timed, `${servers.baseOf(n)}/api`, {
    [PAGE_HEADER]: page,
    ...(cookie ? { cookie } : {}),
  });

/** Comes in by a door, and gives the cookie by which it is known from then on. */
export async function enter(
  { servers }: Hour,
  door: 'cards' | 'boards',
  body: Record<string, string>,
): Promise<string> {
  const answer = await fetch(`${servers.baseOf(0)}/api/doors/${door}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie: 'vigilum=out' },
    body: JSON.stringify(body),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0];
  if (answer.status !== 201 || !cookie) throw new Error(`The door stayed shut: ${await answer.text()}`);
  return cookie;
}

/** Reads the change feed of the server until stopped, taking it up again when it breaks off. */
export function hear(
  { servers }: Hour,
  cookie: string,
  n: number,
  onChange: (change: Change) => void,
): () => void {
  const stop = new AbortController();
  let after: number | null = null;
  const read = async () => {
    while (!stop.signal.aborted) {
      try {
        const response = await fetch(
          `${servers.baseOf(n)}/api/events${after === null ? '' : `?after=${after}`}`,
          {
            signal: stop.signal,
            headers: { cookie },
          },
        );
        const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
        let rest = '';
        for (;;) {
          const { value, done } = await reader.read();
          if (done) break;
          const parts = (rest + value).split('\n\n');
          rest = parts.pop()!;
          for (const part of parts) {
            const data = /^data: (.*)$/m.exec(part)?.[1];
            if (!data) continue;
            const change = JSON.parse(data) as Change;
            after = change.revision;
            if (/^event: changed$/m.test(part)) onChange(change);
          }
        }
      } catch {
        // Broken off: again in a moment, as browsers do.
      }
      await wait(500);
    }
  };
  void read();
  return () => stop.abort();
}

/** A write as the outbox sends it: again with the same key until it is answered. */
export async function surely<T>(work: (key: string) => Promise<T>): Promise<T> {
  const key = `bench-${Math.random().toString(36).slice(2)}-${Date.now()}`;
  for (let misses = 1; ; misses++) {
    try {
      return await work(key);
    } catch (error) {
      if (!(error instanceof ApiProblem) || (error.status > 0 && error.status < 500)) throw error;
      await wait(Math.min(10_000, 500 * 2 ** Math.min(misses, 4)));
    }
  }
}
