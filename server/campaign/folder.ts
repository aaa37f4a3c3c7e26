import { execFileSync } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  openSync,
  closeSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import {
  dice,
  inFolder,
  isRunning,
  root,
  start,
  started,
  stored,
  wait,
  writing,
  type Outcome,
} from './bench.ts';

/** Kill -9 in the middle of parallel writes, again and again: every acknowledged row is found. */
export const kill = (rounds: number): Promise<Outcome> =>
  inFolder(async (folder) => {
    const all: number[] = [];
    let held = 0;
    for (let round = 0; round < rounds; round++) {
      const server = await started(join(folder, 'data'), { REQUESTS_PER_MINUTE: '1000000' });
      const { acknowledged, stop } = writing(server.url);
      await wait(300 + 40 * round);
      await server.kill();
      await stop();
      all.push(...acknowledged);
      held++;
    }
    const server = await started(join(folder, 'data'));
    const kept = await stored(server.url);
    const lost = all.filter((id) => !kept.has(id)).length;
    await server.kill('SIGTERM');
    return {
      part: 'kill -9 in the middle of writes',
      tried: rounds,
      held: lost === 0 ? held : 0,
      notes: [`acknowledged ${all.length}, found again ${all.length - lost}, lost ${lost}`],
    };
  });

/** Names of what may be damaged, each done to a copy of a good folder. */
const damages: [string, (base: string) => void][] = [
  ['PG_VERSION is missing', (base) => rmSync(join(base, 'PG_VERSION'))],
  ['PG_VERSION is empty', (base) => truncateSync(join(base, 'PG_VERSION'))],
  ['PG_VERSION is another', (base) => writeFileSync(join(base, 'PG_VERSION'), '9.6\n')],
  ['global/pg_control is missing', (base) => rmSync(join(base, 'global/pg_control'))],
  ['global/pg_control is empty', (base) => truncateSync(join(base, 'global/pg_control'))],
  ['global/pg_control is garbage', (base) => garbage(join(base, 'global/pg_control'))],
  ['global is missing', (base) => rmSync(join(base, 'global'), { recursive: true })],
  ['base is missing', (base) => rmSync(join(base, 'base'), { recursive: true })],
  ['pg_wal is missing', (base) => rmSync(join(base, 'pg_wal'), { recursive: true })],
  ['pg_wal is garbage', (base) => filesIn(join(base, 'pg_wal')).forEach(garbage)],
  ['pg_xact is missing', (base) => rmSync(join(base, 'pg_xact'), { recursive: true })],
  ['the largest table is cut off', (base) => truncateSync(largest(base), 8192)],
  ['the largest table is garbage', (base) => garbage(largest(base))],
  ['postgresql.conf is missing', (base) => rmSync(join(base, 'postgresql.conf'), { force: true })],
];
const filesIn = (folder: string): string[] =>
  (readdirSync(folder, { recursive: true }) as string[])
    .map((name) => join(folder, name))
    .filter((file) => statSync(file).isFile());
const largest = (base: string): string =>
  filesIn(join(base, 'base')).sort((a, b) => statSync(b).size - statSync(a).size)[0]!;
function garbage(file: string): void {
  const random = dice(5);
  const handle = openSync(file, 'r+');
  writeSync(
    handle,
    Buffer.from(Array.from({ length: Math.min(statSync(file).size, 65_536) }, () => random(256))),
    0,
    undefined,
    0,
  );
  closeSync(handle);
}

/** The names of all files with their sizes: what must stay as it was. */
const picture = (base: string): string =>
  filesIn(base)
    .map((file) => `${file} ${statSync(file).size}`)
    .sort()
    .join('\n');

/**
 * Damaged folders: each ends in one sentence and exit status 1, or opens with every row; never in a new empty database, never in a
 * stack trace.
 */
export const damage = (): Promise<Outcome> =>
  inFolder(async (folder) => {
    const good = join(folder, 'good');
    const server = await started(good);
    const before = (await stored(server.url)).size;
    await server.kill('SIGTERM');
    const notes: string[] = [];
    let held = 0;
    for (const [what, hurt] of damages) {
      const data = join(folder, 'hurt');
      rmSync(data, { recursive: true, force: true });
      cpSync(good, data, { recursive: true });
      hurt(join(data, 'db'));
      const files = picture(join(data, 'db'));
      const one = await start(data, {}, 40_000);
      if (isRunning(one)) {
        const rows = await stored(one.url).catch(() => new Set<number>());
        await one.kill();
        if (rows.size >= before) held++;
        else notes.push(`${what}: opened with ${rows.size} of ${before} rows`);
        continue;
      }
      const sentence = one.said.trim().split('\n');
      const plain = one.code === 1 && !/^\s+at /m.test(one.said) && sentence.length <= 2;
      const untouched =
        what.includes('missing') && what.startsWith('PG_VERSION')
          ? picture(join(data, 'db')) === files
          : true;
      if (plain && untouched) held++;
      else notes.push(`${what}: exit ${one.code}, ${sentence.length} lines, ${sentence[0]?.slice(0, 120)}`);
    }
    return { part: 'damaged folders', tried: damages.length, held, notes };
  });

/** Folders that cannot be one: a sentence, exit status 1, and no stack trace. */
export const oddFolders = (): Promise<Outcome> =>
  inFolder(async (folder) => {
    const at = (name: string) => join(folder, name);
    writeFileSync(at('file'), '');
    symlinkSync(at('nowhere'), at('dangling'));
    mkdirSync(at('others'));
    writeFileSync(at('others/letter.odt'), '');
    mkdirSync(at('cut/db.making/base'), { recursive: true });
    const cases: [string, string, boolean][] = [
      ['DATA_DIR is a file', at('file'), false],
      ['DATA_DIR lies under a file', at('file/data'), false],
      ['DATA_DIR is a dangling link', at('dangling'), false],
      ['DATA_DIR holds other things', at('others'), false],
      ['its making was cut off', at('cut'), true],
    ];
    // Whoever is root may write everywhere.
    if (process.getuid?.() !== 0) {
      mkdirSync(at('shut'), { mode: 0o500 });
      cases.push(
        ['DATA_DIR cannot be written', at('shut'), false],
        ['its parent cannot be written', at('shut/data'), false],
      );
    }
    const notes: string[] = [];
    let held = 0;
    for (const [what, data, opens] of cases) {
      const one = await start(data);
      if (isRunning(one)) await one.kill();
      const good = isRunning(one)
        ? opens
        : !opens && one.code === 1 && one.said.trim().split('\n').length === 1 && !/^\s+at /m.test(one.said);
      if (good) held++;
      else notes.push(`${what}: ${isRunning(one) ? 'opened' : one.said.slice(0, 160)}`);
    }
    return { part: 'folders that are none', tried: cases.length, held, notes };
  });

/** One folder by two paths: the second server says who has it, and no write is lost. */
export const lock = (): Promise<Outcome> =>
  inFolder(async (folder) => {
    const data = join(folder, 'data');
    const first = await started(data);
    const paths: [string, string][] = [
      ['the same path', data],
      ['a path with a dot', join(folder, '.', 'data')],
    ];
    symlinkSync(data, join(folder, 'link'));
    paths.push(['a link', join(folder, 'link')]);
    const mounted = join(folder, 'mounted');
    mkdirSync(mounted);
    try {
      execFileSync('mount', ['--bind', data, mounted], { stdio: 'ignore' });
      paths.push(['a second mount', mounted]);
    } catch {
      // Not allowed here: said below.
    }
    const notes: string[] = paths.length === 4 ? [] : ['a second mount could not be tried: not allowed here'];
    let held = 0;
    for (const [what, path] of paths) {
      const second = await start(path, {}, 30_000);
      if (isRunning(second)) {
        await second.kill();
        notes.push(`${what}: both ran`);
      } else if (second.code === 1 && second.said.includes('is open in another Vigilum')) held++;
      else notes.push(`${what}: ${second.said.slice(0, 160)}`);
    }
    if (paths.length === 4) execFileSync('umount', [mounted]);
    await first.kill('SIGTERM');
    return { part: 'one folder by several paths', tried: paths.length, held, notes };
  });

/** A disk that fills up: writes are refused with a sentence, reads go on, the process ends when asked to, nothing is lost. */
export const disk = (): Promise<Outcome> =>
  inFolder(async (folder) => {
    const disk_ = join(folder, 'disk');
    mkdirSync(disk_);
    try {
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=320m', 'tmpfs', disk_], { stdio: 'ignore' });
    } catch {
      return {
        part: 'a full disk',
        tried: 0,
        held: 0,
        notes: ['a small disk could not be made: not allowed here'],
      };
    }
    const notes: string[] = [];
    let held = 0;
    const hold = (good: boolean, what: string) => {
      if (good) held++;
      else notes.push(what);
    };
    try {
      const data = join(disk_, 'data');
      const server = await started(data, { REQUESTS_PER_MINUTE: '1000000' });
      const { acknowledged, stop } = writing(server.url, 4);
      await wait(1000);
      fill(disk_, 40);
      await wait(2500);
      await stop();
      const refused = await fetch(`${server.url}/api/classes/1`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/json' },
        body: '{"name":"7 Kittiwake"}',
      });
      hold(refused.status === 507, `a write on a full disk answered ${refused.status}`);
      hold((await fetch(`${server.url}/api/today`)).status === 200, 'reads did not go on');
      hold((await fetch(`${server.url}/api/health`)).status === 200, 'health did not answer');
      const asked = Date.now();
      await Promise.race([server.kill('SIGTERM'), wait(12_000)]);
      hold(server.child.exitCode !== null, 'SIGTERM did not end it');
      hold(Date.now() - asked < 10_000, `it took ${Date.now() - asked} ms to end`);
      fill(disk_, 10);
      const onFull = await start(data, {}, 40_000);
      hold(!isRunning(onFull) && onFull.code === 1 && /is full/.test(onFull.said), 'a start on a full disk');
      if (isRunning(onFull)) await onFull.kill();
      rmSync(join(disk_, 'fill'), { recursive: true });
      const again = await started(data);
      const kept = await stored(again.url);
      const lost = acknowledged.filter((id) => !kept.has(id)).length;
      hold(lost === 0, `${lost} rows were lost`);
      notes.push(
        `acknowledged ${acknowledged.length}, found again ${acknowledged.length - lost}, lost ${lost}`,
      );
      await again.kill('SIGTERM');
      // The same with nobody looking at the room: it may get stuck, but then it ends, and nothing is lost.
      const blind = await started(data, {
        FREE_MB: '0',
        VIGILUM_PATIENCE: '8',
        REQUESTS_PER_MINUTE: '1000000',
      });
      const blindly = writing(blind.url, 4);
      await wait(800);
      fill(disk_, 0);
      await wait(4000);
      const sent = Date.now();
      await Promise.race([blind.kill('SIGTERM'), wait(15_000)]);
      hold(
        blind.child.exitCode !== null || blind.child.signalCode !== null,
        'stuck on a full disk, SIGTERM did not end it',
      );
      notes.push(`on a disk with nothing free it ended ${Date.now() - sent} ms after SIGTERM`);
      await blind.kill();
      await blindly.stop();
      rmSync(join(disk_, 'fill'), { recursive: true });
      const last = await started(data);
      const found = await stored(last.url);
      const gone = blindly.acknowledged.filter((id) => !found.has(id)).length;
      hold(gone === 0, `${gone} rows were lost with nothing free`);
      notes.push(`acknowledged ${blindly.acknowledged.length} until then, lost ${gone}`);
      await last.kill('SIGTERM');
    } finally {
      execFileSync('umount', ['-l', disk_]);
    }
    return { part: 'a full disk', tried: 9, held, notes };
  });

/** Fills a disk until so many MB are free. */
function fill(disk_: string, leaveMb: number): void {
  mkdirSync(join(disk_, 'fill'), { recursive: true });
  const free = Number(execFileSync('df', ['-m', '--output=avail', disk_]).toString().trim().split('\n')[1]);
  const handle = openSync(join(disk_, 'fill', `by-${leaveMb}`), 'w');
  const mb = Buffer.alloc(2 ** 20, 1);
  for (let i = 0; i < free - leaveMb; i++) writeSync(handle, mb);
  closeSync(handle);
}

/** A backup taken while the server writes, restored into an empty folder: everything that was acknowledged before it is there. */
export const backup = (): Promise<Outcome> =>
  inFolder(async (folder) => {
    const notes: string[] = [];
    let held = 0;
    const data = join(folder, 'data');
    const server = await started(data, { REQUESTS_PER_MINUTE: '1000000' });
    const { acknowledged, stop } = writing(server.url, 4);
    await wait(800);
    const before = [...acknowledged];
    const file = join(folder, 'all.vigilum');
    const cli = (...args: string[]) =>
      execFileSync(process.execPath, ['server/dist/backup.js', ...args], { cwd: root }).toString();
    notes.push(cli('backup', '--from', data, '--to', file).trim());
    await stop();
    await server.kill('SIGTERM');
    const other = join(folder, 'other');
    cli('restore', '--from', file, '--to', other);
    const again = await started(other);
    const kept = await stored(again.url);
    const lost = before.filter((id) => !kept.has(id)).length;
    if (lost === 0) held++;
    notes.push(`acknowledged before it ${before.length}, restored ${before.length - lost}, lost ${lost}`);
    await again.kill('SIGTERM');
    renameSync(other, join(folder, 'moved'));
    const moved = await start(join(folder, 'moved'));
    if (isRunning(moved)) {
      held++;
      await moved.kill('SIGTERM');
    } else notes.push(`moved: ${moved.said}`);
    return { part: 'backup and restore', tried: 2, held, notes };
  });
