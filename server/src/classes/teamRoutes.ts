import type { Router } from 'express';
import type { TeamEntry } from '@vigilum/contract/types';
import type { Queries } from '../db/database.ts';
import { seesOf } from '../access/guests.ts';
import { mustBeTeacherOf } from '../access/power.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { robotIn } from '../robots/cupboard.ts';
import { addTeams, classRow, teamTaken } from './membership.ts';

interface TeamRow {
  id: number;
  name: string;
  class_id: number;
  class: string;
  robot_id: number;
  removed: boolean;
}
/** A team that is or was, or a 404. */
async function teamRow(tx: Queries, text: string): Promise<TeamRow> {
  const [row] = await tx.query<TeamRow>(
    `select t.id, t.name, t.class_id, t.robot_id, t.removed_at is not null as removed, c.name as class
       from teams t join classes c on c.id = t.class_id where t.id = $1`,
    [idFrom(text)],
  );
  if (!row) throw notFound('such team');
  return row;
}
/** Refuses a name that another team of the class has. */
async function teamMustBeFree(tx: Queries, team: TeamRow, name: string): Promise<void> {
  const [taken] = await tx.query(
    'select 1 from teams where class_id = $1 and lower(name) = lower($2) and id <> $3 and removed_at is null',
    [team.class_id, name, team.id],
  );
  if (taken) throw teamTaken(name, team.class);
}

/** Teams: renamed, moved to another class, given another robot, removed and brought back. */
export function teamRoutes(services: Services): Router {
  const { db, changes, now } = services;
  const told = (klass: number) => changes.tell({ what: 'class', class: klass, part: 'teams' });
  return contractRouter(services, (serve) => {
    serve('GET /teams', async ({ who }) => {
      const rows = await db.query<TeamEntry & { of: number }>(
        `select t.id, t.name, c.id as of, c.name as class, t.robot_id as robot
         from teams t join classes c on c.id = t.class_id
        where t.removed_at is null and c.removed_at is null and c.archived_at is null
        order by c.school, c.name, t.id`,
      );
      const sees = await seesOf(db, who);
      return { teams: rows.filter((team) => sees(team.of)).map(({ of: _of, ...team }) => team) };
    });

    serve('PATCH /teams/:id', async ({ params, body }) => {
      const team = await teamRow(db, params.id);
      await teamMustBeFree(db, team, body.name);
      await db.query('update teams set name = $2 where id = $1', [team.id, body.name]);
      told(team.class_id);
      return undefined;
    });
    serve('DELETE /teams/:id', async ({ params, who }) => {
      const team = await teamRow(db, params.id);
      await mustBeTeacherOf(db, who, team.class_id);
      await db.query('update teams set removed_at = $2 where id = $1', [team.id, now().toISOString()]);
      told(team.class_id);
      return undefined;
    });
    serve('POST /teams/:id/restoration', async ({ params }) => {
      const team = await db.transaction(async (tx) => {
        const row = await teamRow(tx, params.id);
        await teamMustBeFree(tx, row, row.name);
        // While it was away its robot may have been given to another team of the class.
        const robot = row.removed ? await robotIn(tx, row.robot_id, row.class_id) : row.robot_id;
        await tx.query('update teams set removed_at = null, robot_id = $2 where id = $1', [row.id, robot]);
        return row;
      });
      told(team.class_id);
      return undefined;
    });
    serve('POST /teams/:id/moves', async ({ params, body, who }) => {
      const at = now();
      // For its class, moving a team away is the same as removing it.
      await mustBeTeacherOf(db, who, (await teamRow(db, params.id)).class_id);
      const { team, ids } = await db.transaction(async (tx) => {
        const row = await teamRow(tx, params.id);
        const { removed, ...to } = await classRow(tx, String(body.class));
        if (removed) throw notFound('such class');
        if (to.id === row.class_id)
          throw new Problem(
            409,
            'Is there already',
            `Nothing was changed: ${row.name} is in ${row.class} already.`,
          );
        const robot = await robotIn(tx, row.robot_id, to.id);
        const added = await addTeams(tx, to, [row.name], [robot], at);
        await tx.query('update teams set removed_at = $2 where id = $1', [row.id, at.toISOString()]);
        return { team: row, ids: added };
      });
      told(team.class_id);
      told(body.class);
      return { id: ids[0]! };
    });

    // A team takes another robot. Where a team of the same class has it, the two exchange theirs.
    serve('PUT /teams/:id/robot', async ({ params, body }) => {
      const { robot } = body;
      const changed = await db.transaction(async (tx) => {
        const mine = await teamRow(tx, params.id);
        const [wanted] = await tx.query('select 1 from robots where id = $1 and removed_at is null', [robot]);
        if (!wanted) throw notFound('such robot');
        const others = await tx.query<{ id: number }>(
          `update teams set robot_id = $1
            where class_id = $2 and robot_id = $3 and id <> $4 and removed_at is null returning id`,
          [mine.robot_id, mine.class_id, robot, mine.id],
        );
        await tx.query('update teams set robot_id = $1 where id = $2', [robot, mine.id]);
        return { ...mine, exchanged: others.length > 0 };
      });
      told(changed.class_id);
      return { before: changed.robot_id, exchanged: changed.exchanged };
    });
  });
}
