import { isIP } from 'node:net';
import compression from 'compression';
import express, { type Express, type RequestHandler, type Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { accountRoutes } from './access/accountRoutes.ts';
import { doorRoutes } from './access/doorRoutes.ts';
import { mustBeAllowed } from './access/guard.ts';
import { identify } from './access/identify.ts';
import { whoOf } from './access/who.ts';
import { mayWrite, storageRoutes } from './backup/routes.ts';
import { periodRoutes } from './classes/periods.ts';
import { classRoutes } from './classes/routes.ts';
import { runningHourRoutes } from './hour/routes.ts';
import { hourRoutes } from './classes/hourRoutes.ts';
import { carryOverRoutes } from './readings/carryOver.ts';
import { setupRoutes } from './classes/setupRoutes.ts';
import { teamRoutes } from './classes/teamRoutes.ts';
import { robotTrialRoutes } from './robots/trialRoutes.ts';
import { floorRoutes } from './floor/routes.ts';
import { readingRoutes } from './readings/routes.ts';
import { courseRoutes } from './courses/routes.ts';
import { keptRoutes } from './kept/routes.ts';
import { kitRoutes } from './kits/routes.ts';
import { builderRoutes } from './lessons/builderRoutes.ts';
import { placeRoutes } from './lessons/placeRoutes.ts';
import { lessonRoutes } from './lessons/routes.ts';
import { twistRoutes } from './lessons/twistRoutes.ts';
import { phrasebookRoutes } from './phrasebooks/routes.ts';
import { liveRoutes } from './robots/liveRoutes.ts';
import { robotRoutes } from './robots/routes.ts';
import { runRoutes } from './runs/routes.ts';
import { scriptRoutes } from './scripts/routes.ts';
import { thresholdRoutes } from './thresholds/routes.ts';
import { recordRoutes } from './record/routes.ts';
import { cupboardRoutes } from './plan/cupboardRoutes.ts';
import { seriesRoutes } from './plan/seriesRoutes.ts';
import { planRoutes } from './plan/routes.ts';
import { yearRoutes } from './year/routes.ts';
import { handedOnBy } from './http/handOn.ts';
import { pagesIn, policy, withNonce } from './http/pages.ts';
import { noSuchPage, Problem, problemHandler } from './http/problems.ts';
import { ownTargetOnly } from './http/target.ts';
import type { Services } from './http/services.ts';
import { nowhere } from './db/reach.ts';
import { schoolRoutes } from './schools/routes.ts';
import { healthOf } from './watching/health.ts';

export interface AppOptions {
  services: Services;
  /** Folder of the built pages; without it only the API is served. */
  pages?: string;
  /** Host names this server answers to, beside the loopback ones. */
  hosts?: string[];
  log: (error: unknown) => void;
  /** Requests that one session may make in a minute, and everybody at an address who has none. */
  perMinute?: { session: number; address: number };
  /** Reverse proxies of one's own in front of it. */
  proxies?: number;
  /** Sees every request of the API, to measure it. */
  requests?: RequestHandler;
}

const LOOPBACK = ['localhost'];

/**
 * A school stands behind one address, so that only what has no session is counted by it: 120 tablets come in with some five requests each,
 * and a page in use makes one or two a second.
 */
const PER_MINUTE = { session: 1200, address: 3000 };

/** The session that is counted; null for whoever has none. */
const sessionOf = (res: Response): number | null => {
  const who = whoOf(res);
  return who.role === 'nobody' ? null : who.session;
};

/**
 * Only pages of this very server may talk to it: a foreign host name (a rebound DNS name) or a foreign origin is refused.
 */
function ownPagesOnly(hosts: readonly string[]): RequestHandler {
  return (req, _res, next) => {
    const host = (req.headers.host ?? '').toLowerCase();
    const name = host.replace(/:\d+$/, '');
    // An address in numbers cannot be a rebound name.
    const numeric = isIP(name.replace(/^\[|\]$/g, '')) !== 0;
    if (!numeric && !LOOPBACK.includes(name) && !hosts.includes(name)) {
      throw new Problem(403, 'Wrong address', 'Open Vigilum by the address it printed when it started.');
    }
    const { origin } = req.headers;
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
      throw new Problem(403, 'Foreign page', 'Requests from other pages are refused.');
    }
    next();
  };
}

export function createApp({
  services,
  pages,
  hosts = [],
  log,
  perMinute = PER_MINUTE,
  proxies = 0,
  requests,
}: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  // Who asks is told by the proxies in front, as many as there are; without any nobody may say to be another.
  app.set('trust proxy', proxies);
  app.use(withNonce, policy, ownTargetOnly);
  app.use(ownPagesOnly(hosts));
  app.use(
    compression({
      filter: (req, res) =>
        !req.path.endsWith('/live') && req.path !== '/api/events' && compression.filter(req, res),
    }),
  );
  const limited = rateLimit({
    windowMs: 60_000,
    limit: (_req, res) => (sessionOf(res) === null ? perMinute.address : perMinute.session),
    keyGenerator: (req, res) => {
      const session = sessionOf(res);
      return session === null ? ipKeyGenerator(req.ip ?? '') : `session ${session}`;
    },
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: () => {
      throw new Problem(
        429,
        'Too many requests',
        'This page asks too much at once. Wait a minute, then try again.',
      );
    },
  });
  app.use((req, _res, next) => {
    // No name holds it, and no database takes it.
    if (/%00/.test(req.url)) throw new Problem(404, 'Not found', 'There is nothing at this address.');
    next();
  });
  app.use('/api', (req, res, next) => {
    res.setHeader('cache-control', 'no-store');
    if (['POST', 'PUT', 'PATCH'].includes(req.method) && !req.is('application/json')) {
      throw new Problem(415, 'JSON wanted', 'Send the request as application/json.');
    }
    next();
  });
  // Until it is known who asks, no row of any school is seen.
  app.use('/api', (_req, _res, next) => nowhere(next));
  if (requests) app.use('/api', requests);

  // It answers while the database is away, when nobody can be told from another.
  app.get('/api/health', limited, async (_req, res) => {
    const health = await healthOf(services);
    res.status(health.ok ? 200 : 503).json(health);
  });
  const { seats } = services;
  app.use(
    '/api',
    identify(services.db, services.access, (req) => (seats ? handedOnBy(req, seats.key) : null)),
    limited,
    mayWrite(services),
  );
  // Files of readings and whole lessons are larger than anything typed; their routes read them themselves.
  const plain = express.json({ limit: '300kb', strict: true });
  const large = /\/imports$|\/draft$|^\/lessons$/;
  app.use('/api', (req, res, next) => (large.test(req.path) ? next() : plain(req, res, next)));
  const events = services.changes.route(services.access.sessions, services.db);
  app.get('/api/events', async (req, res, next) => {
    await mustBeAllowed(
      services.db,
      whoOf(res),
      'GET /events',
      {},
      { query: {}, body: undefined, at: services.now() },
    );
    return events(req, res, next);
  });
  for (const routes of [
    accountRoutes,
    doorRoutes,
    schoolRoutes,
    classRoutes,
    periodRoutes,
    setupRoutes,
    teamRoutes,
    hourRoutes,
    runningHourRoutes,
    carryOverRoutes,
    kitRoutes,
    phrasebookRoutes,
    robotRoutes,
    robotTrialRoutes,
    liveRoutes,
    readingRoutes,
    thresholdRoutes,
    scriptRoutes,
    runRoutes,
    yearRoutes,
    planRoutes,
    cupboardRoutes,
    seriesRoutes,
    recordRoutes,
    floorRoutes,
    courseRoutes,
    lessonRoutes,
    builderRoutes,
    twistRoutes,
    placeRoutes,
    keptRoutes,
    storageRoutes,
  ]) {
    app.use('/api', routes(services));
  }
  app.use('/api', noSuchPage);

  if (pages) app.use(pagesIn(pages));
  app.use(noSuchPage);
  app.use(problemHandler(log));
  return app;
}
