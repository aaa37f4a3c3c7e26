// npm run bench:hour: a class hour. 30 tablets and 2 boards, each behind its own door, as pages behave: a reading every five seconds each,
// script pushes and proofs between, a server stopped and started in the middle. With `--postgres --servers 2` several servers share a
// database; with `--check 30` the teacher proves all scripts of a class every 30 s. Prints how long saves take, how long until a board
// shows them, and what got lost. Prints figures; judges nothing.
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ChangeSet, Text } from '@codemirror/state';
import { quantileSorted } from 'simple-statistics';
import { KEY_HEADER, PAGE_HEADER } from '@vigilum/contract/changes';
import { ApiProblem, createClient, type Client } from '@vigilum/contract/client';
import type { Change, ScriptUpdate } from '@vigilum/contract/types';

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
    json: { type: 'boolean', default: false },
  },
});
const [TABLETS, BOARDS, SECONDS] = [given.tablets, given.boards, given.seconds].map(Number) as [
  number,
  number,
  number,
];
const PORT = Number(given.port);
const SERVERS = given.postgres ? Number(given.servers) : 1;
const WORKERS = given.postgres ? Number(given.workers) : 0;
const CHECK_EVERY_S = Number(given.check);
/** The server that the n-th page asks: pages stay with theirs. */
const baseOf = (n: number): string => `http://127.0.0.1:${PORT + (n % SERVERS)}`;
const metricsPort = (i: number): number => PORT + 50 + i;
const say = (line: string): void => {
  if (!given.json) console.log(line);
};
const READ_EVERY_MS = 5000;
const GATHER_MS = 250;

const root = join(import.meta.dirname, '../..');
const folder = mkdtempSync(join(tmpdir(), 'vigilum-hour-'));
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
if (!existsSync(join(root, 'server/dist/main.js'))) {
  console.error('Build first: npm run build');
  process.exit(2);
}

/** PostgreSQL in a folder of its own, with everything that is acknowledged on the disk. */
const database = given.postgres
  ? await (
      (await import(new URL('../../scripts/postgres.mjs', import.meta.url).href)) as {
        startPostgres: (options: { durable: boolean }) => Promise<{ url: string; stop: () => Promise<void> }>;
      }
    ).startPostgres({ durable: true })
  : null;

const servers: ChildProcess[] = [];
async function startServer(i: number): Promise<void> {
  servers[i] = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: root,
    env: {
      ...process.env,
      VIGILUM_DEMO: '1',
      PORT: String(PORT + i),
      DATA_DIR: join(folder, `data${i}`),
      ...(database ? { DATABASE_URL: database.url } : {}),
      METRICS_PORT: String(metricsPort(i)),
      // Where there are workers the servers only answer pages.
      ...(WORKERS > 0 ? { PROOFS_AT_ONCE: '0' } : {}),
      // All tablets ask from this one machine, and the check at the end asks for everything at once.
      REQUESTS_PER_MINUTE: '60000',
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  for (let n = 0; n < 600; n++) {
    if (
      await fetch(`${baseOf(i)}/api/health`).then(
        (r) => r.ok,
        () => false,
      )
    )
      return;
    await wait(100);
  }
  throw new Error('The server did not start.');
}
const workers: ChildProcess[] = [];
const startWorker = () =>
  new Promise<void>((ready) => {
    const worker = spawn(process.execPath, ['server/dist/worker.js'], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: database!.url, PROOFS_AT_ONCE: '1' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    workers.push(worker);
    worker.stdout.once('data', () => ready());
  });
// Whatever ends this, nothing that it started stays behind.
process.on('exit', () => {
  for (const child of [...servers, ...workers]) child.kill('SIGKILL');
});
const stopServer = (i: number) =>
  new Promise<void>((done) => {
    servers[i]!.once('exit', () => done());
    servers[i]!.kill('SIGTERM');
  });
/** A number of a server's metrics. */
async function metricOf(i: number, name: string): Promise<number> {
  const text = await (await fetch(`http://127.0.0.1:${metricsPort(i)}/metrics`)).text();
  return Number(new RegExp(`^${name} (\\S+)$`, 'm').exec(text)?.[1] ?? NaN);
}
/** The longest time in which a server's event loop did nothing else since it was last asked, ms. */
const stallMs = async (i: number) => 1000 * (await metricOf(i, 'nodejs_eventloop_lag_max_seconds'));

/** How long every request took, ms; those of the server's absence left out. */
const requests: number[] = [];
/** The same for the seconds in which everybody comes back after the restart. */
const requestsBack: number[] = [];
const COMING_BACK_MS = 8000;
/** Proofs are long work: they wait for a worker, and a page shows them as they come. */
const proofs: number[] = [];
/** The slowest of each kind of request. */
const slowest = new Map<string, number>();
const timed: typeof fetch = async (input, init) => {
  const started = performance.now();
  const answer = await fetch(input, init);
  const took = performance.now() - started;
  const path = new URL(
    typeof input === 'string' ? input : input instanceof URL ? input.href : input.url,
  ).pathname.replaceAll(/\d+/g, ':n');
  const coming = restartedAt.ms > 0 && started < restartedAt.ms + COMING_BACK_MS;
  (path.endsWith('/proofs') ? proofs : coming ? requestsBack : requests).push(took);
  if (coming) return answer;
  const kind = `${init?.method ?? 'GET'} ${path}`;
  slowest.set(kind, Math.max(slowest.get(kind) ?? 0, took));
  return answer;
};
const clientOf = (page: string, cookie?: string, n = 0): Client =>
  createClient(timed, `${baseOf(n)}/api`, { [PAGE_HEADER]: page, ...(cookie ? { cookie } : {}) });

/** Comes in by a door, and gives the cookie by which it is known from then on. */
async function enter(door: 'cards' | 'boards', body: Record<string, string>): Promise<string> {
  const answer = await fetch(`${baseOf(0)}/api/doors/${door}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie: 'vigilum=out' },
    body: JSON.stringify(body),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0];
  if (answer.status !== 201 || !cookie) throw new Error(`The door stayed shut: ${await answer.text()}`);
  return cookie;
}

/** Reads the change feed of the server until stopped, taking it up again when it breaks off. */
function hear(cookie: string, n: number, onChange: (change: Change) => void): () => void {
  const stop = new AbortController();
  let after: number | null = null;
  const read = async () => {
    while (!stop.signal.aborted) {
      try {
        const response = await fetch(`${baseOf(n)}/api/events${after === null ? '' : `?after=${after}`}`, {
          signal: stop.signal,
          headers: { cookie },
        });
        const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
        let rest = '';
        for (;;) {
          const { value, done } = await reader.read();
          if (done) break;
          const parts = (rest + value).split('\n\n');
          rest = parts.pop()!;
          for (const part of parts) {
            const data = /^data: (.*)$/m.exec(part)?.[1];
            if (!data) continue;
            const change = JSON.parse(data) as Change;
            after = change.revision;
            if (/^event: changed$/m.test(part)) onChange(change);
          }
        }
      } catch {
        // Broken off: again in a moment, as browsers do.
      }
      await wait(500);
    }
  };
  void read();
  return () => stop.abort();
}

const saves: number[] = [];
const toBoard: number[] = [];
let boardChanges = 0;
let requestsOfBoards = 0;
let refused = 0;
/** When each team’s newest reading was stored, until a board shows it. */
const stored = new Map<number, number>();
const restartedAt = { ms: 0 };
const backAfter: number[] = [];
let over = false;

/** A write as the outbox sends it: again with the same key until it is answered. */
async function surely<T>(work: (key: string) => Promise<T>): Promise<T> {
  const key = `bench-${Math.random().toString(36).slice(2)}-${Date.now()}`;
  for (let misses = 1; ; misses++) {
    try {
      return await work(key);
    } catch (error) {
      if (!(error instanceof ApiProblem) || (error.status > 0 && error.status < 500)) throw error;
      await wait(Math.min(10_000, 500 * 2 ** Math.min(misses, 4)));
    }
  }
}

interface Team {
  id: number;
  /** Its tablet's session. */
  cookie: string;
  robot: number;
  period: number;
}

async function setUp(): Promise<{ teams: Team[]; boards: string[] }> {
  const boards: string[] = [];
  const api = clientOf('bench-teacher');
  const teams: Team[] = [];
  for (let k = 0; teams.length < TABLETS; k++) {
    const names = Array.from({ length: Math.min(10, TABLETS - teams.length) }, (_, i) => `Tug ${k}-${i}`);
    const { id } = await api('POST /classes', {
      body: {
        school: 'Bench Harbour School',
        name: `Class ${k + 1}`,
        teams: names,
        robots: { kit: 'cobble', cupboard: '', take: 'new' },
      },
    });
    const { id: period } = await api('POST /periods', {
      body: { classId: id, lesson: 'tide-line', minutes: 50 },
    });
    const { teams: all } = await api('GET /teams');
    const doors = await api('GET /classes/:id/doors', { id });
    boards.push(await enter('boards', { board: doors.board }));
    const cookies = new Map<number, string>();
    for (const team of doors.teams) cookies.set(team.id, await enter('cards', { card: team.card }));
    teams.push(
      ...all
        .filter(({ name }) => names.includes(name))
        .map((team) => ({ id: team.id, robot: team.robot, period, cookie: cookies.get(team.id)! })),
    );
  }
  return { teams, boards };
}

/** What a tablet got acknowledged: nothing of it may be gone at the end. */
interface Held {
  sets: number[];
  words: string[];
}

async function tablet(team: Team, n: number): Promise<Held> {
  const api = clientOf(`bench-tablet-${n}`, team.cookie, n);
  const askHour = () => void api('GET /teams/:id/hour', { id: team.id }).catch(() => undefined);
  const asksHour = setInterval(askHour, 15_000);
  const held: Held = { sets: [], words: [] };
  const path = { id: team.id, slug: 'tide-line' };
  const stopHearing = hear(team.cookie, n, (change) => {
    if (change.what === 'hour') askHour();
    const mine =
      (change.what === 'evidence' && change.team === team.id) ||
      (change.what === 'robot' && change.teams.includes(team.id));
    // What this tablet did itself it knows from the answer.
    if (mine && change.by !== `bench-tablet-${n}`)
      void api('GET /teams/:id/lessons/:slug', path).catch(() => undefined);
  });
  await surely(() => api('GET /teams/:id/lessons/:slug', path));
  let script = await surely(() => api('GET /teams/:id/lessons/:slug/script', path));
  // Steps that run, so that proofs have something to prove.
  const steps = 'drive 30 %\nwait until floor < 50 %\nstop\n';
  const first = ChangeSet.of(
    { from: script.text.length, insert: Text.of(`\n${steps}`.split('\n')) },
    script.text.length,
  );
  script = {
    ...script,
    text: `${script.text}\n${steps}`,
    revision: (
      await api('POST /teams/:id/lessons/:slug/script-updates', {
        ...path,
        body: {
          from: script.revision,
          updates: [{ client: `c${n}`, changes: first.toJSON() as ScriptUpdate['changes'] }],
          settle: { by: `tablet ${n}` },
        },
      })
    ).revision,
  };
  await wait((n * READ_EVERY_MS) / TABLETS);
  let cameBack = false;
  for (let round = 0; !over; round++) {
    const started = performance.now();
    const surface = round % 2 === 0 ? 'tide line' : 'quay boards';
    const at = round % 2 === 0 ? 22 : 76;
    const { id } = await surely((key) =>
      api(
        'POST /robots/:id/sample-sets',
        {
          id: team.robot,
          body: {
            socket: 'K3',
            kind: 'light',
            surface,
            values: Array.from({ length: 20 }, (_, i) => at + ((i + n + round) % 3)),
            whose: { team: team.id, lesson: 'tide-line' },
          },
        },
        { headers: { [KEY_HEADER]: key } },
      ),
    );
    const took = performance.now() - started;
    held.sets.push(id);
    const stopped = restartedAt.ms > 0 && started < restartedAt.ms;
    if (!stopped) saves.push(took);
    stored.set(team.id, performance.now());
    if (restartedAt.ms > 0 && !cameBack) {
      cameBack = true;
      backAfter.push(performance.now() - restartedAt.ms);
    }
    if (round % 3 === n % 3) {
      const word = `# round ${round} of tablet ${n}\n`;
      const changes = ChangeSet.of(
        { from: 0, insert: Text.of(word.split('\n')) },
        script.text.length,
      ).toJSON() as ScriptUpdate['changes'];
      const pushed = performance.now();
      const answer = await surely(() =>
        api('POST /teams/:id/lessons/:slug/script-updates', {
          ...path,
          body: {
            from: script.revision,
            updates: [{ client: `c${n}`, changes }],
            settle: { by: `tablet ${n}` },
          },
        }).catch(async (error: unknown) => {
          // Stored, and only the answer was lost: the update is there already.
          if (!(error instanceof ApiProblem) || error.status !== 409) throw error;
          return api('GET /teams/:id/lessons/:slug/script', path);
        }),
      );
      if (restartedAt.ms === 0 || pushed > restartedAt.ms) saves.push(performance.now() - pushed);
      held.words.push(word);
      script = { ...script, revision: answer.revision, text: word + script.text };
    }
    if (round % 12 === n % 12) {
      const { saved } = await surely(() => api('GET /teams/:id/lessons/:slug/script', path));
      if (saved)
        void api('POST /teams/:id/lessons/:slug/proofs', {
          ...path,
          body: { scriptVersion: saved.version, seed: round + 1, runs: 20 },
        }).catch(() => refused++);
    }
    await wait(Math.max(0, READ_EVERY_MS - (performance.now() - started)));
  }
  stopHearing();
  clearInterval(asksHour);
  return held;
}

/** A board that shows some teams: asked for again when it has heard that one of them did something. */
function board(
  cookie: string,
  n: number,
  own: readonly Team[],
  ask: (api: Client) => Promise<unknown>,
): () => void {
  const api = clientOf('bench-board', cookie, n);
  const ids = new Set(own.map(({ id }) => id));
  const waiting = new Set<number>();
  let busy = false;
  let planned = false;
  const plan = () => {
    if (planned || busy || waiting.size === 0) return;
    planned = true;
    setTimeout(() => {
      planned = false;
      busy = true;
      const wanted = [...waiting];
      waiting.clear();
      // What was stored before this question is shown by its answer.
      const due = wanted.flatMap((id) => {
        const at = stored.get(id);
        stored.delete(id);
        return at === undefined ? [] : [at];
      });
      requestsOfBoards++;
      void ask(api)
        .then(
          () => {
            boardChanges += wanted.length;
            for (const at of due) toBoard.push(performance.now() - at);
          },
          () => wanted.forEach((id) => waiting.add(id)),
        )
        .finally(() => {
          busy = false;
          plan();
        });
    }, GATHER_MS);
  };
  return hear(cookie, n, (change) => {
    const touched = change.what === 'evidence' ? [change.team] : change.what === 'robot' ? change.teams : [];
    for (const id of touched) if (ids.has(id)) waiting.add(id);
    plan();
  });
}

/** Memory of the servers, MB, as the system tells it. */
const memoryMb = (): number =>
  servers.reduce((sum, { pid }) => {
    const status = readFileSync(`/proc/${pid}/status`, 'utf8');
    return sum + Number(/VmRSS:\s+(\d+) kB/.exec(status)?.[1] ?? 0) / 1024;
  }, 0);

/** The teacher proves what all teams of a class have, as the page does it: two at a time. */
async function checkClass(own: readonly Team[], round: number): Promise<number> {
  const api = clientOf('bench-teacher-check');
  const began = performance.now();
  const left = [...own];
  const lane = async () => {
    for (let team = left.pop(); team; team = left.pop()) {
      const path = { id: team.id, slug: 'tide-line' };
      const { saved } = await surely(() => api('GET /teams/:id/lessons/:slug/script', path));
      if (saved)
        await api('POST /teams/:id/lessons/:slug/proofs', {
          ...path,
          body: { scriptVersion: saved.version, seed: round, runs: 20 },
        }).catch(() => refused++);
    }
  };
  await Promise.all([lane(), lane()]);
  return performance.now() - began;
}

const ms = (value: number) => `${value.toFixed(0)} ms`;
function tell(name: string, times: readonly number[]): void {
  const sorted = [...times].sort((a, b) => a - b);
  if (sorted.length === 0) return say(`${name}: none`);
  const at = (q: number) => ms(quantileSorted(sorted, q));
  say(`${name}: p50 ${at(0.5)}, p95 ${at(0.95)}, p99 ${at(0.99)}, longest ${at(1)} (${sorted.length})`);
}

await Promise.all(Array.from({ length: SERVERS }, (_, i) => startServer(i)));
await Promise.all(Array.from({ length: WORKERS }, startWorker));
say(`${TABLETS} tablets and ${BOARDS} boards for ${SECONDS} s, a reading every 5 s each …`);
const { teams, boards } = await setUp();
const periods = [...new Set(teams.map(({ period }) => period))];
const ofPeriod = (period: number) => teams.filter((team) => team.period === period);
// The teacher's live sheet of one class, and the projectors of the others: each shows its own teams.
const stopBoards = periods
  .slice(0, Math.max(1, BOARDS))
  .map((period, i) =>
    i === 0
      ? board('', i, ofPeriod(period), (api) => api('GET /periods/:id/sheet', { id: period }))
      : board(boards[i]!, i, ofPeriod(period), (api) => api('GET /board')),
  );
const memory = [memoryMb()];
const running = teams.map((team, n) => tablet(team, n));
const checks: number[] = [];
const checking = (async () => {
  for (let round = 1; CHECK_EVERY_S > 0 && !over; round++) {
    const took = await checkClass(ofPeriod(periods[round % periods.length]!), round);
    checks.push(took);
    await wait(Math.max(0, CHECK_EVERY_S * 1000 - took));
  }
})();
// What came before, such as setting up, is not the hour's.
for (const [i] of servers.entries()) await stallMs(i);
const begun = performance.now();
const before = requests.length;
await wait((SECONDS * 1000) / 2);
const perSecond = (requests.length - before) / ((performance.now() - begun) / 1000);
const stall = Math.max(...(await Promise.all(servers.map((_, i) => stallMs(i)))));
const agains = await Promise.all(servers.map((_, i) => metricOf(i, 'vigilum_transactions_again_total')));
const again = agains.reduce((sum, n) => sum + n, 0);
memory.push(memoryMb());
const down = performance.now();
await stopServer(0);
await startServer(0);
restartedAt.ms = performance.now();
memory.push(memoryMb());
say(`server stopped and started again: ${ms(restartedAt.ms - down)}`);
await wait((SECONDS * 1000) / 2);
memory.push(memoryMb());
over = true;
const held = await Promise.all(running);
await checking;
await wait(1500);
for (const stop of stopBoards) stop();

const api = clientOf('bench-check');
let lost = 0;
let checked = 0;
for (const [n, { sets, words }] of held.entries()) {
  const { text } = await api('GET /teams/:id/lessons/:slug/script', { id: teams[n]!.id, slug: 'tide-line' });
  for (const id of sets) {
    checked++;
    await api('GET /sample-sets/:id', { id }).catch(() => lost++);
  }
  for (const word of words) {
    checked++;
    if (text.split(word).length !== 2) lost++;
  }
}
tell('a save is acknowledged after', saves);
tell('a board shows it after', toBoard);
say(`board rows changed ${boardChanges} times, by ${requestsOfBoards} questions of all boards`);
tell('a request takes', requests);
tell('a request while all come back after the restart takes', requestsBack);
tell('a proof takes', proofs);
const [worst] = [...slowest].filter(([kind]) => !kind.endsWith('/proofs')).sort((a, b) => b[1] - a[1]);
if (worst) say(`the slowest kind of request: ${worst[0]}, ${ms(worst[1])}`);
say(
  `memory of the server: ${memory.map((mb) => `${mb.toFixed(0)} MB`).join(', ')} (start, before the stop, after it, end)`,
);
tell('tablets saved again after the restart within', backAfter);
say(
  `acknowledged writes looked for at the end: ${checked}; lost or doubled: ${lost}; proofs refused: ${refused}`,
);
say(
  `${perSecond.toFixed(0)} requests/s before the stop; the event loop did nothing else for ${ms(stall)} at most; ${again} transactions begun once more`,
);
tell('a whole class is proved in', checks);
if (given.json) {
  const of = (times: readonly number[]) => {
    const sorted = [...times].sort((a, b) => a - b);
    return [0.5, 0.95, 0.99].map((q) => (sorted.length > 0 ? Math.round(quantileSorted(sorted, q)) : null));
  };
  console.log(
    JSON.stringify({
      perSecond: Math.round(perSecond),
      requests: of(requests),
      saves: of(saves),
      toBoard: of(toBoard),
      checks: of(checks),
      stall: Math.round(stall),
      again,
      memory: Math.round(Math.max(...memory)),
      checked,
      lost,
    }),
  );
}
await Promise.all(servers.map((_, i) => stopServer(i)));
for (const worker of workers) worker.kill('SIGTERM');
await database?.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(lost > 0 ? 1 : 0);
