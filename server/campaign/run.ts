// npm run campaign: what a year in a school does to the built server, in minutes. Prints for each part what was tried, what held and what
// did not; ends with 1 where something did not. Parts: `npm run campaign -- kill fuzz`. Some need to be allowed to mount.
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { root, type Outcome } from './bench.ts';
import { backup, damage, disk, kill, lock, oddFolders } from './folder.ts';
import { fuzz } from './requests.ts';
import { databaseAway, killServers } from './servers.ts';
import { stall } from './stall.ts';
import { files, hard } from './texts.ts';
import { calendars, importedFiles } from './uploads.ts';

const parts: Record<string, () => Promise<Outcome>> = {
  kill: () => kill(20),
  damage,
  folders: oddFolders,
  lock,
  disk,
  backup,
  stall,
  texts: hard,
  files: () => files(10_000),
  calendars: () => calendars(Number(process.env.CAMPAIGN_FILES ?? 20_000)),
  imports: () => importedFiles(Number(process.env.CAMPAIGN_FILES ?? 20_000)),
  fuzz: () => fuzz(20_000),
  // These start a PostgreSQL server of Debian's.
  servers: () => killServers(Number(process.env.CAMPAIGN_KILLS ?? 50)),
  away: () => databaseAway(60),
};

if (!existsSync(join(root, 'server/dist/main.js'))) {
  console.error('Build first: npm run build');
  process.exit(2);
}
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !Object.hasOwn(parts, name));
if (unknown !== undefined) {
  console.error(`There is no part “${unknown}”. Parts: ${Object.keys(parts).join(', ')}.`);
  process.exit(2);
}
let failed = false;
for (const [name, run] of Object.entries(parts)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  const from = Date.now();
  const { part, tried, held, notes } = await run().catch((error: unknown): Outcome => ({
    part: name,
    tried: 1,
    held: 0,
    notes: [String(error)],
  }));
  if (held < tried) failed = true;
  console.log(
    `${held === tried ? 'held  ' : 'FAILED'} ${part}: ${tried} tried, ${held} held, ${tried - held} failed (${Math.round((Date.now() - from) / 1000)} s)`,
  );
  for (const note of notes) console.log(`       ${note}`);
}
process.exit(failed ? 1 : 0);
