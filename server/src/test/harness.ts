import { join } from 'node:path';
import type { Express } from 'express';
import request from 'supertest';
import type { Queries } from '../db/database.ts';
import { openPglite } from '../db/pglite.ts';
import { snapshot } from '../db/snapshot.ts';
import { seedDemo } from '../demo/seed.ts';
import { demoVersion } from '../demo/version.ts';
import { Bench } from '../devices/bench.ts';
import { Sessions, type Holder } from '../access/sessions.ts';
import { createApp } from '../app.ts';
import type { ChangeOf } from '@vigilum/contract/types';
import { ChangeFeed } from '../http/events.ts';
import type { Storage } from '../http/services.ts';
import { joining } from '../http/scope.ts';
import { startSimulations } from '../jobs/simulations.ts';

/** The moment at which the tests' class is in the middle of its lesson. */
export const NOW = new Date('2026-03-10T10:28:00Z');
const cache = join(import.meta.dirname, '../../../.cache');

/** A database with the demo school, opened from a snapshot that is built once. */
export async function demoDatabase() {
  return openPglite(null, await snapshot('test', demoVersion(), cache, (db) => seedDemo(db, NOW)));
}

/** Requests to an application with a cookie. */
export const signedIn = (app: Express, cookie: string) => request.agent(app).set('Cookie', cookie);

/** A whole application on a database of its own; nothing in it is a stand-in for the real thing but the robots. */
export async function demoApp(clock = { now: NOW }, storage?: Storage) {
  const counted = { statements: 0 };
  const plain = await demoDatabase();
  const counting = <Q extends Queries>(from: Q): Q => ({
    ...from,
    query: (sql: string, params?: readonly unknown[]) => {
      counted.statements++;
      return from.query(sql, params);
    },
  });
  const db = joining({
    ...counting(plain),
    transaction: (work) => plain.transaction((tx) => work(counting(tx))),
  });
  const bench = new Bench();
  const simulations = startSimulations(1);
  const changes = new ChangeFeed();
  const told: ChangeOf[] = [];
  const tell = changes.tell.bind(changes);
  changes.tell = (change, by) => {
    // Within a request it is told a second time, when the request is done.
    if (by !== undefined) told.push(change);
    tell(change, by);
  };
  const logged: unknown[] = [];
  const sessions = new Sessions(db, () => NOW);
  const access = { sessions, localKey: null, demoAccount: null };
  const services = {
    db,
    bench,
    simulations,
    changes,
    access,
    now: () => clock.now,
    ...(storage ? { storage } : {}),
  };
  const app = createApp({ services, log: (error) => logged.push(error) });
  const close = async () => {
    bench.close();
    await simulations.close();
    await db.close();
  };
  /** Requests in the name of whoever holds a session. */
  const as = async (holder: Holder) => signedIn(app, `vigilum=${(await sessions.begin(holder)).token}`);
  const [teacher] = await plain.query<{ id: number }>('select id from accounts order by id limit 1');
  const { token } = await sessions.begin({ account: teacher!.id });
  /** Of the demo's teacher, in whose name `api` asks. */
  const cookie = `vigilum=${token}`;
  const api = signedIn(app, cookie);
  counted.statements = 0;
  return { app, services, db, bench, told, logged, counted, as, cookie, api, close };
}

export type DemoApp = Awaited<ReturnType<typeof demoApp>>;
