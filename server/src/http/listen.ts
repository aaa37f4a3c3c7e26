import { createServer, type RequestListener, type Server } from 'node:http';

/**
 * A connection that nobody asks on is kept for so long, s. Node's own 5 s end it between two presses of a button: a request that
 * is on its way just then is reset, and a proxy that keeps its connections for a minute (common practice) answers 502.
 */
export const KEPT_S = 75;

/** A server of HTTP for an application, which does not listen yet. */
export const httpServer = (app: RequestListener): Server =>
  createServer({ keepAliveTimeout: KEPT_S * 1000, headersTimeout: (KEPT_S + 5) * 1000 }, app);
