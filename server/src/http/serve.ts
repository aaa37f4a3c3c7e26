import { Router, type Request, type RequestHandler, type Response } from 'express';
import { KEY_HEADER, PAGE_HEADER, TOKEN } from '@vigilum/contract/changes';
import { replyFault, shapeOfRoute } from '@vigilum/contract/schemas';
import type { Body, Params, Query, Reply, Route } from '@vigilum/contract/types';
import { noted } from '../access/accessLog.ts';
import { mustBeAllowed } from '../access/guard.ts';
import { mustBeProved } from '../access/power.ts';
import { whoOf, type Who } from '../access/who.ts';
import type { Database, Queries } from '../db/database.ts';
import { Problem } from './problems.ts';
import { inScope, type Scope } from './scope.ts';
import type { Services } from './services.ts';
import { whileUnderWay } from '../underWay.ts';
import { validate } from './validate.ts';

export interface Asked<R extends Route> {
  params: Record<Params<R>, string>;
  query: Query<R>;
  body: Body<R>;
  req: Request;
  /** In whose name it is asked; the route is open to its role, and what the path names is a team’s own. */
  who: Who;
  /** Tells that whoever asked is gone before the answer: long work need not go on. */
  gone: AbortSignal;
}

interface Options<R extends Route, F> {
  /** Status of success where it is not 201 for a POST, 204 without a reply, and 200 else. */
  status?: number;
  /** Done before any transaction is begun: work in a thread of its own. What it finds is handed to the answer. */
  first?: (asked: Asked<R>) => Promise<F>;
  /** Reads a body that is larger than usual. */
  reads?: RequestHandler;
  /** Its work is long: it must not hold a transaction, and is never queued by a page. */
  long?: boolean;
}

export type Serve = <R extends Route, F = void>(
  route: R,
  answer: (asked: Asked<R>, found: F) => Reply<R> | Promise<Reply<R>>,
  options?: Options<R, F>,
) => void;

const checked = process.env.NODE_ENV === 'test' || process.env.NODE_ENV === 'development';

function leaving(res: Response): AbortSignal {
  const gone = new AbortController();
  res.on('close', () => {
    if (!res.writableFinished) gone.abort();
  });
  return gone.signal;
}

function header(req: Request, name: string): string | null {
  const given = req.headers[name];
  if (given === undefined) return null;
  if (typeof given !== 'string' || !TOKEN.test(given))
    throw new Problem(400, 'Bad header', `${name} must be 8 to 64 letters, digits, dashes or underscores.`);
  return given;
}

/** Another request with the same key was stored first. */
class StoredFirst extends Error {}

interface Once {
  key: string;
  status: number;
  at: Date;
}

/**
 * Runs a write once for each key and gives every repeat the first answer. Reads the key outside the transaction: within it, PostgreSQL
 * would lock a whole page of the index and make all writes of that moment conflict.
 */
async function once(
  db: Database,
  scope: Scope,
  key: string,
  write: () => Promise<unknown>,
): Promise<unknown> {
  const told = async () =>
    (await db.query<{ reply: unknown }>('select reply from writes where key = $1', [key]))[0];
  const before = await told();
  if (before) return before.reply ?? undefined;
  try {
    return await write();
  } catch (error) {
    // The same request may have arrived twice at once. The second then fails, often because it sees what the first one changed.
    const first = await told();
    if (!first) throw error;
    scope.told.length = 0;
    scope.after.length = 0;
    return first.reply ?? undefined;
  }
}

/** Stores the answer of a write under its key, in the same transaction. */
async function keepReply(tx: Queries, { key, status, at }: Once, reply: unknown): Promise<void> {
  const kept = await tx.query(
    'insert into writes (key, status, reply, at) values ($1, $2, $3::jsonb, $4) on conflict do nothing returning 1',
    [key, status, reply === undefined ? null : JSON.stringify(reply), at.toISOString()],
  );
  if (kept.length === 0) throw new StoredFirst();
}

/**
 * A router whose routes are those of the contract: bodies are checked against it before anything is done, replies
 * in tests and development, and changes are told once everything is stored.
 */
export function contractRouter(services: Services, declare: (serve: Serve) => void): Router {
  const { db, changes } = services;
  const router = Router();
  const serve: Serve = (route, answer, { status: given, reads, first, long = false } = {}) => {
    const [method, path] = route.split(' ') as [string, string];
    const schema = shapeOfRoute(route)?.body;
    const answered = async (req: Request, res: Response, who: Who): Promise<unknown> => {
      await mustBeAllowed(db, who, route, req.params as Record<string, string>, {
        query: req.query,
        body: req.body as unknown,
        at: services.now(),
      });
      await mustBeProved(services.access.sessions, who, route);
      const body = (schema ? validate(schema, req.body) : undefined) as never;
      const scope: Scope = { tx: null, by: header(req, PAGE_HEADER), told: [], after: [] };
      const status = given ?? (method === 'POST' ? 201 : 200);
      const key = method === 'GET' || long ? null : header(req, KEY_HEADER);
      // Once, however often its transaction is begun again.
      const gone = leaving(res);
      const asked = {
        params: req.params as never,
        query: req.query as never,
        body,
        req,
        who,
        gone,
      };
      const found = (await first?.(asked)) as never;
      const work = async () => answer(asked, found);
      // What a write looks at, what it stores and what it tells of it stand or fall together.
      const stored = () =>
        db.transaction(async (tx) => {
          const reply = await work();
          if (key !== null) await keepReply(tx, { key, status, at: services.now() }, reply);
          await changes.store(tx, scope.told, scope.by);
          return reply;
        });
      const write = () => (key === null ? stored() : once(db, scope, key, stored));
      const alone = method === 'GET' || long;
      const reply = await inScope(scope, async () => (alone ? work() : write()));
      for (const work of scope.after) work();
      const fault = checked ? replyFault(route, reply) : null;
      if (fault !== null) throw new Error(`${route} answers against its contract: ${fault}`);
      await changes.spread(scope.told, scope.by, { stored: !alone });
      if (reply === undefined) res.status(204).end();
      else res.status(status).json(reply);
      return reply;
    };
    const handler: RequestHandler = async (req, res) => {
      const who = whoOf(res);
      await whileUnderWay(route, () => noted(services.note, route, who, () => answered(req, res, who)));
    };
    const verb = method.toLowerCase() as 'get';
    if (reads) router[verb](path, reads, handler);
    else router[verb](path, handler);
  };
  declare(serve);
  return router;
}
