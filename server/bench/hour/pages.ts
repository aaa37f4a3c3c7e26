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

/** The events of a stream as they come, until it ends. */
export async function* eventsOf(response: Response): AsyncGenerator<{ event: string; data: string }> {
  let rest = '';
  for await (const text of response.body!.pipeThrough(new TextDecoderStream())) {
    const parts = (rest + text).split('\n\n');
    rest = parts.pop()!;
    for (const part of parts) {
      const [event, data] = ['event', 'data'].map(
        (name) => new RegExp(`^${name}: (.*)$`, 'm').exec(part)?.[1],
      );
      if (event !== undefined && data !== undefined) yield { event, data };
    }
  }
}

/**
 * Reads the change feed of a server until stopped, taking it up where it broke off, as browsers do. `missed`: what came meanwhile can no
 * longer be told one by one.
 */
export function follow(
  base: string,
  cookie: string,
  onChange: (change: Change) => void,
  missed: () => void = () => undefined,
): () => void {
  const stop = new AbortController();
  let after: number | null = null;
  const read = async () => {
    while (!stop.signal.aborted) {
      try {
        const response = await fetch(`${base}/api/events${after === null ? '' : `?after=${after}`}`, {
          signal: stop.signal,
          headers: cookie ? { cookie } : {},
        });
        for await (const { event, data } of eventsOf(response)) {
          if (event === 'awake') continue;
          const change = JSON.parse(data) as Change;
          after = change.revision;
          if (event === 'missed') missed();
          if (event === 'changed') onChange(change);
        }
      } catch {
        // Broken off: again in a moment.
      }
      await wait(300);
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
