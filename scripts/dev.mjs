// npm run dev: the server from its sources on demo data, and the pages with live reload.
import { spawn } from 'node:child_process';
import { become, ensureInstalled, root } from './lib.mjs';

ensureInstalled();
const vite = spawn(process.execPath, ['scripts/vite.mjs'], { cwd: root, stdio: 'inherit' });
process.on('exit', () => vite.kill());
become(['--import', 'tsx', '--watch', 'server/src/main.ts'], {
  VIGILUM_DEMO: '1',
  DATA_DIR: 'data/dev',
  LOG_LEVEL: 'info',
});
