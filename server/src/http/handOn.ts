import { request } from 'node:http';
import type { Request, Response } from 'express';
import { hashOf } from '../access/secrets.ts';
import { whoOf, type Who } from '../access/who.ts';

/** With the key of the server that it goes to: what one hands on is never handed on twice. */
export const HANDED_ON = 'x-vigilum-handed-on';
/** In whose name it is handed on, as the first server found; the other believes it for the sake of its key. */
const ASKER = 'x-vigilum-asker';

/** What goes along of the request. Never its cookie, its origin or the address by which the first server was asked. */
const KEPT = ['accept', 'last-event-id', 'x-vigilum-page', 'content-type'];

/** In whose name another server of ours hands this on; null where none does, or without this server's key. */
export function handedOnBy(req: Request, key: string): Who | null {
  const shown = req.headers[HANDED_ON];
  const asker = req.headers[ASKER];
  if (typeof shown !== 'string' || typeof asker !== 'string' || hashOf(shown) !== hashOf(key)) return null;
  return JSON.parse(Buffer.from(asker, 'base64url').toString()) as Who;
}

/** The other server did not take it. */
export class NotTaken extends Error {}

/**
 * Hands a request on to another server of ours, and its answer back as it comes, streams too. `path` is made from the contract, never
 * taken from the request line, so that it leads to no other host. Throws NotTaken where the other does not answer at all; nothing has
 * been sent back then.
 */
export function handOn(
  req: Request,
  res: Response,
  { url, key, path }: { url: string; key: string; path: string },
): Promise<void> {
  return new Promise((done, fail) => {
    const headers: Record<string, string> = {
      [HANDED_ON]: key,
      [ASKER]: Buffer.from(JSON.stringify(whoOf(res))).toString('base64url'),
    };
    for (const name of KEPT) {
      const value = req.headers[name];
      if (typeof value === 'string') headers[name] = value;
    }
    const body = req.body === undefined ? null : Buffer.from(JSON.stringify(req.body));
    if (body) headers['content-length'] = String(body.length);
    const to = request(
      new URL(`/api${path}`, url),
      { method: req.method, headers, timeout: 5000 },
      (answer) => {
        to.setTimeout(0);
        res.status(answer.statusCode ?? 502);
        for (const name of ['content-type', 'cache-control']) {
          const value = answer.headers[name];
          if (value !== undefined) res.setHeader(name, value);
        }
        res.flushHeaders();
        answer.pipe(res);
        // A stream that breaks off in the middle ends here too: the page asks again.
        answer.on('error', () => res.end());
        answer.on('close', () => {
          res.end();
          done();
        });
      },
    );
    to.on('timeout', () => to.destroy(new Error('timeout')));
    to.on('error', (error) => {
      if (res.headersSent) {
        res.end();
        done();
      } else fail(new NotTaken(error.message));
    });
    res.on('close', () => to.destroy());
    if (body) to.write(body);
    to.end();
  });
}
