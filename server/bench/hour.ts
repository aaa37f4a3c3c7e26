// npm run bench:hour: a class hour. 30 tablets and 2 boards, each behind its own door, as pages behave: a reading every five seconds each,
// script pushes and proofs between, a server stopped and started in the middle. With `--postgres --servers 2` several servers share a
// database; with `--check 30` the teacher proves all scripts of a class every 30 s; with `--kills 20` servers are ended by kill -9 twenty
// times instead of stopped once. Prints how long saves take, how long until a board
// shows them, and what got lost. Prints figures; judges nothing.
import { parseArgs } from 'node:util';
import { board } from './hour/board.ts';
import { Figures, inMs, shortly, told } from './hour/figures.ts';
import { clientOf, type Hour } from './hour/pages.ts';
import { checkClass, setUp, type Team } from './hour/school.ts';
import { Servers, wait } from './hour/servers.ts';
import { tablet, type Held } from './hour/tablet.ts';

const { values: given } = parseArgs({
  options: {
    tablets: { type: 'string', default: '30' },
    boards: { type: 'string', default: '2' },
    seconds: { type: 'string', default: '90' },
    port: { type: 'string', default: '4488' },
    servers: { type: 'string', default: '1' },
    postgres: { type: 'boolean', default: false },
    workers: { type: 'string', default: '0' },
    check: { type: 'string', default: '0' },
    kills: { type: 'string', default: '0' },
    json: { type: 'boolean', default: false },
  },
});
const { postgres } = given;
const [tablets, boards, seconds, checkEveryS, kills] = [
  given.tablets,
  given.boards,
  given.seconds,
  given.check,
  given.kills,
].map(Number) as [number, number, number, number, number];
const say = (line: string): void => {
  if (!given.json) console.log(line);
};

/** Looks for everything that was acknowledged. */
async function lookFor(hour: Hour, teams: readonly Team[], held: readonly Held[]) {
  const api = clientOf(hour, 'bench-check');
  let lost = 0;
  let checked = 0;
  for (const [n, { sets, words }] of held.entries()) {
    const { text } = await api('GET /teams/:id/lessons/:slug/script', {
      id: teams[n]!.id,
      slug: 'tide-line',
    });
    for (const id of sets) {
      checked++;
      // The check asks from this machine without a session, and keeps to the limit of those.
      await wait(25);
      await api('GET /sample-sets/:id', { id }).catch(() => lost++);
    }
    for (const word of words) {
      checked++;
      if (text.split(word).length !== 2) lost++;
    }
  }
  return { checked, lost };
}

const figures = new Figures();
const servers = new Servers({
  port: Number(given.port),
  servers: postgres ? Number(given.servers) : 1,
  postgres,
  workers: postgres ? Number(given.workers) : 0,
});
const hour: Hour = { servers, figures };
await servers.startAll();
say(`${tablets} tablets and ${boards} boards for ${seconds} s, a reading every 5 s each …`);
const { teams, boards: projectors } = await setUp(hour, tablets);
const periods = [...new Set(teams.map(({ period }) => period))];
const ofPeriod = (period: number) => teams.filter((team) => team.period === period);
// The teacher's live sheet of one class, and the projectors of the others: each shows its own teams.
const stopBoards = periods
  .slice(0, Math.max(1, boards))
  .map((period, i) =>
    i === 0
      ? board(hour, '', i, ofPeriod(period), (api) => api('GET /periods/:id/sheet', { id: period }))
      : board(hour, projectors[i]!, i, ofPeriod(period), (api) => api('GET /board')),
  );
const memory = [servers.memoryMb()];
const running = teams.map((team, n) => tablet(hour, team, n, tablets));
const checking = (async () => {
  for (let round = 1; checkEveryS > 0 && !figures.over; round++) {
    const took = await checkClass(hour, ofPeriod(periods[round % periods.length]!), round);
    figures.checks.push(took);
    await wait(Math.max(0, checkEveryS * 1000 - took));
  }
})();
// What came before, such as setting up, is not the hour's.
await servers.stallMs();
const begun = performance.now();
const before = figures.requests.length;
await wait((seconds * 1000) / 2);
const perSecond = (figures.requests.length - before) / ((performance.now() - begun) / 1000);
const stall = await servers.stallMs();
const again = await servers.begunAgain();
memory.push(servers.memoryMb());
for (let n = 0; n < Math.max(1, kills); n++) {
  const which = n % servers.count;
  const down = performance.now();
  await servers.stop(which, kills > 0 ? 'SIGKILL' : 'SIGTERM');
  await servers.start(which);
  figures.restartedAt = performance.now();
  figures.restarts.push(figures.restartedAt - down);
  memory.push(servers.memoryMb());
  await wait((seconds * 1000) / 2 / Math.max(1, kills));
}
say(
  told(
    kills > 0 ? 'a server answers after kill -9 within' : 'a server stopped answers within',
    figures.restarts,
  ),
);
memory.push(servers.memoryMb());
figures.over = true;
const held = await Promise.all(running);
await checking;
await wait(1500);
for (const stop of stopBoards) stop();
const { checked, lost } = await lookFor(hour, teams, held);

say(told('a save is acknowledged after', figures.saves));
say(told('a board shows it after', figures.toBoard));
say(
  `board rows changed ${figures.boardChanges} times, by ${figures.requestsOfBoards} questions of all boards`,
);
say(told('a request takes', figures.requests));
say(told('a request while all come back after the restart takes', figures.requestsBack));
say(told('a proof takes', figures.proofs));
if (figures.worst) say(`the slowest kind of request: ${figures.worst[0]}, ${inMs(figures.worst[1])}`);
say(
  `memory of the server: ${memory.map((mb) => `${mb.toFixed(0)} MB`).join(', ')} (start, before the stop, after it, end)`,
);
say(told('tablets saved again after the restart within', figures.backAfter));
say(
  `acknowledged writes looked for at the end: ${checked}; lost or doubled: ${lost}; proofs refused: ${figures.refused}`,
);
say(
  `${perSecond.toFixed(0)} requests/s before the stop; the event loop did nothing else for ${inMs(stall)} at most; ${again} transactions begun once more`,
);
say(told('a whole class is proved in', figures.checks));
say(`answered 429: ${figures.limited[429]}, 503: ${figures.limited[503]}`);
for (const [what, times] of figures.limitedBy) say(`  ${what}: ${times} times`);
if (given.json)
  console.log(
    JSON.stringify({
      perSecond: Math.round(perSecond),
      requests: shortly(figures.requests),
      saves: shortly(figures.saves),
      toBoard: shortly(figures.toBoard),
      checks: shortly(figures.checks),
      stall: Math.round(stall),
      again,
      memory: Math.round(Math.max(...memory)),
      checked,
      lost,
      limited: figures.limited,
    }),
  );
await servers.stopAll();
process.exit(lost > 0 ? 1 : 0);
