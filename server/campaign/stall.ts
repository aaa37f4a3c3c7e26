import { join } from 'node:path';
import { inFolder, started, wait, type Outcome } from './bench.ts';

/** Nobody waits longer for anything because somebody sends much, ms. */
const MOST_MS = 2000;
const LOOKS = 200_000;

/** The largest import there is, while others ask: how long the longest of them waits. */
export const stall = (): Promise<Outcome> =>
  inFolder(async (folder) => {
    const server = await started(join(folder, 'data'), { REQUESTS_PER_MINUTE: '1000000' });
    let longest = 0;
    let going = true;
    const asking = (async () => {
      while (going) {
        const from = performance.now();
        await fetch(`${server.url}/api/teams/1/lessons/tide-line`).then((answer) => answer.text());
        longest = Math.max(longest, performance.now() - from);
        await wait(20);
      }
    })();
    await wait(500);
    const calm = longest;
    longest = 0;
    const values = Array.from({ length: LOOKS }, (_, i) => [i % 256, (i * 7) % 256, (i * 13) % 256]);
    const from = performance.now();
    const answer = await fetch(`${server.url}/api/robots/9/imports`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ sets: [{ socket: 'K3', kind: 'rgb', surface: 'all of it', values }] }),
    });
    const took = performance.now() - from;
    await wait(300);
    going = false;
    await asking;
    await server.kill('SIGTERM');
    const good = answer.status === 201 && longest < MOST_MS;
    return {
      part: 'the largest import while others ask',
      tried: 1,
      held: good ? 1 : 0,
      notes: [
        `${LOOKS} rgb looks: answered ${answer.status} after ${Math.round(took)} ms; others waited ${Math.round(longest)} ms at most, ${Math.round(calm)} ms before`,
      ],
    };
  });
