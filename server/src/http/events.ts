import type { RequestHandler, Response } from 'express';

/** What changed, so that open pages can ask again. */
export interface Change {
  what: 'team' | 'robot' | 'class' | 'kit' | 'courses' | 'lesson';
  id: number;
}

/** Opens a server-sent event stream on a response and keeps it awake. Returns a writer of events. */
export function openStream(res: Response): (event: string, data: unknown) => void {
  res.writeHead(200, {
    'content-type': 'text/event-stream; charset=utf-8',
    'cache-control': 'no-store, no-transform',
    connection: 'keep-alive',
  });
  res.write('retry: 2000\n\n');
  const awake = setInterval(() => res.write(': awake\n\n'), 15_000);
  res.on('close', () => clearInterval(awake));
  return (event, data) => {
    if (!res.writableEnded) res.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  };
}

/** Tells every open page what changed. */
export class ChangeFeed {
  private readonly listeners = new Set<(change: Change) => void>();

  tell(change: Change): void {
    for (const listener of this.listeners) listener(change);
  }

  readonly route: RequestHandler = (_req, res) => {
    const send = openStream(res);
    const listener = (change: Change) => send('changed', change);
    this.listeners.add(listener);
    res.on('close', () => this.listeners.delete(listener));
  };
}
