// A PostgreSQL server of Debian's in a folder of its own, on a free port, for tests and measurements; gone when it is stopped.
import { spawn, spawnSync } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const HOME = '/usr/lib/postgresql';

/** Where the programs are: PG_BIN, or the newest of Debian's versions; null where there is none. */
function programs() {
  if (process.env.PG_BIN) return process.env.PG_BIN;
  const versions = existsSync(HOME) ? readdirSync(HOME).filter((name) => /^\d+$/.test(name)) : [];
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  return newest && existsSync(join(HOME, newest, 'bin/initdb')) ? join(HOME, newest, 'bin') : null;
}

const isRoot = process.getuid?.() === 0;

/** Debian's server, installed when absent and we may. */
function ensurePostgres() {
  const there = programs();
  if (there) return there;
  if (isRoot && spawnSync('apt-get', ['--version']).status === 0) {
    console.log('Installing PostgreSQL from Debian’s packages …');
    const options = {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    };
    spawnSync('apt-get', ['update', '-qq'], options);
    spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'postgresql'], options);
  }
  const now = programs();
  if (now) return now;
  console.error(
    `No PostgreSQL in ${HOME}. Install it, or set PG_BIN to the folder of initdb, then try again.`,
  );
  process.exit(1);
}

/** PostgreSQL refuses to run as root: then it runs as the user that Debian made for it, or as nobody. */
function runner() {
  if (!isRoot) return {};
  for (const name of ['postgres', 'nobody']) {
    const [uid, gid] = ['-u', '-g'].map((flag) => Number(spawnSync('id', [flag, name]).stdout || NaN));
    if (Number.isInteger(uid) && Number.isInteger(gid)) return { uid, gid };
  }
  throw new Error('PostgreSQL does not run as root, and there is no other user to run it as.');
}

const freePort = () =>
  new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });

/**
 * Starts a server. `durable` false: what it writes may be lost with the machine, which tests do not mind. Returns its address, a way to
 * kill it and to start it again on the same data, and how to end it.
 */
export async function startPostgres({ durable = false } = {}) {
  const bin = ensurePostgres();
  const as = runner();
  const folder = mkdtempSync(join(tmpdir(), 'vigilum-postgres-'));
  if (as.uid !== undefined) chownSync(folder, as.uid, as.gid);
  const port = await freePort();
  const data = join(folder, 'data');
  const made = spawnSync(
    join(bin, 'initdb'),
    ['-D', data, '-U', 'postgres', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8', '--no-sync'],
    { ...as, cwd: folder, encoding: 'utf8' },
  );
  if (made.status !== 0) throw new Error(`initdb failed: ${made.stderr}`);
  const url = `postgres://vigilum@127.0.0.1:${port}/vigilum`;
  const settings = {
    port,
    listen_addresses: '127.0.0.1',
    unix_socket_directories: folder,
    max_connections: 200,
    shared_buffers: '128MB',
    ...(durable ? {} : { fsync: 'off', synchronous_commit: 'off', full_page_writes: 'off' }),
  };
  let running = null;
  const start = async () => {
    running = spawn(
      join(bin, 'postgres'),
      ['-D', data, ...Object.entries(settings).flatMap(([key, value]) => ['-c', `${key}=${value}`])],
      { ...as, cwd: folder, stdio: 'ignore' },
    );
    for (let i = 0; i < 200; i++) {
      if (spawnSync(join(bin, 'pg_isready'), ['-q', '-h', '127.0.0.1', '-p', String(port)]).status === 0)
        return;
      await new Promise((done) => setTimeout(done, 50));
    }
    throw new Error('PostgreSQL did not start.');
  };
  /** SIGINT ends it with its connections, SIGQUIT at once as in a crash. */
  const end = (signal) =>
    new Promise((done) => {
      if (!running || running.exitCode !== null) return done();
      running.once('exit', () => done());
      running.kill(signal);
    });
  await start();
  // As it is told to be set up: a role that owns its database and nothing more, so that what keeps schools apart holds.
  const asked = spawnSync(
    join(bin, 'psql'),
    [
      ...['-q', '-h', '127.0.0.1', '-p', String(port), '-U', 'postgres', '-v', 'ON_ERROR_STOP=1'],
      ...['-c', 'create role vigilum login createdb', '-c', 'create database vigilum owner vigilum'],
    ],
    { ...as, cwd: folder, encoding: 'utf8' },
  );
  if (asked.status !== 0) throw new Error(`psql failed: ${asked.stderr}`);
  return {
    url,
    start,
    crash: () => end('SIGQUIT'),
    async stop() {
      await end('SIGINT');
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
