import type { Router } from 'express';
import { evidenceOf, skillOf } from '@vigilum/core/year';
import { grouped } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { membersOf } from '../record/members.ts';
import { ownSkillsOf } from '../plan/state.ts';
import { overrulingsOf } from './overrulings.ts';
import { worksOf } from './works.ts';

async function teamIn(db: Queries, text: string): Promise<{ id: number; class_id: number }> {
  const [team] = await db.query<{ id: number; class_id: number }>(
    'select id, class_id from teams where id = $1 and removed_at is null',
    [idFrom(text)],
  );
  if (!team) throw notFound('such team');
  return team;
}

/** A logbook has so many pieces of work at most, the newest ones. */
const LOGGED = 80;

/** What the teams of a class have shown, from the evidence of all their hours; what a teacher says against it. */
export function yearRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve(
      'GET /classes/:id/skills',
      async ({ params }) => {
        const [klass] = await db.query<{ id: number; name: string }>(
          'select id, name from classes where id = $1 and removed_at is null',
          [idFrom(params.id)],
        );
        if (!klass) throw notFound('such class');
        const teams = await db.query<{ id: number; name: string }>(
          'select id, name from teams where class_id = $1 and removed_at is null order by id',
          [klass.id],
        );
        const ids = teams.map(({ id }) => id);
        const works = await worksOf(db, ids);
        const own = await ownSkillsOf(db);
        const evidence = grouped(
          works.map((work) => ({ team: work.team.id, found: evidenceOf(work, own) })),
          ({ team }) => team,
        );
        const said = await overrulingsOf(db, ids);
        return {
          now: now().getTime(),
          class: klass,
          works: works.length,
          own,
          teams: teams.map(({ id, name }) => ({
            id,
            name,
            evidence: (evidence.get(id) ?? []).flatMap(({ found }) => found),
            overruled: said.get(id) ?? {},
          })),
        };
      },
      { long: true },
    );

    serve(
      'GET /teams/:id/logbook',
      async ({ params }) => {
        const [team] = await db.query<{ id: number; name: string; class_id: number; class: string }>(
          'select t.id, t.name, c.id as class_id, c.name as class from teams t join classes c on c.id = t.class_id where t.id = $1',
          [idFrom(params.id)],
        );
        if (!team) throw notFound('such team');
        const works = await worksOf(db, [team.id]);
        const own = await ownSkillsOf(db);
        return {
          now: now().getTime(),
          team: { id: team.id, name: team.name },
          members: (await membersOf(db, [team.id])).map(({ team: _team, ...member }) => member),
          own,
          class: { id: team.class_id, name: team.class },
          pieces: works.slice(-LOGGED).map((work) => {
            const { record: _record, walk, predictions, ...evidence } = work;
            return { evidence, walk: [...walk], predictions: [...predictions], shown: evidenceOf(work, own) };
          }),
        };
      },
      { long: true },
    );

    serve('PUT /teams/:id/skills/:skill', async ({ params, body, who }) => {
      const team = await teamIn(db, params.id);
      if (!skillOf(params.skill) && !(await ownSkillsOf(db)).some(({ id }) => id === params.skill))
        throw notFound('such skill');
      if (!('name' in who)) throw new Problem(403, 'Not yours', 'Only a teacher says what a team has shown.');
      const at = now();
      await db.query(
        `insert into skill_overrulings (team_id, skill, standing, reason, said_by, said_at) values ($1, $2, $3, $4, $5, $6)`,
        [team.id, params.skill, body.standing, body.reason, who.name, at.toISOString()],
      );
      changes.tell({ what: 'class', class: team.class_id, part: 'skills' });
      return { ...body, by: who.name, at: at.getTime() };
    });

    // Withdrawn, not deleted: what was said and why stays in the table.
    serve('DELETE /teams/:id/skills/:skill', async ({ params }) => {
      const team = await teamIn(db, params.id);
      const rows = await db.query(
        `update skill_overrulings set removed_at = $3 where team_id = $1 and skill = $2 and removed_at is null returning id`,
        [team.id, params.skill, now().toISOString()],
      );
      if (rows.length === 0) throw notFound('such statement');
      changes.tell({ what: 'class', class: team.class_id, part: 'skills' });
      return undefined;
    });
  });
}
