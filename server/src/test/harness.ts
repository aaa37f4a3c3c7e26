import { appendFileSync } from 'node:fs';
import type { Express, RequestHandler } from 'express';
import request from 'supertest';
import type { Queries } from '../db/database.ts';
import { Bench } from '../devices/bench.ts';
import { Sessions, type Holder } from '../access/sessions.ts';
import { createApp } from '../app.ts';
import type { ChangeOf } from '@vigilum/contract/types';
import { ChangeFeed } from '../http/events.ts';
import type { Storage } from '../http/services.ts';
import { joining } from '../http/scope.ts';
import { shareChanges } from '../http/sharedChanges.ts';
import { startSimulations } from '../jobs/simulations.ts';
import { demoDatabase, NOW } from './databases.ts';

export { demoDatabase, emptyDatabase, NOW, onPostgres } from './databases.ts';

/** Requests to an application with a cookie. */
export const signedIn = (app: Express, cookie: string) => request.agent(app).set('Cookie', cookie);

/** Where ROUTES_CALLED names a file: every route that was answered with success goes into it, so that those that no test calls are seen. */
const called = process.env.ROUTES_CALLED;
const note: RequestHandler | null = called
  ? (req, res, next) => {
      res.on('finish', () => {
        const { path } = (req.route ?? {}) as { path?: string };
        if (res.statusCode < 300) appendFileSync(called, `${req.method} ${path}\n`);
      });
      next();
    }
  : null;

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
  const spread = changes.spread.bind(changes);
  changes.spread = (all, by, how) => {
    told.push(...all);
    return spread(all, by, how);
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
  const app = createApp({
    services,
    log: (error) => logged.push(error),
    ...(note ? { requests: note } : {}),
  });
  // Servers that share a database tell each other by it: so does this one.
  const stop = plain.wire
    ? await shareChanges({ ...db, wire: plain.wire }, changes, (e) => logged.push(e))
    : null;
  const close = async () => {
    await stop?.();
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
