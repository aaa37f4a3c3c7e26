import { ApiProblem, createClient } from '@vigilum/contract/client';
import { PAGE_HEADER } from '@vigilum/contract/changes';
import { PAGE } from './page.ts';
import { askForProof } from './proof.ts';

export { ApiProblem } from '@vigilum/contract/client';

/** In development every reply is held against the contract; the schemas are not part of the built pages. */
const schemas = import.meta.env?.DEV ? import('@vigilum/contract/schemas') : null;

/** Whether the server wants to see the password before it does this. */
async function wantsProof(answer: Response): Promise<boolean> {
  if (answer.status !== 403) return false;
  const problem = (await answer
    .clone()
    .json()
    .catch(() => null)) as { proof?: unknown } | null;
  return problem?.proof === true;
}

/** Asks the server, and once more after the password was typed, where it wants to see that first. */
const send: typeof fetch = async (input, init) => {
  const answer = await fetch(input, init);
  return (await wantsProof(answer)) && (await askForProof()) ? fetch(input, init) : answer;
};

/** The server's API: one function, typed by route. */
export const api = createClient(
  send,
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

/** Saves a file of the server on this machine, after the password was typed. */
export async function download(path: string, name: string): Promise<void> {
  const look = () => fetch(path, { method: 'HEAD' });
  let { status } = await look();
  // Without a body the answer cannot say what is missing; the page that asks is the owner's.
  if (status === 403) {
    if (!(await askForProof())) return;
    ({ status } = await look());
  }
  if (status >= 400)
    throw new ApiProblem(
      status,
      'Not saved',
      'This file cannot be saved now. Reload the page, then try again.',
    );
  const link = document.createElement('a');
  Object.assign(link, { href: path, download: name });
  link.click();
}
