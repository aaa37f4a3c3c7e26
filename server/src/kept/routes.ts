import type { Router } from 'express';
import type { KeptKind } from '@vigilum/contract/types';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { keptVersions } from './store.ts';

const kinds: readonly KeptKind[] = ['kit', 'course', 'phrasebook', 'note'];

/** Earlier states of kits, courses, phrasebooks and notes. */
export function keptRoutes(services: Services): Router {
  return contractRouter(services, (serve) => {
    serve('GET /kept-versions', async ({ query }) => {
      if (!kinds.includes(query.of))
        throw new Problem(422, 'Check these fields', `of must be one of ${kinds.join(', ')}.`);
      return { versions: await keptVersions(services.db, query.of, String(query.key ?? '').slice(0, 120)) };
    });
  });
}
