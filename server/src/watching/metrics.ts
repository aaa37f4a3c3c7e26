import { createServer, type Server } from 'node:http';
import type { RequestHandler } from 'express';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { Statements } from './statements.ts';

/** What is measured, in the form that Prometheus reads. */
export interface Metrics {
  registry: Registry;
  /** Times every request by its route, never by its address: addresses hold ids and tokens. */
  requests: RequestHandler;
  statement: (ms: number) => void;
  /** A transaction was begun once more because another stood in its way. */
  again: () => void;
}

const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];

export function metricsOf(now: { streams: () => number; tasks: () => number }): Metrics {
  const registry = new Registry();
  // With the lag of the event loop, memory, and time of the processor.
  collectDefaultMetrics({ register: registry });
  const requests = new Histogram({
    name: 'vigilum_request_seconds',
    help: 'Time from a request to the end of its answer',
    labelNames: ['method', 'route', 'status'] as const,
    buckets: SECONDS,
    registers: [registry],
  });
  const statements = new Histogram({
    name: 'vigilum_statement_seconds',
    help: 'Time of a statement of the database, with waiting for a connection',
    buckets: SECONDS.slice(0, 9),
    registers: [registry],
  });
  const again = new Counter({
    name: 'vigilum_transactions_again_total',
    help: 'Transactions that were begun once more because another stood in their way',
    registers: [registry],
  });
  const gauge = (name: string, help: string, of: () => number) =>
    new Gauge({
      name,
      help,
      registers: [registry],
      collect() {
        this.set(of());
      },
    });
  gauge('vigilum_streams', 'Open event streams of pages', now.streams);
  gauge('vigilum_tasks', 'Proofs, rehearsals and measurements that run or wait', now.tasks);
  return {
    registry,
    requests(req, res, next) {
      const began = process.hrtime.bigint();
      res.on('finish', () => {
        // Streams last as long as a page is open: that is no time of an answer.
        if (res.getHeader('content-type')?.toString().startsWith('text/event-stream')) return;
        // As it was declared, such as /api/robots/:id.
        const { path } = (req.route ?? {}) as { path?: string };
        const route = path === undefined ? 'none' : `${req.baseUrl}${path}`;
        requests.observe(
          { method: req.method, route, status: res.statusCode },
          Number(process.hrtime.bigint() - began) / 1e9,
        );
      });
      next();
    },
    statement: (ms) => statements.observe(ms / 1000),
    again: () => again.inc(),
  };
}

/**
 * Serves the metrics at /metrics and the slowest statements at /statements, on a port of their own: what a proxy shows to the world never
 * leads there.
 */
export function serveMetrics(metrics: Metrics, statements: Statements, port: number, host: string): Server {
  const server = createServer((req, res) => {
    if (req.url === '/metrics')
      void metrics.registry.metrics().then((text) => {
        res.setHeader('content-type', metrics.registry.contentType).end(text);
      });
    else if (req.url === '/statements')
      res.setHeader('content-type', 'application/json').end(JSON.stringify(statements.slowest(), null, 2));
    else res.writeHead(404).end();
  });
  return server.listen(port, host);
}
