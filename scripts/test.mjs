// npm test: installs what is needed, then lint, types, unit tests, build, browser tests. One failure ends it.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt, ensureInstalled, must, root } from './lib.mjs';

const part = (name) => console.log(`\n— ${name}`);

ensureInstalled();

/** Debian's Chromium, installed when absent and we may; elsewhere CHROMIUM names one. */
function ensureChromium() {
  const wanted = process.env.CHROMIUM ?? '/usr/bin/chromium';
  if (existsSync(wanted)) return;
  const root = typeof process.getuid === 'function' && process.getuid() === 0;
  if (!root || spawnSync('apt-get', ['--version']).status !== 0) {
    console.error(`No Chromium at ${wanted}. Install it, or set CHROMIUM to one, then run npm test again.`);
    process.exit(1);
  }
  console.log('Installing Chromium from Debian’s packages …');
  const quiet = {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  };
  must('apt-get', ['update', '-qq'], quiet);
  must('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], quiet);
}

part('the generated parser is the grammar’s');
const fresh = join(mkdtempSync(join(tmpdir(), 'vigilum-grammar-')), 'parser.ts');
must(
  process.execPath,
  [
    'node_modules/@lezer/generator/src/lezer-generator.cjs',
    '--typeScript',
    'core/src/script/script.grammar',
    '-o',
    fresh,
  ],
  { stdio: 'ignore' },
);
for (const end of ['.ts', '.terms.ts']) {
  const made = readFileSync(fresh.replace(/\.ts$/, end), 'utf8');
  if (made !== readFileSync(join(root, `core/src/script/generated/parser${end}`), 'utf8')) {
    console.error('core/src/script/generated is not what script.grammar gives. Run: npm run generate');
    process.exit(1);
  }
}
part('lint');
must(process.execPath, ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']);
must(process.execPath, ['node_modules/prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn']);
part('types');
must(process.execPath, ['node_modules/typescript/bin/tsc', '-b']);
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
