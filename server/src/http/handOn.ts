import { request } from 'node:http';
import type { Request, Response } from 'express';

/** With the key of the server that it goes to: what one hands on is never handed on twice. */
export const HANDED_ON = 'x-vigilum-handed-on';

/** What goes along: who asks, and what page. Never the origin or the address by which the first server was asked. */
const KEPT = ['cookie', 'accept', 'last-event-id', 'x-vigilum-page', 'content-type'];

/** The other server did not take it. */
export class NotTaken extends Error {}

/**
 * Hands a request on to another server of ours, and its answer back as it comes, streams too. Throws NotTaken where it does not
 * answer at all; nothing has been sent back then.
 */
export function handOn(
  req: Request,
  res: Response,
  { url, key }: { url: string; key: string },
): Promise<void> {
  return new Promise((done, fail) => {
    const headers: Record<string, string> = { [HANDED_ON]: key };
    for (const name of KEPT) {
      const value = req.headers[name];
      if (typeof value === 'string') headers[name] = value;
    }
    const body = req.body === undefined ? null : Buffer.from(JSON.stringify(req.body));
    if (body) headers['content-length'] = String(body.length);
    const to = request(
      new URL(req.originalUrl, url),
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
