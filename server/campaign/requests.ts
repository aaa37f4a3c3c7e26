import { join } from 'node:path';
import { allRoutes, shapeOfRoute } from '@vigilum/contract/schemas';
import type { Route } from '@vigilum/contract/types';
import { valueFor } from '../src/test/bodies.ts';
import { dice, inFolder, started, type Outcome } from './bench.ts';

const nested = (depth: number): string => `${'{"a":['.repeat(depth)}1${']}'.repeat(depth)}`;

const PLACES = [
  '1',
  '2',
  '3',
  '8',
  '1',
  '2',
  'tide-line',
  'stop-short',
  'cobble',
  'K3',
  '0',
  '-1',
  '99999',
  '2147483648',
  '1e9',
  'x',
  '%00',
  '%ED%A0%80',
  '%',
  '..%2f..',
  'a'.repeat(3000),
  '%F0%9F%92%A5',
  '__proto__',
];

/** Requests of every route, half of them nearly right: none is answered with a 5xx, and the server goes on. */
export const fuzz = (n: number): Promise<Outcome> =>
  inFolder(async (folder) => {
    const server = await started(join(folder, 'data'), { REQUESTS_PER_MINUTE: '10000000' });
    const random = dice(11);
    const routes = Object.keys(allRoutes) as Route[];
    const described = new Map(routes.map((route) => [route, shapeOfRoute(route)?.body?.describe()]));
    const worst = new Map<string, number>();
    const codes = new Map<number, number>();
    let held = 0;
    const one = async () => {
      const route = routes[random(routes.length)]!;
      const [method, path] = route.split(' ') as [string, string];
      const url = `${server.url}/api${path.replaceAll(/:\w+/g, (name) =>
        name === ':slug' || name === ':socket'
          ? PLACES[6 + random(PLACES.length - 6)]!
          : PLACES[random(PLACES.length)]!,
      )}${method === 'GET' && random(4) === 0 ? `?teams=${PLACES[random(PLACES.length)]}&of=kit&key=${PLACES[random(PLACES.length)]}` : ''}`;
      const shape = described.get(route);
      const body =
        method === 'GET' || method === 'DELETE'
          ? undefined
          : random(60) === 0
            ? nested(2500)
            : random(40) === 0
              ? '{"a":'
              : JSON.stringify(shape ? valueFor(shape, random, { slip: random(2) === 0 ? 0 : 120 }) : {});
      const answer = await fetch(url, {
        method,
        headers: { 'content-type': random(50) === 0 ? 'text/plain' : 'application/json' },
        ...(body === undefined ? {} : { body }),
        signal: AbortSignal.timeout(60_000),
      }).catch((error: unknown) => ({ status: 599, text: () => Promise.resolve(String(error)) }));
      const text = await answer.text();
      codes.set(answer.status, (codes.get(answer.status) ?? 0) + 1);
      // Refusing because too much waits is an answer.
      if (answer.status < 500 || answer.status === 503) held++;
      else
        worst.set(
          `${answer.status} ${route} ${(body ?? '').slice(0, 200)} ${url.slice(-60)} ${text.slice(0, 80)}`,
          1,
        );
    };
    for (let i = 0; i < n; i += 12) await Promise.all(Array.from({ length: Math.min(12, n - i) }, one));
    const alive = (await fetch(`${server.url}/api/health`)).ok;
    await server.kill('SIGTERM');
    const counted = [...codes].sort(([a], [b]) => a - b).map(([code, times]) => `${code}: ${times}`);
    return {
      part: 'strange requests',
      tried: n,
      held: alive ? held : 0,
      notes: [
        counted.join(', '),
        ...[...worst.keys()].slice(0, 12),
        // What the server itself said of its own faults.
        ...(worst.size > 0
          ? server
              .said()
              .split('\n')
              .filter((line) => line.includes('"level":50'))
              .slice(0, 5)
              .map((line) => line.slice(0, 900))
          : []),
        ...(alive ? [] : ['the server did not go on']),
      ],
    };
  });
