// The server: opens the data folder, starts the bench and the workers, listens.
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { firstCode } from './access/firstCode.ts';
import { newToken } from './access/secrets.ts';
import { Sessions } from './access/sessions.ts';
import { addressesOf } from './addresses.ts';
import { BackupKeeper } from './backup/keeper.ts';
import { newestRecorded, steadyClock } from './db/clock.ts';
import { formOf, migrate, newestMigration } from './db/migrate.ts';
import { FREE_MB } from './db/room.ts';
import { openStore } from './db/store.ts';
import { FolderTrouble } from './db/trouble.ts';
import { watchOver } from './watchOver.ts';
import { snapshot } from './db/snapshot.ts';
import { demoDoor, tellDoor } from './demo/door.ts';
import { seedDemo, windDemoClock } from './demo/seed.ts';
import { demoVersion } from './demo/version.ts';
import { isAboveSchools, onlySchool } from './schools/schools.ts';
import { joining } from './http/scope.ts';
import { shareChanges } from './http/sharedChanges.ts';
import { sampleOldSets } from './readings/store.ts';
import { bringStarter } from './starter/bring.ts';
import { Bench } from './devices/bench.ts';
import { Seats } from './devices/seats.ts';
import { createApp } from './app.ts';
import { ChangeFeed, openStreams } from './http/events.ts';
import { httpServer } from './http/listen.ts';
import { queuedSimulations } from './jobs/queued.ts';
import { startSimulations, type Simulations } from './jobs/simulations.ts';
import { logTo } from './watching/logs.ts';
import { metricsOf, serveMetrics } from './watching/metrics.ts';
import { Statements } from './watching/statements.ts';

const log = logTo(process.env.LOG_LEVEL ?? 'warn');
const host = process.env.HOST ?? '127.0.0.1';
const port = Number(process.env.PORT ?? 4400);
const demo = process.env.VIGILUM_DEMO === '1';
const folder = resolve(process.env.DATA_DIR ?? (demo ? 'data/demo' : 'data/own'));
const pages = resolve(process.env.PAGES_DIR ?? 'web/dist');

/** A statement that takes longer is told of in the log, ms, unless SLOW_MS says otherwise. */
const SLOW_MS = 500;

/** Asked to end, it ends after so long at most, ms. */
const END_MS = 8000;

function stop(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

if (!Number.isInteger(port) || port < 0 || port > 65535)
  stop(`PORT must be a number from 0 to 65535, not “${process.env.PORT}”.`);

const proofsAtOnce = Number(process.env.PROOFS_AT_ONCE ?? 2);
if (!Number.isInteger(proofsAtOnce) || proofsAtOnce < 0 || proofsAtOnce > 256)
  stop(`PROOFS_AT_ONCE must be a whole number from 0 to 256, not “${process.env.PROOFS_AT_ONCE}”.`);
const proxies = Number(process.env.PROXIES ?? 0);
if (!Number.isInteger(proxies) || proxies < 0 || proxies > 9)
  stop(`PROXIES must be the number of reverse proxies in front, not “${process.env.PROXIES}”.`);

const perMinute = Number(process.env.REQUESTS_PER_MINUTE ?? 0);
if (!Number.isInteger(perMinute) || perMinute < 0)
  stop(`REQUESTS_PER_MINUTE must be a whole number, not “${process.env.REQUESTS_PER_MINUTE}”.`);

/** What opening said before it failed is for nobody: one sentence is. */
const failedToStart = (error: unknown): never =>
  stop(
    error instanceof FolderTrouble
      ? error.message
      : `${process.env.DATABASE_URL ? 'The database' : `The data folder ${folder}`} does not open: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}. It was left as it is.`,
  );
process.on('uncaughtException', failedToStart);
process.on('unhandledRejection', failedToStart);

const local = startSimulations(Math.max(1, proofsAtOnce));
let simulations: Simulations = local;
const metrics = metricsOf({ streams: openStreams, tasks: () => simulations.count() });
const store = await openStore({
  database: process.env.DATABASE_URL,
  folder,
  ...(demo
    ? {
        fill: () =>
          snapshot('demo', demoVersion(), resolve('.cache'), (empty) => seedDemo(empty, new Date())),
      }
    : {}),
  leastMb: Number(process.env.FREE_MB ?? FREE_MB),
  ...(process.env.DATABASE_CONNECTIONS ? { most: Number(process.env.DATABASE_CONNECTIONS) } : {}),
  log: (error) => log.warn(error),
  again: metrics.again,
}).catch(failedToStart);
process.on('exit', () => store.folder?.lock.release());
const statements = new Statements(
  Number(process.env.SLOW_MS ?? SLOW_MS),
  (sql, ms) => log.warn({ sql, ms: Math.round(ms) }, 'slow statement'),
  metrics.statement,
);
const db = joining(statements.over(store.db));
const clock = { now: () => new Date() };
const keeper = new BackupKeeper({
  db: store.db,
  dir: resolve(process.env.BACKUP_DIR ?? store.backups),
  vigilum: () => store.identity(),
  now: () => clock.now(),
  log: (error) => log.error(error),
});
// Of several servers that start at once one brings the database up to date, and the others wait for it.
await store.db
  .alone('start', async () => {
    const form = await formOf(store.db);
    if (form > 0 && form < newestMigration()) await keeper.save(`before-form-${newestMigration()}`);
    await migrate(db);
    if (demo && !store.folder && form === 0) await seedDemo(db, new Date());
    await bringStarter(db);
    await sampleOldSets(db);
    // Answers of writes with a key are kept for as long as a tablet may have been away.
    await db.query("delete from writes where at < now() - interval '30 days'");
    // A new demo starts now; one that is gone on with is only wound on after a pause.
    if (demo) await windDemoClock(db, new Date(), store.isNew ? 1 : undefined);
  })
  .catch(failedToStart);
if (store.db.wire && (await onlySchool(db)) === null && (await isAboveSchools(db)))
  failedToStart(
    new FolderTrouble(
      `${store.where} holds several schools, and DATABASE_URL signs in as a superuser of PostgreSQL, who sees the rows of all of them whatever is asked. Name the role that owns the tables. Nothing was changed.`,
    ),
  );
// Tests look at a day that is still to come.
const aheadMs = 1000 * Number(process.env.CLOCK_AHEAD_S ?? 0);
clock.now = steadyClock(await newestRecorded(db), () => Date.now() + aheadMs);
const loopback = ['127.0.0.1', '::1', 'localhost'].includes(host);
// Where a proxy stands in front the whole world may come first: only who can read what is printed here becomes the owner.
const ownerCode = (await onlySchool(db)) === null ? null : await firstCode(db).catch(failedToStart);
// The demo signs its own machine in; over the network it takes a password like any other, told where it is started.
const door = demo ? await demoDoor(db, loopback) : null;
process.off('uncaughtException', failedToStart);
process.off('unhandledRejection', failedToStart);

const bench = new Bench();
const addresses = addressesOf(host, process.env.ALLOWED_HOSTS);
/** The port it listens on: its own choice where PORT is 0. */
const portOf = (): number => {
  const address = server.address();
  return typeof address === 'object' && address ? address.port : port;
};
const localKey = newToken();
const changes = new ChangeFeed();
const { wire } = store.db;
const sessions = new Sessions(
  db,
  () => clock.now(),
  () => store.room.refusal() === null,
);
const warn = (error: unknown) => log.warn(error);
const stopSharing = wire
  ? await Promise.all([shareChanges({ ...db, wire }, changes, warn), sessions.share(wire, warn)]).catch(
      failedToStart,
    )
  : [];
// Servers on one database share their work, and workers take part in it.
if (wire && process.env.DATABASE_URL)
  simulations = await queuedSimulations({
    url: process.env.DATABASE_URL,
    db: { ...store.db, wire },
    local,
    works: proofsAtOnce,
    log: warn,
  }).catch(failedToStart);
/** Where the other servers reach this one. */
const ownUrl = () => process.env.SERVER_URL ?? addresses.own(portOf());
const seats = wire
  ? new Seats({ db: store.db, url: ownUrl, isUsed: (robot) => bench.isUsed(robot), log: warn })
  : null;
const services = {
  db,
  ...(seats ? { seats } : {}),
  access: { sessions, localKey, demoAccount: door?.account ?? null },
  bench,
  simulations,
  changes,
  now: () => clock.now(),
  note: (what: string, facts: object) => log.info(facts, what),
  storage: {
    folder: store.where,
    room: store.room,
    keeper,
    addresses: () => (addresses.open ? addresses.urls(portOf()).slice(0, -1) : []),
    isOurs: store.isOurs,
  },
};
// A database of its own cannot hold this process: there is no disk to look at.
const watchdog = watchOver(store.folder?.folder ?? '.', store.folder ? FREE_MB : 0);
const app = createApp({
  services,
  pages,
  hosts: [...addresses.names, ...(addresses.open ? [] : [host])],
  log: (error) => log.error(error),
  proxies,
  requests: metrics.requests,
  ...(perMinute ? { perMinute: { session: perMinute, address: perMinute } } : {}),
});
const server = httpServer(app);
const metricsPort = process.env.METRICS_PORT;
if (metricsPort)
  serveMetrics(metrics, statements, Number(metricsPort), process.env.METRICS_HOST ?? '127.0.0.1').on(
    'error',
    (error) => stop(`The metrics cannot be served on METRICS_PORT=${metricsPort}: ${error.message}.`),
  );

let closing = false;
async function close(): Promise<void> {
  if (closing) return;
  closing = true;
  // Whatever hangs: it ends. What was acknowledged is stored.
  setTimeout(() => process.exit(0), END_MS).unref();
  watchdog.ending();
  server.close();
  server.closeAllConnections();
  bench.close();
  await simulations.close();
  await keeper.close();
  await seats?.close().catch(warn);
  await Promise.all(stopSharing.map((stop) => stop()));
  await db.close();
  process.exit(0);
}
process.on('SIGTERM', () => void close());
process.on('SIGINT', () => void close());

server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE') stop(`Port ${port} is in use. Set PORT to another number.`);
  stop(error.message);
});
server.listen(port, host, () => {
  // The first page comes first; the simulators warm up behind it.
  setTimeout(() => simulations.warm(), 1000).unref();
  keeper.start();
  const at = portOf();
  const urls = addresses.urls(at);
  store.folder?.lock.tell(addresses.own(at), localKey);
  process.stdout.write(`Vigilum${demo ? ' (demo)' : ''} is ready: ${urls[0]}\n`);
  for (const url of urls.slice(1)) process.stdout.write(`  also: ${url}\n`);
  if (door) process.stdout.write(tellDoor(door, urls[0]!));
  if (ownerCode !== null)
    process.stdout.write(
      `Nobody has an account yet. Make the first one at ${urls[0]!.replace(/\/$/, '')}/first-account#${ownerCode}\n  The code, if the page asks for it: ${ownerCode}\n`,
    );
  if (!existsSync(join(pages, 'index.html')))
    process.stdout.write('The pages are not built: only the API answers.\n');
});
