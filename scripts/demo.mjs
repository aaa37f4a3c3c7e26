// npm run demo: the harbour school in the middle of a lesson. `-- --fresh` starts it over.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { become, ensureBuilt, ensureInstalled, root } from './lib.mjs';

ensureInstalled();
ensureBuilt();
const folder = process.env.DATA_DIR ?? join(root, 'data/demo');
if (process.argv.includes('--fresh')) rmSync(folder, { recursive: true, force: true });
become(['server/dist/main.js'], { VIGILUM_DEMO: '1', DATA_DIR: folder });
