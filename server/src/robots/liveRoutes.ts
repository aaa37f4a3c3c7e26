import { Router } from 'express';
import Joi from 'joi';
import { socketName } from '@vigilum/contract/basics';
import { asNumber, type Kit } from '@vigilum/core/sensing';
import { mustBeAllowed } from '../access/guard.ts';
import { whoOf } from '../access/who.ts';
import { robotId } from '../classes/lookup.ts';
import { openStream } from '../http/events.ts';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { robotRow, standInConfig } from './store.ts';

/** Looks are gathered for this long before they are sent on, ms: one event for many sockets. */
const GATHER_MS = 40;

/** Sockets that can be listened to: all that take a sensor, and the wheel motors. */
const listenable = (kit: Kit): string[] =>
  kit.sockets
    .filter(({ takes, drives }) => takes === 'sensor' || drives?.includes('wheel'))
    .map(({ name }) => name);

/** The live bench: readings as they come, hands on the stand-in, lines from real devices. */
export function liveRoutes(services: Services): Router {
  const { db, bench } = services;
  const router = Router();

  router.get('/robots/:id/live', async (req, res) => {
    const who = whoOf(res);
    await mustBeAllowed(db, who, 'GET /robots/:id/live', req.params);
    const id = await robotId(db, req.params.id);
    const { socket } = validate(Joi.object<{ socket?: string }>({ socket: socketName }), req.query);
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
    res.on('close', () => {
      clearInterval(flush);
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
