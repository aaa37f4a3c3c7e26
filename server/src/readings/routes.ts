import { json, type Router } from 'express';
import type { NewSet } from '@vigilum/contract/types';
import { MOST_IMPORTED } from '@vigilum/contract/limits';
import type { StoredSet } from '@vigilum/core/classroom';
import { readingsFault, type Reading, type Sample, type SensorKind } from '@vigilum/core/sensing';
import { robotAndTeams, robotId } from '../classes/lookup.ts';
import { workOfRobot } from '../classes/works.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { robotRow } from '../robots/store.ts';
import {
  addQuickLooks,
  flat,
  readRecordings,
  readSets,
  recordingColumns,
  recordingOf,
  sampleOf,
  setColumns,
  setOf,
  wholeSetColumns,
  type RecordingRow,
  type SetRow,
} from './store.ts';

const nothingRead = (what: string) =>
  new Problem(
    422,
    'No reading',
    `Nothing was saved: ${what} holds no reading. Check the plug, then read again.`,
  );

/** Lets whatever waits have its turn. */
const breath = (): Promise<void> => new Promise((next) => setImmediate(next));

/** Readings as PostgreSQL writes an array. */
const arrayText = (readings: readonly Reading[]): string =>
  `{${readings.map((value) => value ?? 'NULL').join(',')}}`;

/** Refuses readings that this robot cannot have given. */
async function mustBeSound(
  db: Queries,
  robot: number,
  all: readonly { socket: string; kind?: SensorKind; values: readonly Sample[] }[],
): Promise<void> {
  const { kit, build } = await robotRow(db, robot);
  for (const { socket, kind = null, values } of all) {
    const fault = readingsFault(kit, build, { socket, kind, values });
    if (fault)
      throw new Problem(422, 'Check the readings', `Nothing was saved: ${fault}.`, [
        { field: 'values', says: fault },
      ]);
  }
}

/** Sets of readings, sweeps and quick looks of a robot: taken, imported, removed, restored. */
export function readingRoutes(services: Services): Router {
  const { db, changes, now } = services;

  interface Prepared {
    set: Omit<NewSet, 'whose'>;
    flattened: ReturnType<typeof flat>;
    long: ReturnType<typeof sampleOf>;
  }
  /** What is worked out of a set before it is stored: outside any transaction, for a long one takes a moment. */
  const prepare = (set: Omit<NewSet, 'whose'>): Prepared => {
    const flattened = flat(set.values, set.kind);
    if (flattened.readings.every((value) => value === null)) throw nothingRead('the set');
    return { set, flattened, long: sampleOf(flattened.readings, flattened.channels, set.kind) };
  };

  const insertSet = async (
    tx: Queries,
    { robot, work }: { robot: number; work: number | null },
    { set, flattened: { channels, readings }, long }: Prepared,
    at: Date,
  ): Promise<StoredSet> => {
    const row = await one<SetRow>(
      tx,
      // As text: the database reads a long array three times as fast from it.
      `insert into sample_sets (robot_id, work_id, socket, kind, surface, readings, channels, truth, light_note, taken_at, figures, sample)
       values ($1, $12, $2, $3, $4, $5::text::double precision[], $6, $7, $8, $9, $10::jsonb, $11::double precision[])
       returning ${setColumns}`,
      [
        robot,
        set.socket,
        set.kind,
        set.surface,
        arrayText(readings),
        channels,
        set.truth ?? null,
        set.lightNote ?? '',
        at.toISOString(),
        long ? JSON.stringify(long.figures) : null,
        long?.sample ?? null,
        work,
      ],
    );
    return setOf(row);
  };

  return contractRouter(services, (serve) => {
    serve('GET /robots/:id/readings', async ({ params, who }) => {
      const id = await robotId(db, params.id);
      const team = who.role === 'team' ? who.team : null;
      return {
        sets: await readSets(db, id, team),
        recordings: await readRecordings(db, id, team),
        now: now().getTime(),
      };
    });

    serve('GET /sample-sets/:id', async ({ params }) => {
      const [row] = await db.query<SetRow>(
        `select ${wholeSetColumns} from sample_sets where id = $1 and removed_at is null`,
        [idFrom(params.id)],
      );
      if (!row) throw notFound('such set of readings');
      return setOf(row);
    });

    serve('GET /recordings/:id', async ({ params }) => {
      const [row] = await db.query<RecordingRow>(
        `select ${recordingColumns} from recordings where id = $1 and removed_at is null`,
        [idFrom(params.id)],
      );
      if (!row) throw notFound('such recording');
      return recordingOf(row);
    });

    serve('POST /robots/:id/sample-sets', async ({ params, body }) => {
      const { robot, teams } = await robotAndTeams(db, params.id);
      const at = now();
      const { whose, ...read } = body;
      await mustBeSound(db, robot, [read]);
      const byRuler = read.truth !== undefined && read.truth !== null;
      const work = await workOfRobot(db, robot, at, { whose, byRuler });
      const set = await insertSet(db, { robot, work }, prepare(read), at);
      changes.tell({ what: 'robot', robot, teams, part: 'readings' });
      return { id: set.id, set };
    });

    serve(
      'POST /robots/:id/imports',
      async ({ params, body: { sets, whose } }) => {
        const { robot, teams } = await robotAndTeams(db, params.id);
        const total = sets.reduce((sum, set) => sum + set.values.length, 0);
        if (total > MOST_IMPORTED)
          throw new Problem(
            422,
            'Too many readings',
            `Nothing was saved: ${total} readings are more than ${MOST_IMPORTED}. Split the file.`,
          );
        await breath();
        await mustBeSound(db, robot, sets);
        const at = now();
        const prepared: Prepared[] = [];
        for (const set of sets) {
          // Others come in between.
          await breath();
          prepared.push(prepare(set));
        }
        await breath();
        const work = await workOfRobot(db, robot, at, { whose });
        // All or nothing: a fault in one set leaves none.
        const ids = await db.transaction(async (tx) => {
          const made: number[] = [];
          for (const set of prepared) made.push((await insertSet(tx, { robot, work }, set, at)).id);
          return made;
        });
        changes.tell({ what: 'robot', robot, teams, part: 'readings' });
        return { ids };
      },
      { reads: json({ limit: '12mb' }) },
    );

    serve('POST /robots/:id/recordings', async ({ params, body }) => {
      const { robot, teams } = await robotAndTeams(db, params.id);
      if (body.values.length < 10)
        throw new Problem(422, 'Too short', 'Nothing was saved: a recording needs at least ten looks.');
      if (body.values.every((value) => value === null)) throw nothingRead('the recording');
      await mustBeSound(db, robot, [body]);
      const at = now();
      const work = await workOfRobot(db, robot, at, { whose: body.whose });
      const row = await one<RecordingRow>(
        db,
        `insert into recordings (robot_id, work_id, socket, kind, purpose, period_ms, readings, taken_at)
         values ($1, $8, $2, $3, $4, $5, $6::double precision[], $7) returning ${recordingColumns}`,
        [
          robot,
          body.socket,
          body.kind,
          body.purpose,
          body.periodMs,
          flat(body.values, body.kind).readings,
          at.toISOString(),
          work,
        ],
      );
      changes.tell({ what: 'robot', robot, teams, part: 'readings' });
      return { id: row.id, recording: recordingOf(row) };
    });

    serve('POST /robots/:id/quick-looks', async ({ params, body }) => {
      const { robot, teams } = await robotAndTeams(db, params.id);
      await mustBeSound(db, robot, [body]);
      const at = now();
      const work = await workOfRobot(db, robot, at, { whose: body.whose });
      const made = await addQuickLooks(db, robot, work, body, at);
      changes.tell({ what: 'robot', robot, teams, part: 'readings' });
      return made;
    });

    for (const [path, table] of [
      ['sample-sets', 'sample_sets'],
      ['recordings', 'recordings'],
    ] as const) {
      const mark = async (id: number, removedAt: string | null) => {
        const [row] = await db.query<{ robot_id: number; teams: number[] }>(
          `update ${table} set removed_at = $2 where id = $1
           returning robot_id, array(select t.id from teams t where t.robot_id = ${table}.robot_id) as teams`,
          [id, removedAt],
        );
        if (!row) throw notFound('such set of readings');
        changes.tell({ what: 'robot', robot: row.robot_id, teams: row.teams, part: 'readings' });
        return undefined;
      };
      serve(`DELETE /${path}/:id`, ({ params }) => mark(idFrom(params.id), now().toISOString()));
      serve(`POST /${path}/:id/restoration`, ({ params }) => mark(idFrom(params.id), null));
    }
  });
}
