import { Router } from 'express';
import Joi from 'joi';
import { socketName } from '@vigilum/contract/basics';
import { asNumber, type Kit } from '@vigilum/core/sensing';
import { mustBeAllowed } from '../access/guard.ts';
import { whoOf } from '../access/who.ts';
import { hasRobotSince } from '../access/ownRobot.ts';
import { robotId } from '../classes/lookup.ts';
import { openStream } from '../http/events.ts';
import { handedOnBy, handOn, NotTaken } from '../http/handOn.ts';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { robotRow, standInConfig } from './store.ts';

/** Looks are gathered for this long before they are sent on, ms: one event for many sockets. */
const GATHER_MS = 40;
/** Whether a team's hour still goes on is looked at this often, ms, and whenever an hour of a class changes. */
const LOOK_MS = 15_000;

const liveQuery = Joi.object<{ socket?: string }>({ socket: socketName });
/** What a handed on request asks behind its path. */
const socketAsked = (query: unknown): string => {
  const { socket } = validate(liveQuery, query);
  return socket === undefined ? '' : `?socket=${encodeURIComponent(socket)}`;
};

/** Sockets that can be listened to: all that take a sensor, and the wheel motors. */
const listenable = (kit: Kit): string[] =>
  kit.sockets
    .filter(({ takes, drives }) => takes === 'sensor' || drives?.includes('wheel'))
    .map(({ name }) => name);

/** The live bench: readings as they come, hands on the stand-in, lines from real devices. */
export function liveRoutes(services: Services): Router {
  const { db, bench } = services;
  const router = Router();

  // A build that was changed, on whichever server: the stand-in begins anew with it.
  services.changes.hear((change) => {
    if (change.what === 'robot' && change.part === 'build')
      void robotRow(db, change.robot)
        .then((row) => standInConfig(db, row))
        .then((config) => bench.follow(change.robot, config))
        // A robot that is gone by now has nothing to follow.
        .catch(() => undefined);
  });

  for (const route of ['GET /robots/:id/live', 'POST /robots/:id/hand', 'POST /robots/:id/lines'] as const) {
    const [method, path] = route.split(' ') as ['GET' | 'POST', string];
    router[method === 'GET' ? 'get' : 'post'](path, async (req, res, next) => {
      const { seats } = services;
      if (!seats || handedOnBy(req, seats.key) !== null) return next();
      const params = req.params as { id: string };
      await mustBeAllowed(db, whoOf(res), route, params, {
        query: req.query,
        body: req.body as unknown,
        at: services.now(),
      });
      const id = await robotId(db, params.id);
      const where = await seats.find(id);
      if (where === null) return next();
      try {
        await handOn(req, res, { ...where, path: path.replace(':id', String(id)) + socketAsked(req.query) });
      } catch (error) {
        if (!(error instanceof NotTaken)) throw error;
        // The server that had it is gone: whoever asks next has it, and here that is this one.
        await seats.isGone(id, where);
        if ((await seats.find(id)) === null) return next();
        throw new Problem(503, 'Moving', 'The robot is moving to another server. Try again.', [], {
          retry: true,
        });
      }
    });
  }

  router.get('/robots/:id/live', async (req, res) => {
    const who = whoOf(res);
    await mustBeAllowed(db, who, 'GET /robots/:id/live', req.params, {
      query: req.query,
      body: undefined,
      at: services.now(),
    });
    const id = await robotId(db, req.params.id);
    const { socket } = validate(liveQuery, req.query);
    const row = await robotRow(db, id);
    const config = await standInConfig(db, row);
    const send = openStream(res);
    services.access.sessions.hangOn(who, res);
    let gathered: { socket: string; atMs: number; value: number | null; rgb?: readonly number[] }[] = [];
    const flush = setInterval(() => {
      if (gathered.length === 0) return;
      send('readings', gathered);
      gathered = [];
    }, GATHER_MS);
    const sockets = socket ? [socket] : listenable(row.kit);
    const stop = bench.listen(id, config, sockets, (event) => {
      if (event.is === 'reading') {
        const { value } = event;
        gathered.push({
          socket: event.socket,
          atMs: event.atMs,
          value: asNumber(value),
          ...(value !== null && typeof value === 'object' ? { rgb: value } : {}),
        });
      } else {
        send('gone', { says: event.says });
        res.end();
      }
    });
    // A team hears its robot as long as its hour goes on.
    const stillTheirs = () => {
      if (who.role !== 'team') return;
      void hasRobotSince(db, who.team, id, services.now())
        .then((since) => {
          if (since !== null) return;
          send('gone', { says: 'your lesson hour is over' });
          res.end();
        })
        // Away for a moment: it is looked again.
        .catch(() => undefined);
    };
    const looks = setInterval(stillTheirs, LOOK_MS);
    const unhear = services.changes.hear(({ what }) => {
      if (what === 'class' || what === 'hour') stillTheirs();
    });
    res.on('close', () => {
      clearInterval(flush);
      clearInterval(looks);
      unhear();
      stop();
    });
  });

  router.use(
    contractRouter(services, (serve) => {
      // Neither stores anything: no transaction waits for a robot's answer.
      serve(
        'POST /robots/:id/hand',
        async ({ params, body }) => {
          const id = await robotId(db, params.id);
          const row = await robotRow(db, id);
          const config = await standInConfig(db, row);
          if (!config)
            throw new Problem(409, 'A real robot', `${row.name} has no stand-in: move the robot itself.`);
          const answer = await bench.hand(id, config, body);
          if (answer.is === 'error')
            throw new Problem(422, 'The robot refused', `The robot answered: ${answer.says}.`);
          return undefined;
        },
        { long: true },
      );

      // A bridge, or a page that reads a serial port, hands on what a real device prints.
      serve(
        'POST /robots/:id/lines',
        async ({ params, body: { lines } }) => {
          const id = await robotId(db, params.id);
          const fed = bench.feed(id, await robotRow(db, id), lines);
          if (fed.readings === 0 && fed.refused === lines.length)
            throw new Problem(
              422,
              'Not understood',
              `None of the lines is of the line protocol; the first is “${fed.firstRefused}”.`,
            );
          return fed;
        },
        { status: 202, long: true },
      );
    }),
  );

  return router;
}
