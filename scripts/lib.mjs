// Shared by the commands: install when needed, build when needed, run a child and pass signals on.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs a command to its end; ends this process with its code when it fails. */
export function must(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (done.error) throw done.error;
  if (done.status !== 0) process.exit(done.status ?? 1);
}

/** Runs commands side by side, each to its end; prints what each said, in order, and ends this process when one failed. */
export async function mustAll(commands) {
  const runs = commands.map(
    ([name, command, args]) =>
      new Promise((done) => {
        const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
        let said = '';
        for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
        child.on('error', (error) => done({ name, said: String(error), code: 1 }));
        child.on('exit', (code) => done({ name, said, code: code ?? 1 }));
      }),
  );
  const ended = await Promise.all(runs);
  for (const { name, said, code } of ended) console.log(`${said}${name}: ${code === 0 ? 'fine' : 'failed'}`);
  if (ended.some(({ code }) => code !== 0)) process.exit(1);
}

const lockHash = () =>
  createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
const installStamp = join(root, 'node_modules/.vigilum-installed');

/** Installs exactly what the lock file says, once for each lock file. */
export function ensureInstalled() {
  if (existsSync(installStamp) && readFileSync(installStamp, 'utf8') === lockHash()) return;
  console.log('Installing packages …');
  must('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { shell: process.platform === 'win32' });
  writeFileSync(installStamp, lockHash());
}

function* sourceFiles(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (!['node_modules', 'dist', '.types'].includes(entry.name)) yield* sourceFiles(path);
    } else if (!entry.name.includes('.test.')) yield path;
  }
}

function sourceHash() {
  const hash = createHash('sha256').update(lockHash());
  for (const part of ['core/src', 'contract/src', 'server/src', 'web', 'scripts/build.mjs']) {
    const path = join(root, part);
    const files = statSync(path).isDirectory() ? [...sourceFiles(path)].sort() : [path];
    for (const file of files) hash.update(file.slice(root.length)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

const buildStamp = join(root, '.cache/built');

/** Builds server and pages when their sources changed since the last build. */
export function ensureBuilt() {
  const hash = sourceHash();
  const there =
    existsSync(join(root, 'web/dist/index.html')) && existsSync(join(root, 'server/dist/main.js'));
  if (there && existsSync(buildStamp) && readFileSync(buildStamp, 'utf8') === hash) return;
  console.log('Building …');
  must(process.execPath, ['scripts/build.mjs']);
  mkdirSync(dirname(buildStamp), { recursive: true });
  writeFileSync(buildStamp, hash);
}

/** Runs node until it ends, passing signals on, and ends with its code. */
export function become(args, env = {}) {
  const child = spawn(process.execPath, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
  return child;
}
