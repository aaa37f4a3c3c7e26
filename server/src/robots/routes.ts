import { Router } from 'express';
import Joi from 'joi';
import type { Hand } from '@vigilum/core/formats';
import type { Lesson } from '@vigilum/core/lesson';
import type { Fitting, Kit, RobotBuild } from '@vigilum/core/sensing';
import { robotId } from '../classes/lookup.ts';
import { one, type Queries } from '../db/database.ts';
import type { StandInCharacter, StandInConfig } from '../devices/standInRobot.ts';
import { openStream } from '../http/events.ts';
import { Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { socketName, validate } from '../http/validate.ts';

interface RobotRow {
  id: number;
  name: string;
  kit: Kit;
  build: RobotBuild;
  stand_in: StandInCharacter | null;
}

async function robot(db: Queries, id: number): Promise<RobotRow> {
  return one<RobotRow>(
    db,
    `select r.id, r.name, k.definition as kit, r.build, r.stand_in
       from robots r join kits k on k.id = r.kit_id where r.id = $1`,
    [id],
  );
}

async function standInConfig(db: Queries, id: number): Promise<StandInConfig> {
  const row = await robot(db, id);
  if (!row.stand_in) throw new Problem(409, 'No robot', `${row.name} has no stand-in and is not plugged in.`);
  const lessons = await db.query<{ definition: Lesson }>('select definition from lessons order by id');
  const surfaces = new Map(
    lessons.flatMap(({ definition }) =>
      definition.read.tasks.map((task) => [task.surface, task.reflectance] as const),
    ),
  );
  return {
    name: row.name,
    kit: row.kit,
    build: row.build,
    character: row.stand_in,
    surfaces: [...surfaces].map(([name, reflectance]) => ({ name, reflectance })),
    seed: row.id * 1013,
  };
}

interface FittingChange {
  socket?: string;
  heightMm?: number;
}
const fittingChange = Joi.object<FittingChange>({
  socket: socketName,
  heightMm: Joi.number().min(1).max(200),
}).min(1);

interface NewCheck {
  socket: string;
  reacts: boolean;
  lowest: number | null;
  highest: number | null;
}
const reading = Joi.number().min(-100_000).max(100_000).allow(null).required();
const newCheck = Joi.object<NewCheck>({
  socket: socketName.required(),
  reacts: Joi.boolean().required(),
  lowest: reading,
  highest: reading,
});

const handMove = Joi.alternatives<Hand>().try(
  Joi.object({ put: Joi.valid('over').required(), surface: Joi.string().min(1).max(60).required() }),
  Joi.object({ put: Joi.valid('air', 'paper').required() }),
);

/** Robots: what is plugged in where, the live bench, and the wire check. */
export function robotRoutes({ db, bench, changes, now }: Services): Router {
  const router = Router();

  router.get('/robots', async (_req, res) => {
    const rows = await db.query<RobotRow & { team: string | null }>(
      `select r.id, r.name, k.definition as kit, r.build, t.name as team
         from robots r join kits k on k.id = r.kit_id left join teams t on t.robot_id = r.id order by r.id`,
    );
    res.json({ robots: rows.map(({ id, name, kit, build, team }) => ({ id, name, kit, build, team })) });
  });

  router.patch('/robots/:id/fittings/:socket', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const body = validate(fittingChange, req.body);
    const from = validate(socketName.required(), req.params.socket);
    await db.transaction(async (tx) => {
      const { build } = await one<{ build: RobotBuild }>(
        tx,
        'select build from robots where id = $1 for update',
        [id],
      );
      const { kit } = await robot(tx, id);
      const fitting = build.fittings.find((f) => f.socket === from);
      if (!fitting) throw new Problem(404, 'Not found', `Nothing is plugged into ${from}.`);
      const to = body.socket ?? from;
      if (!kit.sockets.some((s) => s.name === to && s.takes === 'sensor')) {
        throw new Problem(422, 'No such socket', `${kit.name} has no sensor socket ${to}.`, [
          { field: 'socket', says: 'must be a sensor socket of the kit' },
        ]);
      }
      const taken = build.fittings.find((f) => f.socket === to && f !== fitting);
      if (taken)
        throw new Problem(409, 'Socket taken', `${to} holds a ${taken.sensorId} already. Unplug it first.`);
      const moved: Fitting = { ...fitting, socket: to, heightMm: body.heightMm ?? fitting.heightMm };
      const changed: RobotBuild = {
        ...build,
        fittings: build.fittings.map((f) => (f === fitting ? moved : f)),
      };
      await tx.query('update robots set build = $2::jsonb where id = $1', [id, JSON.stringify(changed)]);
    });
    bench.restart(id);
    changes.tell({ what: 'robot', id });
    res.json((await robot(db, id)).build);
  });

  router.post('/robots/:id/wire-checks', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const body = validate(newCheck, req.body);
    const row = await one<{ id: number }>(
      db,
      `insert into wire_checks (robot_id, socket, reacts, lowest, highest, checked_at)
       values ($1, $2, $3, $4, $5, $6) returning id`,
      [id, body.socket, body.reacts, body.lowest, body.highest, now().toISOString()],
    );
    changes.tell({ what: 'robot', id });
    res.status(201).json({ id: row.id });
  });

  router.get('/robots/:id/live', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const { socket } = validate(Joi.object<{ socket: string }>({ socket: socketName.required() }), req.query);
    const config = await standInConfig(db, id);
    const send = openStream(res);
    const stop = bench.listen(id, config, socket, (event) => {
      if (event.is === 'reading') send('reading', { atMs: event.atMs, value: event.value });
      else {
        send('gone', { says: event.says });
        res.end();
      }
    });
    res.on('close', stop);
  });

  router.post('/robots/:id/hand', async (req, res) => {
    const id = await robotId(db, req.params.id);
    const hand = validate(handMove, req.body);
    const answer = await bench.hand(id, await standInConfig(db, id), hand);
    if (answer.is === 'error')
      throw new Problem(422, 'The robot refused', `The robot answered: ${answer.says}.`);
    res.status(204).end();
  });

  return router;
}
