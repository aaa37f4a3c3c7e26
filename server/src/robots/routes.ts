import type { Router } from 'express';
import { socketName } from '@vigilum/contract/basics';
import {
  buildFaults,
  canMeasure,
  sameSocket,
  type Fitting,
  type Kit,
  type RobotBuild,
  type SensorKind,
  type SensorSpec,
} from '@vigilum/core/sensing';
import type { NewFitting } from '@vigilum/contract/types';
import { robotAndTeams, robotId } from '../classes/lookup.ts';
import { one, type Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { skiffBuild } from '../starter/skiff.ts';
import { robotRow, roomShown, type RobotRow } from './store.ts';

/** A first build for a kit that brings none: measures to be put right, one part on each socket while they last. */
function firstBuild(kit: Kit): RobotBuild {
  const known = [
    { slug: 'cobble', build: cobbleBuild },
    { slug: 'skiff', build: skiffBuild },
  ].find(({ slug, build }) => slug === kit.slug && buildFaults(kit, build).length === 0);
  if (known) return known.build;
  const sockets = kit.sockets.filter(({ takes }) => takes === 'sensor');
  return {
    ...cobbleBuild,
    fittings: kit.sensors.slice(0, sockets.length).map(({ id, modes, faces, mountMm }, i) => ({
      socket: sockets[i]!.name,
      sensorId: id,
      mode: modes[0]!.kind,
      aheadMm: 80,
      rightMm: 0,
      heightMm: mountMm ? (mountMm.from + mountMm.to) / 2 : 40,
      ...(faces ? { facing: faces } : {}),
    })),
  };
}

/** How far a second part of one sort sits beside the first, mm. */
const BESIDE_MM = 28;

/** The fittings with one more part plugged in, in place of what the socket held: where another of its sort sits, beside that. */
function withPart(
  kit: Kit,
  fittings: readonly Fitting[],
  part: SensorSpec,
  { socket, mode }: NewFitting,
): Fitting[] {
  const kept = fittings.filter((fitting) => !sameSocket(fitting.socket, socket));
  const like = kept.find(({ sensorId }) => sensorId === part.id);
  const known = kit.sockets.find(({ name }) => sameSocket(name, socket))?.name ?? socket;
  return [
    ...kept,
    {
      socket: known,
      sensorId: part.id,
      mode,
      aheadMm: like?.aheadMm ?? 80,
      rightMm: like ? like.rightMm + (like.rightMm > 0 ? -BESIDE_MM : BESIDE_MM) : 0,
      heightMm: like?.heightMm ?? (part.mountMm ? (part.mountMm.from + part.mountMm.to) / 2 : 40),
      ...(like?.facing ? { facing: like.facing } : part.faces ? { facing: part.faces } : {}),
    },
  ];
}

const nameTaken = (name: string) =>
  new Problem(409, 'Name taken', `Nothing was saved: another robot is called ${name}.`, [
    { field: 'name', says: 'is taken' },
  ]);

async function isTaken(db: Queries, name: string, but = 0): Promise<boolean> {
  return (await db.query('select 1 from robots where name = $1 and id <> $2', [name, but])).length > 0;
}

/** Robots: listed, added, rebuilt; what is plugged in where; the wire check. */
export function robotRoutes(services: Services): Router {
  const { db, bench, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('GET /robots', async () => {
      const rows = await db.query<RobotRow & { team: string | null }>(
        `select r.id, r.name, k.definition as kit, r.build, r.stand_in,
              (select string_agg(t.name, ', ' order by t.id) from teams t where t.robot_id = r.id) as team
         from robots r join kits k on k.id = r.kit_id
        where r.removed_at is null order by r.id`,
      );
      return {
        robots: rows.map(({ id, name, kit, build, team, stand_in }) => ({
          id,
          name,
          kit,
          build,
          team,
          standIn: stand_in !== null,
        })),
      };
    });

    serve('GET /robots/:id', async ({ params }) => {
      const id = await robotId(db, params.id);
      const { name, kit, build, stand_in } = await robotRow(db, id);
      const [team] = await db.query<{ name: string | null }>(
        `select string_agg(name, ', ' order by id) as name from teams where robot_id = $1`,
        [id],
      );
      const checks = await db.query<{
        socket: string;
        kind: SensorKind;
        reacts: boolean;
        says: string;
        drift_per_s: number | null;
        checked_at: Date;
      }>(
        `select distinct on (socket, kind) socket, kind, reacts, says, drift_per_s, checked_at from wire_checks
        where robot_id = $1 order by socket, kind, checked_at desc, id desc`,
        [id],
      );
      return {
        id,
        name,
        kit,
        build,
        team: team?.name ?? null,
        standIn: stand_in !== null,
        room: await roomShown(db, stand_in !== null),
        now: now().getTime(),
        checks: checks.map(({ socket, kind, reacts, says, drift_per_s, checked_at }) => ({
          socket,
          kind,
          reacts,
          says,
          driftPerS: drift_per_s,
          at: checked_at.getTime(),
        })),
      };
    });

    serve('POST /robots', async ({ body }) => {
      const [kit] = await db.query<{ id: number; definition: Kit }>(
        'select id, definition from kits where slug = $1 and removed_at is null',
        [body.kit],
      );
      if (!kit)
        throw new Problem(422, 'No such kit', `Nothing was saved: there is no kit “${body.kit}”.`, [
          { field: 'kit', says: 'must be one of the kits here' },
        ]);
      const name = body.name;
      if (await isTaken(db, name)) throw nameTaken(name);
      const row = await one<{ id: number }>(
        db,
        'insert into robots (kit_id, name, build, stand_in) values ($1, $2, $3::jsonb, $4::jsonb) returning id',
        [
          kit.id,
          name,
          JSON.stringify(firstBuild(kit.definition)),
          body.standIn ? JSON.stringify(plainCharacter) : null,
        ],
      );
      changes.tell({ what: 'robot', robot: row.id, teams: [], part: 'build' });
      return { id: row.id };
    });

    serve('PATCH /robots/:id', async ({ params, body }) => {
      const { robot: id, teams } = await robotAndTeams(db, params.id);
      const { kit } = await robotRow(db, id);
      if (body.build) {
        const faults = buildFaults(kit, body.build);
        if (faults.length > 0)
          throw new Problem(422, 'Check the robot', `Nothing was saved: ${faults[0]!.says}.`, faults);
      }
      const name = body.name;
      if (name !== undefined && (await isTaken(db, name, id))) throw nameTaken(name);
      await db.query(
        'update robots set name = coalesce($2, name), build = coalesce($3::jsonb, build) where id = $1',
        [id, name ?? null, body.build ? JSON.stringify(body.build) : null],
      );
      if (body.build) bench.restart(id);
      changes.tell({ what: 'robot', robot: id, teams, part: 'build' });
      return undefined;
    });

    serve('PATCH /robots/:id/fittings/:socket', async ({ params, body }) => {
      const { robot: id, teams } = await robotAndTeams(db, params.id);
      const from = validate(socketName.required(), params.socket);
      await db.transaction(async (tx) => {
        const { build } = await one<{ build: RobotBuild }>(
          tx,
          'select build from robots where id = $1 for update',
          [id],
        );
        const { kit } = await robotRow(tx, id);
        const fitting = build.fittings.find((f) => f.socket === from);
        if (!fitting) throw new Problem(404, 'Not found', `Nothing is plugged into ${from}.`);
        const to = body.socket ?? from;
        if (!kit.sockets.some((s) => s.name === to && s.takes === 'sensor')) {
          throw new Problem(422, 'No such socket', `${kit.name} has no sensor socket ${to}.`, [
            { field: 'socket', says: 'must be a sensor socket of the kit' },
          ]);
        }
        if (body.mode && !canMeasure(kit, fitting.sensorId, body.mode))
          throw new Problem(422, 'No such mode', `What is on ${from} cannot measure ${body.mode}.`, [
            { field: 'mode', says: 'must be a mode of the part' },
          ]);
        const taken = build.fittings.find((f) => f.socket === to && f !== fitting);
        const moved: Fitting = { ...fitting, ...body, socket: to };
        const changed: RobotBuild = {
          ...build,
          // What holds the place goes where this one comes from: a swap.
          fittings: build.fittings.map((f) =>
            f === fitting ? moved : f === taken ? { ...f, socket: from } : f,
          ),
        };
        await tx.query('update robots set build = $2::jsonb where id = $1', [id, JSON.stringify(changed)]);
      });
      bench.restart(id);
      changes.tell({ what: 'robot', robot: id, teams, part: 'build' });
      return (await robotRow(db, id)).build;
    });

    serve('POST /robots/:id/fittings', async ({ params, body }) => {
      const { robot: id, teams } = await robotAndTeams(db, params.id);
      const build = await db.transaction(async (tx) => {
        const { build: before, kit } = await robotRow(tx, id);
        const part = kit.sensors.find((sensor) => sensor.id === body.sensorId);
        if (!part || !canMeasure(kit, part.id, body.mode))
          throw new Problem(
            422,
            'No such part',
            `${kit.name} has no part “${body.sensorId}” that measures that.`,
            [{ field: 'sensorId', says: 'must be a part of the kit that has the mode' }],
          );
        const changed = { ...before, fittings: withPart(kit, before.fittings, part, body) };
        const [fault] = buildFaults(kit, changed);
        if (fault) throw new Problem(422, 'Check the socket', `Nothing was saved: ${fault.says}.`, [fault]);
        await tx.query('update robots set build = $2::jsonb where id = $1', [id, JSON.stringify(changed)]);
        return changed;
      });
      bench.restart(id);
      changes.tell({ what: 'robot', robot: id, teams, part: 'build' });
      return build;
    });

    serve('POST /robots/:id/wire-checks', async ({ params, body }) => {
      const { robot: id, teams } = await robotAndTeams(db, params.id);
      const at = now();
      const row = await one<{ id: number }>(
        db,
        `insert into wire_checks (robot_id, socket, kind, reacts, lowest, highest, drift_per_s, says, checked_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9) returning id`,
        [
          id,
          body.socket,
          body.kind,
          body.reacts,
          body.lowest,
          body.highest,
          body.driftPerS ?? null,
          body.says ?? '',
          at.toISOString(),
        ],
      );
      changes.tell({ what: 'robot', robot: id, teams, part: 'check' });
      return { id: row.id, at: at.getTime() };
    });
  });
}
