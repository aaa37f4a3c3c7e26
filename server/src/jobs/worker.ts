// npm run worker: does proofs for the servers that share a database, on this machine or another. It answers no pages.
import { availableParallelism } from 'node:os';
import { openStore } from '../db/store.ts';
import { formOf, newestMigration } from '../db/migrate.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { logTo } from '../watching/logs.ts';
import { queuedSimulations } from './queued.ts';
import { startSimulations } from './simulations.ts';

const log = logTo(process.env.LOG_LEVEL ?? 'warn');
const works = Number(process.env.PROOFS_AT_ONCE ?? availableParallelism());
/** A server that starts beside it may still be making the tables, ms. */
const PATIENCE_MS = 120_000;

async function main(): Promise<void> {
  const url = process.env.DATABASE_URL;
  if (!url)
    throw new FolderTrouble(
      'A worker takes its work from a database: set DATABASE_URL to that of the servers. With the embedded database the server does all work itself.',
    );
  if (!Number.isInteger(works) || works < 1 || works > 256)
    throw new FolderTrouble(
      `PROOFS_AT_ONCE must be a whole number from 1 to 256, not “${process.env.PROOFS_AT_ONCE}”.`,
    );
  const { db, where } = await openStore({ database: url, folder: '.', most: 4, log: (e) => log.warn(e) });
  const until = Date.now() + PATIENCE_MS;
  while ((await formOf(db)) !== newestMigration()) {
    if (Date.now() > until)
      throw new FolderTrouble(
        `The ${where} has not the form that this program knows. Start a server of the same program first; it brings the data up.`,
      );
    await new Promise((done) => setTimeout(done, 500));
  }
  const { wire } = db;
  if (!wire) throw new FolderTrouble(`The ${where} has no servers beside it.`);
  const queue = await queuedSimulations({
    url,
    db: { ...db, wire },
    local: startSimulations(works),
    works,
    log: (error) => log.warn(error),
  });
  process.stdout.write(`Vigilum worker is ready: ${works} proofs at a time for the ${where}\n`);
  let ending = false;
  const end = async () => {
    if (ending) return;
    ending = true;
    setTimeout(() => process.exit(0), 8000).unref();
    await queue.close();
    await db.close();
    process.exit(0);
  };
  process.on('SIGTERM', () => void end());
  process.on('SIGINT', () => void end());
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
