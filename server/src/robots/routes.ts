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
import { isStaff } from '@vigilum/contract/roles';
import { hasRobotSince } from '../access/ownRobot.ts';
import { robotAndTeams, robotId } from '../classes/lookup.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import { changedMeanwhile } from '../kept/store.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { addRobots, firstBuild, kitBySlug, nextNames } from './cupboard.ts';
import { mustHaveRoom } from '../schools/schools.ts';
import { robotRow, roomShown, type RobotRow } from './store.ts';

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

/** Refuses a name that another robot has. Upper and lower case do not matter. */
async function mustBeFree(db: Queries, name: string, but = 0): Promise<void> {
  const [taken] = await db.query(
    'select 1 from robots where lower(name) = lower($1) and id <> $2 and removed_at is null',
    [name, but],
  );
  if (taken) throw nameTaken(name);
}

/** The teams that have a robot, as one text; null for none. */
const teamsOfRobot = `(select string_agg(t.name, ', ' order by t.id) from teams t join classes c on c.id = t.class_id
                        where t.robot_id = r.id and t.removed_at is null and c.removed_at is null and c.archived_at is null)`;

/** Robots: listed, added, rebuilt; what is plugged in where; the wire check. */
export function robotRoutes(services: Services): Router {
  const { db, changes, now } = services;
  const told = ({ id, ids, names }: { id: number; ids: readonly number[]; names: string[] }) => {
    for (const robot of ids) changes.tell({ what: 'robot', robot, teams: [], part: 'build' });
    return { id, names };
  };
  return contractRouter(services, (serve) => {
    serve('GET /robots', async ({ who }) => {
      const rows = await db.query<RobotRow & { team: string | null; archived: boolean }>(
        `select r.id, r.name, k.definition as kit, r.build, r.stand_in, r.cupboard,
                r.archived_at is not null as archived, ${teamsOfRobot} as team
           from robots r join kits k on k.id = r.kit_id
          where r.removed_at is null order by r.id`,
      );
      return {
        robots: rows.map(({ stand_in, team, ...robot }) => ({
          ...robot,
          // Guests see some classes only.
          team: who.role === 'guest' ? null : team,
          standIn: stand_in !== null,
        })),
      };
    });

    serve('GET /robots/:id', async ({ params, who }) => {
      const id = await robotId(db, params.id);
      const { name, kit, build, stand_in, cupboard, revision } = await robotRow(db, id);
      const own = await one<{ team: string | null; archived: boolean; removed: boolean }>(
        db,
        `select ${teamsOfRobot} as team, r.archived_at is not null as archived, r.removed_at is not null as removed
           from robots r where r.id = $1`,
        [id],
      );
      if (own.removed) throw notFound('such robot');
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
      // What was seen of its plugs is of the hour in which it was looked at.
      const theirs = who.role !== 'team' || (await hasRobotSince(db, who.team, id, now())) !== null;
      return {
        id,
        name,
        kit,
        build,
        // Who else drives it is not a team's business.
        team: isStaff(who.role) ? own.team : null,
        cupboard,
        revision,
        archived: own.archived,
        standIn: stand_in !== null,
        room: await roomShown(db, stand_in !== null),
        now: now().getTime(),
        checks: (theirs ? checks : []).map(({ socket, kind, reacts, says, drift_per_s, checked_at }) => ({
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
      const kit = await kitBySlug(db, body.kit);
      const { name, standIn, cupboard = '', count } = body;
      const made = await db.transaction(async (tx) => {
        if (count === undefined) await mustBeFree(tx, name);
        const names = count === undefined ? [name] : await nextNames(tx, name, count);
        const build = firstBuild(kit.definition);
        const ids = await addRobots(tx, { kitId: kit.id, build, standIn, cupboard, names });
        return { id: ids[0]!, names, ids };
      });
      return told(made);
    });

    serve('POST /robots/:id/copies', async ({ params, body }) => {
      const { robot } = await robotAndTeams(db, params.id);
      const made = await db.transaction(async (tx) => {
        const from = await one<{
          kit_id: number;
          name: string;
          build: RobotBuild;
          real: boolean;
          cupboard: string;
        }>(tx, 'select kit_id, name, build, stand_in is null as real, cupboard from robots where id = $1', [
          robot,
        ]);
        const names = await nextNames(tx, from.name.replace(/ \d+$/, ''), body.count);
        // What is odd about the one is not odd about its copies.
        const { quirks: _own, ...build } = from.build;
        const ids = await addRobots(tx, {
          kitId: from.kit_id,
          build,
          standIn: !from.real,
          cupboard: from.cupboard,
          names,
        });
        return { id: ids[0]!, names, ids };
      });
      return told(made);
    });

    serve('DELETE /robots/:id', async ({ params }) => {
      const { robot } = await robotAndTeams(db, params.id);
      const { team, name } = await one<{ team: string | null; name: string }>(
        db,
        `select r.name, ${teamsOfRobot} as team from robots r where r.id = $1`,
        [robot],
      );
      if (team !== null)
        throw new Problem(
          409,
          'Robot in use',
          `Nothing was removed: ${name} is driven by ${team}. Give them another robot first, or put this one away.`,
        );
      await db.query('update robots set removed_at = $2 where id = $1', [robot, now().toISOString()]);
      changes.tell({ what: 'robot', robot, teams: [], part: 'build' });
      return undefined;
    });
    serve('POST /robots/:id/restoration', async ({ params }) => {
      const { robot, teams } = await robotAndTeams(db, params.id);
      const { name } = await robotRow(db, robot);
      await mustBeFree(db, name, robot);
      await mustHaveRoom(db, 'robots');
      await db.query('update robots set removed_at = null where id = $1', [robot]);
      changes.tell({ what: 'robot', robot, teams, part: 'build' });
      return undefined;
    });

    serve('PATCH /robots/:id', async ({ params, body }) => {
      const { robot: id, teams } = await robotAndTeams(db, params.id);
      const { kit } = await robotRow(db, id);
      if (body.build) {
        const faults = buildFaults(kit, body.build);
        if (faults.length > 0)
          throw new Problem(422, 'Check the robot', `Nothing was saved: ${faults[0]!.says}.`, faults);
      }
      const { name, build, cupboard, archived, revision } = body;
      if (name !== undefined) await mustBeFree(db, name, id);
      const [changed] = await db.query(
        `update robots set revision = revision + case when $2::text is null and $3::jsonb is null then 0 else 1 end, name = coalesce($2, name), build = coalesce($3::jsonb, build), cupboard = coalesce($4, cupboard),
                archived_at = case when $5::boolean is null then archived_at
                                   when $5::boolean then coalesce(archived_at, $6::timestamptz) end
          where id = $1 and ($7::int is null or revision = $7) returning id`,
        [
          id,
          name ?? null,
          build ? JSON.stringify(build) : null,
          cupboard ?? null,
          archived ?? null,
          now().toISOString(),
          revision ?? null,
        ],
      );
      if (!changed) {
        const theirs = await robotRow(db, id);
        throw changedMeanwhile('this robot', {
          revision: theirs.revision,
          value: { name: theirs.name, build: theirs.build },
        });
      }
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
        await tx.query('update robots set build = $2::jsonb, revision = revision + 1 where id = $1', [
          id,
          JSON.stringify(changed),
        ]);
      });
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
        await tx.query('update robots set build = $2::jsonb, revision = revision + 1 where id = $1', [
          id,
          JSON.stringify(changed),
        ]);
        return changed;
      });
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
