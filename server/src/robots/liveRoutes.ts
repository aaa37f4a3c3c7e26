import { Router } from 'express';
import Joi from 'joi';
import type { Hand } from '@vigilum/core/formats';
import { asNumber, type Kit } from '@vigilum/core/sensing';
import { robotId } from '../classes/lookup.ts';
import { openStream } from '../http/events.ts';
import { Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { socketName, validate } from '../http/validate.ts';
import { robotRow, standInConfig } from './store.ts';

const mm = Joi.number().min(-20_000).max(20_000).required();
const alone = (...puts: Hand['put'][]) => Joi.object({ put: Joi.valid(...puts).required() });
const handMove = Joi.alternatives<Hand>().try(
  Joi.object({ put: Joi.valid('over').required(), surface: Joi.string().min(1).max(60).required() }),
  alone('air', 'paper', 'press', 'release'),
  Joi.object({
    put: Joi.valid('at').required(),
    xMm: mm,
    yMm: mm,
    bearingDeg: Joi.number().min(-3600).max(3600).required(),
  }),
  Joi.object({
    put: Joi.valid('drag').required(),
    toXMm: mm,
    toYMm: mm,
    seconds: Joi.number().min(0.01).max(120).required(),
  }),
  Joi.object({ put: Joi.valid('turn').required(), deg: Joi.number().min(-3600).max(3600).required() }),
  Joi.object({
    put: Joi.valid('front').required(),
    mm: Joi.number().min(0).max(10_000).allow(null).required(),
  }),
  Joi.object({
    put: Joi.valid('beacon').required(),
    deg: Joi.number().min(-180).max(180).allow(null).required(),
  }),
  Joi.object({ put: Joi.valid('room').required(), light: Joi.number().min(0).max(100).required() }),
  Joi.object({ put: Joi.valid('height').required(), mm: Joi.number().min(0).max(200).required() }),
);

const deviceLines = Joi.object<{ lines: string[] }>({
  lines: Joi.array().items(Joi.string().max(400).allow('')).min(1).max(2000).required(),
});

/** Looks are gathered for this long before they are sent on, ms: one event for many sockets. */
const GATHER_MS = 40;

/** Sockets that can be listened to: all that take a sensor, and the wheel motors. */
const listenable = (kit: Kit): string[] =>
  kit.sockets
    .filter(({ takes, drives }) => takes === 'sensor' || drives?.includes('wheel'))
    .map(({ name }) => name);

/** The live bench: readings as they come, hands on the stand-in, lines from real devices. */
export function liveRoutes({ db, bench }: Services): Router {
  const router = Router();

  router.get('/robots/:id/live', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const { socket } = validate(Joi.object<{ socket?: string }>({ socket: socketName }), req.query);
    const row = await robotRow(db, id);
    const config = await standInConfig(db, row);
    const send = openStream(res);
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

  router.post('/robots/:id/hand', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const hand = validate(handMove, req.body);
    const row = await robotRow(db, id);
    const config = await standInConfig(db, row);
    if (!config)
      throw new Problem(409, 'A real robot', `${row.name} has no stand-in: move the robot itself.`);
    const answer = await bench.hand(id, config, hand);
    if (answer.is === 'error')
      throw new Problem(422, 'The robot refused', `The robot answered: ${answer.says}.`);
    res.status(204).end();
  });

  // A bridge, or a page that reads a serial port, hands on what a real device prints.
  router.post('/robots/:id/lines', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const { lines } = validate(deviceLines, req.body);
    const fed = bench.feed(id, await robotRow(db, id), lines);
    if (fed.readings === 0 && fed.refused === lines.length)
      throw new Problem(
        422,
        'Not understood',
        `None of the lines is of the line protocol; the first is “${fed.firstRefused}”.`,
      );
    res.status(202).json(fed);
  });

  return router;
}
