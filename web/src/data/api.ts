import { createClient } from '@vigilum/contract/client';
import { PAGE_HEADER } from '@vigilum/contract/changes';
import { PAGE } from './page.ts';

export { ApiProblem } from '@vigilum/contract/client';

/** In development every reply is held against the contract; the schemas are not part of the built pages. */
const schemas = import.meta.env?.DEV ? import('@vigilum/contract/schemas') : null;

/** The server's API: one function, typed by route. */
export const api = createClient(
  (input, init) => fetch(input, init),
  '/api',
  { [PAGE_HEADER]: PAGE },
  schemas
    ? (route, reply) =>
        void schemas.then(({ replyFault }) => {
          const fault = replyFault(route, reply);
          if (fault) console.error(`${route} answers against its contract: ${fault}`);
        })
    : undefined,
);
