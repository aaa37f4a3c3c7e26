import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import Ajv2020 from 'ajv/dist/2020.js';
import { createApp } from '../app.ts';
import { BackupKeeper } from '../backup/keeper.ts';
import { checkBackup, restoreBackup } from '../backup/read.ts';
import { writeBackup } from '../backup/write.ts';
import { steadyClock } from '../db/clock.ts';
import { openDataFolder } from '../db/dataFolder.ts';
import type { Database } from '../db/database.ts';
import { roomIn } from '../db/room.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { FolderInUse, lockFolder } from '../db/lock.ts';
import { openPglite } from '../db/pglite.ts';
import { migrate, migrations } from '../db/migrate.ts';
import { windDemoClock } from '../demo/seed.ts';
import { demoApp, signedIn, demoDatabase, emptyDatabase, NOW } from './harness.ts';
import { endServers, startServer } from './startedServer.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vigilum-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

describe('the lock of a data folder', () => {
  const other = (owner: object) =>
    writeFileSync(join(folder, 'lock'), JSON.stringify({ id: 'other', ...owner }));
  const gone = { pid: 2 ** 22 + 12345, born: '1', host: hostname() };

  it('is taken once, by whatever path the folder is reached, with a clear sentence for the second, and let go', async () => {
    const lock = await lockFolder(folder);
    await expect(lockFolder(folder)).rejects.toThrow(
      /is open in another Vigilum \(process \d+\)\. Stop that one first/,
    );
    symlinkSync(folder, `${folder}-too`);
    await expect(lockFolder(`${folder}-too`)).rejects.toThrow(FolderInUse);
    rmSync(`${folder}-too`);
    expect(lock.isOurs()).toBe(true);
    lock.release();
    (await lockFolder(folder)).release();
    expect(existsSync(join(folder, 'lock'))).toBe(false);
  });

  it('left by a process that is gone, or unreadable, is taken over', async () => {
    other(gone);
    (await lockFolder(folder)).release();
    // The same number, but another process than the one that wrote it.
    other({ ...gone, pid: process.pid });
    (await lockFolder(folder)).release();
    writeFileSync(join(folder, 'lock'), 'half writ');
    (await lockFolder(folder)).release();
  });

  it('of another machine counts while it is touched, and one that lies beside the folder, as it did once, as well', async () => {
    other({ ...gone, host: 'elsewhere' });
    await expect(lockFolder(folder)).rejects.toThrow(/on elsewhere/);
    const before = new Date(Date.now() - 60_000);
    utimesSync(join(folder, 'lock'), before, before);
    (await lockFolder(folder)).release();
    // The process that runs these tests runs.
    const parent = { pid: process.ppid, born: '' };
    writeFileSync(`${folder}.lock`, JSON.stringify(parent));
    await expect(lockFolder(folder)).rejects.toThrow(FolderInUse);
    rmSync(`${folder}.lock`);
  });

  it('knows when another has taken it', async () => {
    const lock = await lockFolder(folder);
    other(gone);
    await new Promise((done) => setTimeout(done, 300));
    expect(lock.isOurs()).toBe(false);
    lock.release();
    // What is another's by now is left to it.
    expect(existsSync(join(folder, 'lock'))).toBe(true);
  });
});

describe('a data folder', () => {
  const data = () => join(folder, 'data');
  const opened = async (path = data()) => {
    const { db, lock, isNew, identity } = await openDataFolder(path);
    const close = async () => {
      await db.close();
      lock.release();
    };
    return { db, close, isNew, identity };
  };
  /** A folder with one class in it, made once and copied: making a database takes its time. */
  let template: string;
  let identity: unknown;
  beforeAll(async () => {
    template = mkdtempSync(join(tmpdir(), 'vigilum-good-'));
    const made = await openDataFolder(template);
    await migrate(made.db);
    await made.db.query(`insert into classes (school, name) values ('S', '7 Tern')`);
    await made.db.close();
    made.lock.release();
    expect(made.isNew).toBe(true);
    identity = made.identity;
  }, 60_000);
  afterAll(() => rmSync(template, { recursive: true, force: true }));
  const filled = () => cpSync(template, data(), { recursive: true });
  const classes = async () => {
    const { db, close, isNew } = await opened();
    const rows = await db.query<{ name: string }>('select name from classes');
    await close();
    return { isNew, names: rows.map(({ name }) => name) };
  };
  const kept = { isNew: false, names: ['7 Tern'] };
  const everything = () => (readdirSync(data(), { recursive: true }) as string[]).sort();

  it('is made once, marked, and found again', async () => {
    filled();
    const again = await opened();
    expect([again.isNew, again.identity]).toEqual([false, identity]);
    await again.close();
    expect(await classes()).toEqual(kept);
  });

  it('that was made by an older Vigilum moves to its place, also when the move was cut off', async () => {
    filled();
    // As it once was: the database in the folder itself.
    for (const name of readdirSync(join(data(), 'db')))
      renameSync(join(data(), 'db', name), join(data(), name));
    for (const name of ['db', 'vigilum.json']) rmSync(join(data(), name), { recursive: true });
    // Cut off after a part of it.
    mkdirSync(join(data(), 'db.moving'));
    for (const name of ['base', 'global']) renameSync(join(data(), name), join(data(), 'db.moving', name));
    expect(await classes()).toEqual(kept);
    expect(existsSync(join(data(), 'PG_VERSION'))).toBe(false);
  });

  it('of which the database does not open is left as it is, and said so with where the backups are', async () => {
    filled();
    const version = join(data(), 'db', 'PG_VERSION');
    renameSync(version, join(folder, 'aside'));
    mkdirSync(join(data(), 'backups'), { recursive: true });
    writeFileSync(join(data(), 'backups', '2026-01-02T03-04-05Z.vigilum'), '');
    const before = everything();
    await expect(opened()).rejects.toThrow(
      /PG_VERSION is missing\. It was left as it is\. The newest backup is .*2026-01-02/,
    );
    expect(everything()).toEqual(before);
    renameSync(join(folder, 'aside'), version);
    expect(await classes()).toEqual(kept);
    // The mark alone says that something stood here.
    rmSync(join(data(), 'db'), { recursive: true });
    await expect(opened()).rejects.toThrow(FolderTrouble);
    expect(existsSync(join(data(), 'db'))).toBe(false);
  });

  it('of a newer Vigilum is refused and left as it is', async () => {
    filled();
    const { db, close } = await opened();
    await db.query(`insert into migrations values (999, '999_later.sql')`);
    await close();
    await expect(opened()).rejects.toThrow(/was written by a newer Vigilum \(its data has form 999/);
  });

  it('that was cut off while it was made is begun again', async () => {
    mkdirSync(join(data(), 'db.making', 'base'), { recursive: true });
    writeFileSync(join(data(), 'db.making', 'PG_VERSION'), '17');
    const { isNew, close } = await opened();
    expect(isNew).toBe(true);
    await close();
  });

  it.each<[string, () => void, RegExp]>([
    ['is a file', () => writeFileSync(data(), ''), /which is a file/],
    [
      'is a link that leads nowhere',
      () => symlinkSync(join(folder, 'nowhere'), data()),
      /a link that leads nowhere/,
    ],
    [
      'holds other things',
      () => {
        mkdirSync(data());
        writeFileSync(join(data(), 'letter.odt'), '');
      },
      /holds other things \(letter\.odt\)/,
    ],
    [
      'was Vigilum’s before it had marks, without its version',
      () => {
        mkdirSync(join(data(), 'base'), { recursive: true });
        mkdirSync(join(data(), 'global'));
      },
      /does not open: .*PG_VERSION is missing/,
    ],
  ])('that %s is told in a sentence, and nothing is made', async (_, prepare, says) => {
    prepare();
    await expect(opened()).rejects.toThrow(FolderTrouble);
    await expect(opened()).rejects.toThrow(says);
    expect(existsSync(join(data(), 'db'))).toBe(false);
  });
});

describe('room and time', () => {
  it('is looked at before writes: below the mark they are refused with a sentence, and reads go on', async () => {
    const app = await demoApp();
    let mb = 500;
    const room = roomIn('anywhere', 64, () => mb * 2 ** 20);
    const storage = { folder, room, keeper: keeperIn(app.db), addresses: () => [], isOurs: () => ours };
    let ours = true;
    const served = signedIn(
      createApp({ services: { ...app.services, storage }, log: (error) => app.logged.push(error) }),
      app.cookie,
    );
    const rename = () => served.patch('/api/classes/1').send({ name: '7 Kittiwake' });
    await rename().expect(204);
    mb = 20;
    await new Promise((done) => setTimeout(done, 1100));
    const { text } = await rename().expect(507);
    expect(text).toMatch(/nearly full \(20 MB are free, 64 MB must stay\)/);
    await served.get('/api/today').expect(200);
    expect((await served.get('/api/storage').expect(200)).body).toMatchObject({ freeMb: 20, backups: [] });
    mb = 500;
    await new Promise((done) => setTimeout(done, 1100));
    await rename().expect(204);
    // Where backups go lies a file: said so, and nothing else suffers.
    writeFileSync(join(folder, 'backups'), '');
    const none = await served.post('/api/backups').send({}).expect(507);
    expect(none.text).toMatch(/No backup was made in .*: a file lies where a folder should be/);
    ours = false;
    await rename().expect(503);
    await app.close();
  });

  it('never goes back behind the record, and follows neither a clock set back nor one a year ahead', () => {
    let wall = 10_000_000;
    let steady = 0;
    const clock = (newest: number) =>
      steadyClock(
        newest,
        () => wall,
        () => steady,
      );
    const now = clock(wall + 7_200_000);
    expect(now().getTime()).toBe(17_200_000);
    steady += 50;
    expect(now().getTime()).toBe(17_200_050);
    wall -= 5_000_000;
    steady += 50;
    expect(now().getTime()).toBe(17_200_100);
    wall = 20_000_000;
    expect(now().getTime()).toBe(20_000_000);
    expect(clock(wall + 400 * 86_400_000)().getTime()).toBe(wall);
  });
});

const keeperIn = (db: Database, now: () => Date = () => NOW) =>
  new BackupKeeper({
    db,
    dir: join(folder, 'backups'),
    vigilum: () => Promise.resolve('test'),
    now,
    log: () => undefined,
  });

describe('a backup', () => {
  it('holds every row, is read back, and comes back into an empty database as it was', async () => {
    const db = await demoDatabase();
    const file = join(folder, 'all.vigilum');
    const written = await writeBackup(db, file, { vigilum: 'test', now: NOW });
    expect(written.tables.length).toBeGreaterThan(20);
    const back = await emptyDatabase();
    expect(await restoreBackup(back, file)).toEqual(written);
    // And once more from there: the same lines but for the head.
    const again = await writeBackup(back, join(folder, 'again.vigilum'), { vigilum: 'test', now: NOW });
    expect(again).toEqual(written);
    // New rows get numbers of their own.
    await back.query(`insert into classes (school, name) values ('S', 'after')`);
    await expect(restoreBackup(back, file)).rejects.toThrow();
    await Promise.all([db.close(), back.close()]);
  }, 60_000);

  it('goes from a laptop to a district and back', async () => {
    const [laptop, database] = [await openPglite(null), await emptyDatabase()];
    const [out, there, back] = ['out', 'there', 'back'].map((name) => join(folder, `${name}.vigilum`)) as [
      string,
      string,
      string,
    ];
    const demo = await demoDatabase();
    const written = await writeBackup(demo, out, { vigilum: 'test', now: NOW });
    await restoreBackup(laptop, out);
    expect(await writeBackup(laptop, there, { vigilum: 'test', now: NOW })).toEqual(written);
    await restoreBackup(database, there);
    expect(await writeBackup(database, back, { vigilum: 'test', now: NOW })).toEqual(written);
    await Promise.all([demo.close(), laptop.close(), database.close()]);
  }, 60_000);

  it('is as its published schema says, line by line', async () => {
    const db = await demoDatabase();
    const file = join(folder, 'all.vigilum');
    await writeBackup(db, file, { vigilum: 'test', now: NOW });
    const schema = JSON.parse(
      readFileSync(join(import.meta.dirname, '../../../docs/schemas/backup-line.schema.json'), 'utf8'),
    ) as object;
    const valid = new Ajv2020({ strict: false }).compile(schema);
    const lines = gunzipSync(readFileSync(file)).toString().trim().split('\n');
    expect(lines.filter((line) => !valid(JSON.parse(line)))).toEqual([]);
    for (const wrong of [
      '[]',
      '"a"',
      '{"table":"a","rows":1}',
      '{"end":"a","rows":1,"sha256":"x"}',
      '{"done":false,"tables":1}',
    ])
      expect([wrong, valid(JSON.parse(wrong))]).toEqual([wrong, false]);
    await db.close();
  }, 60_000);

  it('that is damaged is never taken for a whole one', async () => {
    const db = await demoDatabase();
    const file = join(folder, 'all.vigilum');
    await writeBackup(db, file, { vigilum: 'test', now: NOW });
    const whole = gunzipSync(readFileSync(file));
    const packed = readFileSync(file);
    const hurt = join(folder, 'hurt.vigilum');
    let [tried, held] = [0, 0];
    const refused = async (bytes: Uint8Array) => {
      writeFileSync(hurt, bytes);
      tried++;
      await checkBackup(hurt).then(
        () => undefined,
        (error: unknown) => {
          if (error instanceof FolderTrouble) held++;
        },
      );
    };
    let seed = 7;
    const random = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    for (let i = 0; i < 12; i++) {
      await refused(packed.subarray(0, random(packed.length)));
      const flipped = Buffer.from(whole);
      const at = random(whole.length);
      flipped[at] = flipped[at]! ^ 1;
      // A flip in the head’s own words is no damage to the record.
      if (at > whole.indexOf(10)) await refused(gzipSync(flipped, { level: 1 }));
    }
    const lines = whole.toString().split('\n');
    await refused(gzipSync([...lines.slice(0, 40), ...lines.slice(41)].join('\n'), { level: 1 }));
    await refused(gzipSync([...lines, lines[1]].join('\n'), { level: 1 }));
    await refused(Buffer.from('no backup'));
    await refused(gzipSync('{"format":"another"}\n'));
    await refused(gzipSync(whole.toString().replace('"form":', '"form":9'), { level: 1 }));
    console.log(`damaged backups: ${tried} tried, ${held} refused with a sentence`);
    expect(held).toBe(tried);
    await expect(checkBackup(join(folder, 'none'))).rejects.toThrow(/There is no file/);
    await db.close();
  }, 60_000);

  it('is kept seven times, the oldest going first, and nothing else is touched', async () => {
    const db = await emptyDatabase();
    await migrate(db);
    let at = NOW.getTime();
    const keeper = keeperIn(db, () => new Date((at += 3_600_000)));
    for (let i = 0; i < 9; i++) await keeper.save(i === 8 ? 'before-form-12' : '');
    writeFileSync(join(folder, 'backups', 'letter.vigilum.txt'), '');
    await keeper.save();
    const names = keeper.list().map(({ name }) => name);
    expect(names).toHaveLength(7);
    expect(names[1]).toMatch(/-before-form-12\.vigilum$/);
    expect(readdirSync(join(folder, 'backups'))).toHaveLength(8);
    await db.close();
  }, 60_000);
});

describe('migrations', () => {
  it('run once, in order, and leave a database that guards itself', async () => {
    const db = await emptyDatabase();
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
    const db = await emptyDatabase();
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
      (
        await db.query<{ starts_at: Date }>('select starts_at from periods order by id')
      )[0]!.starts_at.getTime();
    const before = await start();
    await windDemoClock(db, new Date(NOW.getTime() + 60_000));
    expect(await start()).toBe(before);
    await windDemoClock(db, new Date(NOW.getTime() + 5 * 86_400_000));
    expect(await start()).toBe(before + 5 * 86_400_000);
    await db.close();
  });
});

describe('killed in the middle of writing', () => {
  const start = (data: string) => startServer({ VIGILUM_DEMO: '1', DATA_DIR: data });
  afterEach(endServers);

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
