// npm test: installs what is needed, then lint, types, unit tests, build, browser tests. One failure ends it.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { grammars, isFresh } from './grammars.mjs';
import { ensureBuilt, ensureInstalled, must, mustAll } from './lib.mjs';

const part = (name) => console.log(`\n— ${name}`);

ensureInstalled();

const HEADLESS = '/usr/bin/chromium-headless-shell';
const CHROMIUM = '/usr/bin/chromium';

/** Debian's Chromium without a window, installed when absent and we may; a whole Chromium does as well; elsewhere CHROMIUM names one. */
function ensureChromium() {
  if (existsSync(process.env.CHROMIUM ?? HEADLESS)) return;
  const root = typeof process.getuid === 'function' && process.getuid() === 0;
  if (!process.env.CHROMIUM && root && spawnSync('apt-get', ['--version']).status === 0) {
    console.log('Installing Chromium’s headless shell from Debian’s packages …');
    const quiet = {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    };
    const get = (...args) => spawnSync('apt-get', args, quiet).status === 0;
    get('update', '-qq');
    if (get('install', '-y', '-qq', '--no-install-recommends', 'chromium-headless-shell')) return;
  }
  if (!process.env.CHROMIUM && existsSync(CHROMIUM)) return;
  console.error(
    `No Chromium at ${process.env.CHROMIUM ?? HEADLESS}. Install it, or set CHROMIUM to one, then run npm test again.`,
  );
  process.exit(1);
}

part('the generated parsers are their grammars’');
for (const grammar of grammars) {
  if (isFresh(grammar)) continue;
  console.error(`The parser beside ${grammar} is not what it gives. Run: npm run generate`);
  process.exit(1);
}
part('lint, layout, types; the application is built meanwhile');
await mustAll([
  ['lint', process.execPath, ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']],
  [
    'layout',
    process.execPath,
    ['node_modules/prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn'],
  ],
  ['licences', process.execPath, ['scripts/licences.mjs', '--check']],
  ['types', process.execPath, ['node_modules/typescript/bin/tsc', '-b']],
  ['build', process.execPath, ['scripts/ensureBuilt.mjs']],
]);
part('unit tests');
must(process.execPath, [
  '--experimental-vm-modules',
  '--disable-warning=ExperimentalWarning',
  'node_modules/jest/bin/jest.js',
]);
part('browser tests on the built application');
ensureChromium();
ensureBuilt();
must(process.execPath, ['node_modules/@playwright/test/cli.js', 'test']);
