import { Router, json } from 'express';
import Joi from 'joi';
import { sensorKinds, type Look, type Reading, type SensorKind } from '@vigilum/core/sensing';
import { robotId } from '../classes/lookup.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, looks, socketName, validate } from '../http/validate.ts';
import { flat, readRecordings, readSets } from './store.ts';

interface NewSet {
  socket: string;
  kind: SensorKind;
  surface: string;
  values: Look[];
  truth?: number | null;
  lightNote?: string;
}

const kindWord = Joi.valid(...sensorKinds).required();
const surface = Joi.string().trim().min(1).max(60).required();
const setFields = {
  socket: socketName.required(),
  kind: kindWord,
  surface,
  truth: Joi.number().min(-100_000).max(100_000).allow(null),
  lightNote: Joi.string().max(120).allow(''),
};
const newSet = Joi.object<NewSet>({ ...setFields, values: looks(500).required() });

/** A file may bring many more readings than a person takes by hand. */
const MOST_IMPORTED = 200_000;
const newImport = Joi.object<{ sets: NewSet[] }>({
  sets: Joi.array()
    .items(Joi.object({ ...setFields, values: looks(MOST_IMPORTED).required() }))
    .min(1)
    .max(200)
    .required(),
});

interface NewRecording {
  socket: string;
  kind: SensorKind;
  purpose: 'sweep' | 'touch';
  periodMs: number;
  values: Reading[];
}
const newRecording = Joi.object<NewRecording>({
  socket: socketName.required(),
  kind: kindWord,
  purpose: Joi.valid('sweep', 'touch').required(),
  periodMs: Joi.number().min(1).max(10_000).required(),
  values: looks(20_000).required(),
});

interface NewQuickLooks {
  socket: string;
  surface: string;
  values: Reading[];
}
const newQuickLooks = Joi.object<NewQuickLooks>({
  socket: socketName.required(),
  surface,
  values: looks(50).required(),
});

/** Sets of readings, sweeps and quick looks of a robot: taken, imported, removed, restored. */
export function readingRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  const insertSet = async (tx: Queries, robot: number, set: NewSet, at: string): Promise<number> => {
    const { channels, readings } = flat(set.values, set.kind);
    if (readings.every((value) => value === null)) {
      throw new Problem(
        422,
        'No reading',
        'Nothing was saved: the set holds no reading. Check the plug, then read again.',
      );
    }
    const row = await one<{ id: number }>(
      tx,
      `insert into sample_sets (robot_id, socket, kind, surface, readings, channels, truth, light_note, taken_at)
       values ($1, $2, $3, $4, $5::double precision[], $6, $7, $8, $9) returning id`,
      [
        robot,
        set.socket,
        set.kind,
        set.surface,
        readings,
        channels,
        set.truth ?? null,
        set.lightNote ?? '',
        at,
      ],
    );
    return row.id;
  };

  router.get('/robots/:id/readings', async (req, res) => {
    const id = await robotId(db, req.params.id);
    res.json({
      sets: await readSets(db, id),
      recordings: await readRecordings(db, id),
      now: now().getTime(),
    });
  });

  router.post('/robots/:id/sample-sets', async (req, res) => {
    const robot = await robotId(db, req.params.id);
    const body = validate(newSet, req.body);
    const id = await insertSet(db, robot, body, now().toISOString());
    changes.tell({ what: 'robot', id: robot });
    res.status(201).json({ id });
  });

  router.post('/robots/:id/imports', json({ limit: '12mb' }), async (req, res) => {
    const robot = await robotId(db, req.params.id);
    const { sets } = validate(newImport, req.body);
    const total = sets.reduce((sum, set) => sum + set.values.length, 0);
    if (total > MOST_IMPORTED)
      throw new Problem(
        422,
        'Too many readings',
        `Nothing was saved: ${total} readings are more than ${MOST_IMPORTED}. Split the file.`,
      );
    const at = now().toISOString();
    // All or nothing: a fault in one set leaves none.
    const ids = await db.transaction(async (tx) => {
      const made: number[] = [];
      for (const set of sets) made.push(await insertSet(tx, robot, set, at));
      return made;
    });
    changes.tell({ what: 'robot', id: robot });
    res.status(201).json({ ids });
  });

  router.post('/robots/:id/recordings', async (req, res) => {
    const robot = await robotId(db, req.params.id);
    const body = validate(newRecording, req.body);
    if (body.values.length < 10)
      throw new Problem(422, 'Too short', 'Nothing was saved: a recording needs at least ten looks.');
    if (body.values.every((value) => value === null))
      throw new Problem(
        422,
        'No reading',
        'Nothing was saved: the recording holds no reading. Check the plug.',
      );
    const row = await one<{ id: number }>(
      db,
      `insert into recordings (robot_id, socket, kind, purpose, period_ms, readings, taken_at)
       values ($1, $2, $3, $4, $5, $6::double precision[], $7) returning id`,
      [
        robot,
        body.socket,
        body.kind,
        body.purpose,
        body.periodMs,
        flat(body.values, body.kind).readings,
        now().toISOString(),
      ],
    );
    changes.tell({ what: 'robot', id: robot });
    res.status(201).json({ id: row.id });
  });

  router.post('/robots/:id/quick-looks', async (req, res) => {
    const robot = await robotId(db, req.params.id);
    const body = validate(newQuickLooks, req.body);
    const row = await one<{ id: number }>(
      db,
      `insert into quick_looks (robot_id, socket, surface, readings, taken_at)
       values ($1, $2, $3, $4::double precision[], $5) returning id`,
      [robot, body.socket, body.surface, body.values, now().toISOString()],
    );
    changes.tell({ what: 'robot', id: robot });
    res.status(201).json({ id: row.id });
  });

  for (const [path, table] of [
    ['sample-sets', 'sample_sets'],
    ['recordings', 'recordings'],
  ] as const) {
    const mark = async (id: number, removedAt: string | null) => {
      const [row] = await db.query<{ robot_id: number }>(
        `update ${table} set removed_at = $2 where id = $1 returning robot_id`,
        [id, removedAt],
      );
      if (!row) throw notFound('such set of readings');
      changes.tell({ what: 'robot', id: row.robot_id });
    };
    router.delete(`/${path}/:id`, async (req, res) => {
      await mark(idFrom(req.params.id), now().toISOString());
      res.status(204).end();
    });
    router.post(`/${path}/:id/restoration`, async (req, res) => {
      await mark(idFrom(req.params.id), null);
      res.status(204).end();
    });
  }

  return router;
}
