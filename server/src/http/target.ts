import type { RequestHandler } from 'express';
import { Problem } from './problems.ts';

/** How a request line names a page of this very server (RFC 9112, 3.2.1): one slash, then no second one, and nothing unseen. */
const ORIGIN_FORM = /^\/(?![/\\])[\x21-\x7e]*$|^\/$/;

/**
 * Refuses a request line that names another server: whole addresses (`GET http://elsewhere/ HTTP/1.1`), hosts, `//host` and `*`. Those
 * are for proxies, which this is not; a library that reads one as an address would lead elsewhere.
 */
export const ownTargetOnly: RequestHandler = (req, _res, next) => {
  if (!ORIGIN_FORM.test(req.originalUrl))
    throw new Problem(400, 'Not a page of this server', 'The request line must name a path of this server.');
  next();
};
