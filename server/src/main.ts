// The server: opens the data folder, starts the bench and the workers, listens.
import { createServer } from 'node:http';
import { existsSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pino } from 'pino';
import { FolderInUse, lockFolder } from './db/lock.ts';
import { migrate } from './db/migrate.ts';
import { openPglite } from './db/pglite.ts';
import { snapshot } from './db/snapshot.ts';
import { seedDemo, windDemoClock } from './demo/seed.ts';
import { demoVersion } from './demo/version.ts';
import { joining } from './http/scope.ts';
import { sampleOldSets } from './readings/store.ts';
import { addStarter } from './starter/starter.ts';
import { Bench } from './devices/bench.ts';
import { createApp } from './app.ts';
import { ChangeFeed } from './http/events.ts';
import { startSimulations } from './jobs/simulations.ts';

const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });
const host = process.env.HOST ?? '127.0.0.1';
const port = Number(process.env.PORT ?? 4400);
const demo = process.env.VIGILUM_DEMO === '1';
const folder = resolve(process.env.DATA_DIR ?? (demo ? 'data/demo' : 'data/own'));
const pages = resolve(process.env.PAGES_DIR ?? 'web/dist');

function stop(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

if (!Number.isInteger(port) || port < 0 || port > 65535)
  stop(`PORT must be a number from 0 to 65535, not “${process.env.PORT}”.`);

let unlock: () => void;
try {
  unlock = lockFolder(folder);
} catch (error) {
  if (error instanceof FolderInUse) stop(error.message);
  throw error;
}
process.on('exit', () => unlock());

const isNew = !existsSync(folder) || readdirSync(folder).length === 0;
const filled =
  demo && isNew
    ? await snapshot('demo', demoVersion(), resolve('.cache'), (db) => seedDemo(db, new Date()))
    : undefined;
const db = joining(await openPglite(folder, filled));
await migrate(db);
await addStarter(db);
await sampleOldSets(db);
// Answers of writes with a key are kept for as long as a tablet may have been away.
await db.query("delete from writes where at < now() - interval '30 days'");
// A new demo starts now; one that is gone on with is only wound on after a pause.
if (demo) await windDemoClock(db, new Date(), isNew ? 1 : undefined);

const bench = new Bench();
const simulations = startSimulations();
const services = { db, bench, simulations, changes: new ChangeFeed(), now: () => new Date() };
const app = createApp({
  services,
  pages,
  hosts: host === '0.0.0.0' ? [] : [host],
  log: (error) => log.error(error),
});
const server = createServer(app);

let closing = false;
async function close(): Promise<void> {
  if (closing) return;
  closing = true;
  server.close();
  server.closeAllConnections();
  bench.close();
  await simulations.close();
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
  const address = server.address();
  const at = typeof address === 'object' && address ? address.port : port;
  const shown = host.includes(':') ? `[${host}]` : host;
  process.stdout.write(`Vigilum${demo ? ' (demo)' : ''} is ready: http://${shown}:${at}\n`);
  if (!existsSync(join(pages, 'index.html')))
    process.stdout.write('The pages are not built: only the API answers.\n');
});
