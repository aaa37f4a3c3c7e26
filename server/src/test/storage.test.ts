import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FolderInUse, lockFolder } from '../db/lock.ts';
import { migrate, migrations } from '../db/migrate.ts';
import { openPglite } from '../db/pglite.ts';
import { windDemoClock } from '../demo/seed.ts';
import { bundled } from '../program.ts';
import { demoDatabase, NOW } from './harness.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vigilum-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

describe('the lock of a data folder', () => {
  it('is taken once, with a clear sentence for the second, and let go', () => {
    const data = join(folder, 'data');
    const unlock = lockFolder(data);
    expect(() => lockFolder(data)).toThrow(FolderInUse);
    expect(() => lockFolder(`${data}/`)).toThrow(
      /is open in another Vigilum \(process \d+\)\. Stop that one first/,
    );
    unlock();
    lockFolder(data)();
    expect(existsSync(`${data}.lock`)).toBe(false);
  });

  it('left by a process that is gone, or unreadable, is taken over', () => {
    const data = join(folder, 'data');
    writeFileSync(`${data}.lock`, JSON.stringify({ pid: 2 ** 22 + 12345, born: '1' }));
    lockFolder(data)();
    // The same number, but another process than the one that wrote it.
    writeFileSync(`${data}.lock`, JSON.stringify({ pid: process.pid, born: '1' }));
    lockFolder(data)();
    writeFileSync(`${data}.lock`, 'half writ');
    lockFolder(data)();
  });
});

describe('migrations', () => {
  it('run once, in order, and leave a database that guards itself', async () => {
    const db = await openPglite(null);
    await migrate(db);
    await migrate(db);
    const rows = await db.query<{ number: number }>('select number from migrations order by number');
    expect(rows.map((r) => r.number)).toEqual(migrations().map((m) => m.number));
    await expect(
      db.query(`insert into kits (slug, name, definition) values ('Not A Slug', 'x', '{}')`),
    ).rejects.toThrow();
    await expect(
      db.query(`insert into teams (class_id, robot_id, name) values (1, 1, 'x')`),
    ).rejects.toThrow();
    await db.close();
  });

  it('undo themselves when one of their statements fails', async () => {
    const db = await openPglite(null);
    await migrate(db);
    const bad = {
      number: 999,
      name: '999_bad.sql',
      sql: 'create table half (id integer); insert into nowhere values (1)',
    };
    await expect(migrate(db, [...migrations(), bad])).rejects.toThrow();
    await db.exec('rollback');
    expect(await db.query(`select 1 from information_schema.tables where table_name = 'half'`)).toEqual([]);
    await db.close();
  });

  it('a transaction is all or nothing', async () => {
    const db = await demoDatabase();
    const insert = `insert into classes (school, name) values ('S', 'N')`;
    await expect(
      db.transaction(async (tx) => {
        await tx.query(insert);
        throw new Error('stop');
      }),
    ).rejects.toThrow('stop');
    expect(await db.query(`select 1 from classes where school = 'S'`)).toEqual([]);
    await db.close();
  });
});

describe('the demo’s clock', () => {
  it('is wound on so that the class is always in the middle of its lesson', async () => {
    const db = await demoDatabase();
    const start = async () =>
      (await db.query<{ starts_at: Date }>('select starts_at from periods'))[0]!.starts_at.getTime();
    const before = await start();
    await windDemoClock(db, new Date(NOW.getTime() + 60_000));
    expect(await start()).toBe(before);
    await windDemoClock(db, new Date(NOW.getTime() + 5 * 86_400_000));
    expect(await start()).toBe(before + 5 * 86_400_000);
    await db.close();
  });
});

describe('killed in the middle of writing', () => {
  const started: ChildProcess[] = [];
  afterEach(() => started.splice(0).forEach((child) => child.kill('SIGKILL')));

  /** Starts the real server on the demo and waits for its address. */
  async function start(data: string): Promise<{ child: ChildProcess; address: string }> {
    const child = spawn(process.execPath, [bundled('main')!], {
      env: { ...process.env, VIGILUM_DEMO: '1', DATA_DIR: data, PORT: '0', NODE_OPTIONS: '' },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    started.push(child);
    return new Promise((resolve, reject) => {
      let said = '';
      const listen = (chunk: Buffer) => {
        said += chunk.toString();
        const address = /http:\/\/\S+/.exec(said)?.[0];
        if (address) resolve({ child, address });
      };
      child.stdout.on('data', listen);
      child.stderr.on('data', listen);
      child.on('exit', (code) => reject(new Error(`exit ${code}: ${said}`)));
    });
  }

  it('loses nothing that was acknowledged, and starts again at once', async () => {
    const data = join(folder, 'data');
    let address: string;
    const acknowledged: number[] = [];
    for (let round = 0; round < 2; round++) {
      const server = await start(data);
      address = server.address;
      await expect(start(data)).rejects.toThrow(/is open in another Vigilum/);
      const send = async (i: number) => {
        const response = await fetch(`${address}/api/teams/1/lessons/tide-line/floor-trials`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ pastMm: 1000 + round * 100 + i, rested: true, tookS: null }),
        });
        if (response.status === 201) acknowledged.push(((await response.json()) as { id: number }).id);
      };
      const writing = Promise.allSettled(Array.from({ length: 60 }, (_, i) => send(i)));
      while (acknowledged.length < 10 * (round + 1)) await new Promise((r) => setTimeout(r, 2));
      const closed = new Promise((resolve) => server.child.once('close', resolve));
      server.child.kill('SIGKILL');
      await Promise.all([writing, closed]);
    }
    const { address: again } = await start(data);
    const { trials } = (await (await fetch(`${again}/api/teams/1/lessons/tide-line`)).json()) as {
      trials: { id: number; pastMm: number }[];
    };
    const kept = new Set(trials.map((trial) => trial.id));
    expect(acknowledged.length).toBeGreaterThanOrEqual(20);
    expect(acknowledged.filter((id) => !kept.has(id))).toEqual([]);
    expect(trials.every((trial) => Number.isFinite(trial.pastMm))).toBe(true);
  }, 300_000);
});
