// npm run bench: the benchmarks, bundled as the application is. From the sources every call of a local function costs more, and not evenly.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureInstalled, root } from './lib.mjs';
import { applicationPrograms, bundleServer } from './serverBundle.mjs';

ensureInstalled();
const out = join(root, '.cache/bench');
await bundleServer(out, {
  ...applicationPrograms,
  bench: 'server/bench/bench.ts',
  sweepWorker: 'server/bench/sweepWorker.ts',
  openFloorWorker: 'server/bench/openFloorWorker.ts',
});
process.env.VIGILUM_PROGRAMS = out;
await import(pathToFileURL(join(out, 'bench.js')).href);
