import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import express, { Router, type RequestHandler } from 'express';
import helmet from 'helmet';

/** What stands in the built page where each answer has a word of its own. */
const PLACE = '%nonce%';

/** Gives every answer a word that cannot be guessed: styles that show it may be set from code. */
export const withNonce: RequestHandler = (_req, res, next) => {
  res.locals.nonce = randomBytes(16).toString('base64');
  next();
};

/**
 * What a page may do: code and styles from files of this server alone, and styles from code only with the word of this very answer, which
 * the script editor has. Nothing inline, nothing evaluated, no frames, no other host.
 */
export const policy: RequestHandler = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'"],
      styleSrc: [
        "'self'",
        (_req, res) => `'nonce-${String((res as unknown as { locals: { nonce: string } }).locals.nonce)}'`,
      ],
      imgSrc: ["'self'", 'data:'],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  // Said by the proxy that has the certificate: without one this would lock a school out of its own address.
  strictTransportSecurity: false,
});

/** The built pages: files under their own names, and one page for every other address. Nothing where they are not built. */
export function pagesIn(folder: string): Router {
  const router = Router();
  const index = join(folder, 'index.html');
  if (!existsSync(index)) return router;
  router.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  const page: RequestHandler = async (_req, res) => {
    const text = await readFile(index, 'utf8');
    res.setHeader('cache-control', 'no-cache');
    res.type('html').send(text.replaceAll(PLACE, String(res.locals.nonce)));
  };
  router.get('/index.html', page);
  router.use(express.static(folder, { index: false, maxAge: 0 }));
  router.get('/{*path}', page);
  return router;
}
