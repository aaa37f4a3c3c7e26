// npm run test:postgres: all tests of the server on PostgreSQL instead of the embedded database; and those that want several servers.
import { spawn } from 'node:child_process';
import { ensureInstalled, root } from './lib.mjs';
import { startPostgres } from './postgres.mjs';

ensureInstalled();
const server = await startPostgres();
const given = process.argv.slice(2);
const child = spawn(
  process.execPath,
  [
    '--experimental-vm-modules',
    '--disable-warning=ExperimentalWarning',
    'node_modules/jest/bin/jest.js',
    ...(given.length > 0 ? given : ['server/src']),
  ],
  { cwd: root, stdio: 'inherit', env: { ...process.env, TEST_POSTGRES: server.url } },
);
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal));
child.on('exit', (code) => {
  void server.stop().then(() => process.exit(code ?? 1));
});
