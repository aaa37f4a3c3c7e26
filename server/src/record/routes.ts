import { json, type Router } from 'express';
import { stepsOf, variantOf, type Lesson } from '@vigilum/core/lesson';
import { reportOf, skills, type Span } from '@vigilum/core/year';
import { mustBeTeacherOf } from '../access/power.ts';
import { shareOf } from '../access/who.ts';
import type { HandedIn, HandedInOfClass, SeriesFile } from '@vigilum/contract/types';
import { ms } from '../classes/rows.ts';
import { workFor } from '../classes/works.ts';
import { classRow } from '../classes/membership.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { copyTerm } from '../plan/copyTerm.ts';
import { ownSkillsOf, settingsOf } from '../plan/state.ts';
import { spanOf } from '../plan/days.ts';
import { overrulingsOf } from '../year/overrulings.ts';
import { worksOf } from '../year/works.ts';
import { forget, heldOf } from './forget.ts';
import { membersOf } from './members.ts';
import { seriesFile, takeSeries } from './seriesFile.ts';

interface HomeworkRow {
  id: number;
  step_id: string;
  text: string;
  handed_at: Date;
  seen_at: Date | null;
  answer: string | null;
  answered_by: string | null;
  again: boolean;
}
const columns = 'h.id, h.step_id, h.text, h.handed_at, h.seen_at, h.answer, h.answered_by, h.again';
const handedIn = (row: HomeworkRow): HandedIn => ({
  id: row.id,
  step: row.step_id,
  text: row.text,
  handedAt: ms(row.handed_at),
  seenAt: row.seen_at && ms(row.seen_at),
  answer: row.answer,
  answeredBy: row.answered_by,
  again: row.again,
});

/** A whole series with its lessons is larger than anything typed. */
const large = json({ limit: '8mb' });

async function teamRow(db: Queries, text: string): Promise<{ id: number; name: string; class_id: number }> {
  const [team] = await db.query<{ id: number; name: string; class_id: number }>(
    'select id, name, class_id from teams where id = $1',
    [idFrom(text)],
  );
  if (!team) throw notFound('such team');
  return team;
}

/** The span of a report: a term, or all that there is. */
async function spanFor(db: Queries, term: string, now: number): Promise<Span> {
  if (term === 'all') return { name: 'all hours', from: 0, to: now };
  const [row] = await db.query<{ name: string; from: string; to: string }>(
    'select name, from_day as "from", to_day as "to" from terms where id = $1',
    [idFrom(term)],
  );
  if (!row) throw notFound('such term');
  const { from, until } = spanOf(row, (await settingsOf(db)).zone);
  return { name: row.name, from: from.getTime(), to: until.getTime() - 1 };
}

/** The record of teams and classes: members, homework, reports of a term, a team that is forgotten; a series and a term handed on. */
export function recordRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    serve('GET /teams/:id/members', async ({ params }) => ({
      members: (await membersOf(db, [(await teamRow(db, params.id)).id])).map(
        ({ team: _team, ...member }) => member,
      ),
    }));
    serve('POST /teams/:id/members', async ({ params, body }) => {
      const team = await teamRow(db, params.id);
      const [there] = await db.query(
        'select 1 from team_members where team_id = $1 and lower(nickname) = lower($2) and left_at is null',
        [team.id, body.nickname],
      );
      if (there)
        throw new Problem(
          409,
          'Is in it',
          `Nothing was saved: ${body.nickname} is in ${team.name} already.`,
          [{ field: 'nickname', says: 'is in the team already' }],
        );
      const made = await one<{ id: number }>(
        db,
        'insert into team_members (team_id, nickname, came_at) values ($1, $2, $3) returning id',
        [team.id, body.nickname, now().toISOString()],
      );
      changes.tell({ what: 'class', class: team.class_id, part: 'skills' });
      return made;
    });
    // Who leaves was in it until then: the record says so.
    serve('DELETE /teams/:id/members/:member', async ({ params }) => {
      const team = await teamRow(db, params.id);
      const rows = await db.query(
        'update team_members set left_at = $3 where id = $1 and team_id = $2 and left_at is null returning 1',
        [idFrom(params.member), team.id, now().toISOString()],
      );
      if (rows.length === 0) throw notFound('such member');
      changes.tell({ what: 'class', class: team.class_id, part: 'skills' });
      return undefined;
    });

    serve('GET /teams/:id/oblivion', async ({ params, who }) => {
      const team = await teamRow(db, params.id);
      await mustBeTeacherOf(db, who, team.class_id);
      return { team: team.name, rows: await heldOf(db, team.id) };
    });
    serve(
      'POST /teams/:id/oblivion',
      async ({ params, body, who }) => {
        const team = await teamRow(db, params.id);
        await mustBeTeacherOf(db, who, team.class_id);
        if (body.name.trim().toLowerCase() !== team.name.toLowerCase())
          throw new Problem(422, 'Another name', `Nothing was deleted: the team is called ${team.name}.`, [
            { field: 'name', says: 'is not the name of the team' },
          ]);
        const rows = await db.transaction((tx) => forget(tx, team.id, now(), 'name' in who ? who.name : ''));
        changes.tell({ what: 'class', class: team.class_id, part: 'teams' });
        return { team: team.name, rows };
      },
      { status: 200 },
    );
    serve('GET /forgotten', async () => ({
      forgotten: (
        await db.query<{ at: Date; by: string; rows: number }>(
          'select at, by, rows from forgotten order by id desc limit 200',
        )
      ).map((row) => ({ ...row, at: ms(row.at) })),
    }));

    serve(
      'GET /classes/:id/reports/:term',
      async ({ params }) => {
        const [klass] = await db.query<{ id: number; name: string; school: string }>(
          'select id, name, school from classes where id = $1 and removed_at is null',
          [idFrom(params.id)],
        );
        if (!klass) throw notFound('such class');
        const span = await spanFor(db, params.term, now().getTime());
        const teams = await db.query<{ id: number; name: string }>(
          'select id, name from teams where class_id = $1 and removed_at is null order by id',
          [klass.id],
        );
        const ids = teams.map(({ id }) => id);
        const own = await ownSkillsOf(db);
        const members = await membersOf(db, ids);
        return reportOf({
          class: klass,
          span,
          now: now().getTime(),
          works: await worksOf(db, ids),
          teams: teams.map((team) => ({
            ...team,
            members: members
              .filter(
                ({ team: of, cameAt, leftAt }) =>
                  of === team.id && cameAt <= span.to && (leftAt === null || leftAt >= span.from),
              )
              .map(({ nickname }) => nickname),
          })),
          overruled: await overrulingsOf(db, ids),
          map: [...skills, ...own],
          own,
        });
      },
      { long: true },
    );

    serve('GET /teams/:id/lessons/:slug/homework', async ({ params }) => {
      const { work } = await workFor(db, params, now());
      const rows = await db.query<HomeworkRow>(
        `select ${columns} from homework h where h.work_id = $1 order by h.id`,
        [work],
      );
      return { homework: rows.map(handedIn) };
    });
    serve('POST /teams/:id/lessons/:slug/homework', async ({ params, body }) => {
      const at = now();
      const { work, team, definition } = await workFor(db, params, at);
      const step = stepsOf(definition).find(({ id, kind }) => id === body.step && kind === 'homework');
      if (!step) throw notFound('such homework');
      if (body.text.trim() === '')
        throw new Problem(422, 'Nothing to hand in', 'Nothing was handed in: write something first.', [
          { field: 'text', says: 'must say something' },
        ]);
      // What nobody has looked at yet is replaced; what was seen stays, and this comes after it.
      const row = await db.transaction(async (tx) => {
        await tx.query('delete from homework where work_id = $1 and step_id = $2 and seen_at is null', [
          work,
          step.id,
        ]);
        return one<HomeworkRow>(
          tx,
          `insert into homework as h (work_id, step_id, text, handed_at) values ($1, $2, $3, $4) returning ${columns}`,
          [work, step.id, body.text, at.toISOString()],
        );
      });
      const klass = await one<{ class_id: number }>(db, 'select class_id from teams where id = $1', [team]);
      changes.tell({ what: 'class', class: klass.class_id, part: 'homework' });
      return handedIn(row);
    });
    serve('GET /classes/:id/homework', async ({ params }) => {
      const { id } = await classRow(db, params.id);
      const rows = await db.query<HomeworkRow & { team_id: number; team: string; definition: Lesson }>(
        `select ${columns}, t.id as team_id, t.name as team, l.definition
           from homework h join works w on w.id = h.work_id join teams t on t.id = w.team_id join lessons l on l.id = w.lesson_id
          where t.class_id = $1 and t.removed_at is null order by h.seen_at is null desc, h.id desc limit 300`,
        [id],
      );
      return {
        homework: rows.map((row): HandedInOfClass => {
          const lesson = variantOf(row.definition);
          return {
            ...handedIn(row),
            team: { id: row.team_id, name: row.team },
            lesson: { slug: lesson.slug, title: lesson.title },
            task: stepsOf(lesson).find(({ id }) => id === row.step_id)?.text ?? '',
          };
        }),
      };
    });
    serve('PATCH /homework/:id', async ({ params, body, who }) => {
      const at = now().toISOString();
      const by = 'name' in who ? who.name : '';
      const [row] = await db.query<{ class_id: number; team_id: number }>(
        `update homework h set seen_at = coalesce(h.seen_at, $2), answer = coalesce($3, h.answer),
                answered_at = case when $3::text is null then h.answered_at else $2 end,
                answered_by = case when $3::text is null then h.answered_by else $4 end,
                again = coalesce($5, h.again)
           from works w join teams t on t.id = w.team_id
          where h.id = $1 and w.id = h.work_id returning t.class_id, w.team_id`,
        [idFrom(params.id), at, body.answer ?? null, by, body.again ?? null],
      );
      if (!row) throw notFound('such homework');
      changes.tell({ what: 'class', class: row.class_id, part: 'homework' });
      return undefined;
    });

    serve('GET /series/:id/file', ({ params }) => seriesFile(db, idFrom(params.id)));
    serve(
      'POST /series/imports',
      async ({ body }, file: SeriesFile) => {
        const found = await takeSeries(db, file, body.take, now());
        if (body.take) {
          changes.tell({ what: 'plan' });
          for (const { slug } of found.made) changes.tell({ what: 'lesson', lesson: slug, of: 1 });
        }
        return found.preview;
      },
      {
        reads: large,
        status: 200,
        first: ({ body: { text }, who }) => simulations.inspect('series', text, shareOf(who)),
      },
    );
    serve('POST /terms/:id/copies', async ({ params, body }) => {
      const { zone } = await settingsOf(db);
      const done = await db.transaction((tx) => copyTerm(tx, idFrom(params.id), body, zone, now()));
      changes.tell({ what: 'plan' });
      for (const { to } of body.classes) changes.tell({ what: 'class', class: to, part: 'period' });
      return done;
    });
  });
}
