import type { Router } from 'express';
import type { ClassEntry, Member } from '@vigilum/contract/types';
import { one, type Queries } from '../db/database.ts';
import { seesOf } from '../access/guests.ts';
import { mustBeTeacherOf } from '../access/power.ts';
import type { Who } from '../access/who.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { robotsFor } from '../robots/cupboard.ts';
import { callSchool, mustHaveRoom } from '../schools/schools.ts';
import { addHour } from './hours.ts';
import { addTeams, classRow, mustBeFree, teacherOf } from './membership.ts';
import { lessonBySlug } from './records.ts';

/** Setting up: the school, its classes with their teams, and the start of a period. */
export function setupRoutes(services: Services): Router {
  const { db, changes, now } = services;
  const told = (klass: number) => changes.tell({ what: 'class', class: klass, part: 'teams' });
  return contractRouter(services, (serve) => {
    serve('GET /school', async () => {
      const row = await one<{ name: string | null; robots: number; classes: number; hours: number }>(
        db,
        `select coalesce((select value #>> '{}' from meta where key = 'school'),
                         (select school from classes where removed_at is null order by id desc limit 1)) as name,
                (select count(*)::int from robots where removed_at is null) as robots,
                (select count(*)::int from classes where removed_at is null) as classes,
                (select count(*)::int from periods where removed_at is null) as hours`,
      );
      return { ...row, name: row.name ?? '' };
    });
    serve('PUT /school', async ({ body }) => {
      await callSchool(db, body.name);
      changes.tell({ what: 'class', class: 0, part: 'teams' });
      return undefined;
    });

    serve('GET /classes', async ({ who }) => {
      const classes = await db.query<ClassEntry>(
        `select c.id, c.school, c.name, c.archived_at is not null as archived, ${teacherOf} as teacher, count(t.id)::int as teams
         from classes c left join teams t on t.class_id = c.id and t.removed_at is null
        where c.removed_at is null group by c.id order by c.school, c.name`,
      );
      const sees = await seesOf(db, who);
      return { classes: classes.filter(({ id }) => sees(id)) };
    });

    serve('GET /classes/:id', async ({ params }) => {
      const { removed, ...klass } = await classRow(db, params.id);
      if (removed) throw notFound('such class');
      const members = await db.query<Member>(
        `select t.id, t.name,
                json_build_object('id', r.id, 'name', r.name, 'kit', k.name, 'cupboard', r.cupboard) as robot
           from teams t join robots r on r.id = t.robot_id join kits k on k.id = r.kit_id
          where t.class_id = $1 and t.removed_at is null order by t.id`,
        [klass.id],
      );
      return { ...klass, teams: members.length, members };
    });

    /** Makes somebody the teacher of a class. */
    const handClass = async (klass: number, teacher: number | null, who: Who) => {
      await mustBeTeacherOf(db, who, klass);
      const known =
        teacher === null ||
        (
          await db.query(`select 1 from accounts where id = $1 and removed_at is null and role <> 'guest'`, [
            teacher,
          ])
        ).length > 0;
      if (!known)
        throw new Problem(
          422,
          'No such teacher',
          'Nothing was changed: this account is not here, or is a guest. Choose a teacher or an owner.',
          [{ field: 'teacher', says: 'must be a teacher or an owner' }],
        );
      await db.query('update classes set teacher_id = $2 where id = $1', [klass, teacher]);
    };
    /** A class with teams that take the robots; none of it where anything is refused. */
    const addClass = (
      body: { school: string; name: string; teams: readonly string[] },
      who: Who,
      robots: (tx: Queries, klass: number) => Promise<readonly number[]>,
    ) =>
      db.transaction(async (tx) => {
        const { school, name, teams } = body;
        await mustBeFree(tx, school, name);
        await mustHaveRoom(tx, 'classes');
        const klass = await one<{ id: number }>(
          tx,
          'insert into classes (school, name, teacher_id) values ($1, $2, $3) returning id',
          [school, name, 'account' in who && who.account > 0 ? who.account : null],
        );
        await addTeams(tx, { id: klass.id, name }, teams, await robots(tx, klass.id), null);
        return klass.id;
      });

    serve('POST /classes', async ({ body, who }) => {
      const id = await addClass(body, who, (tx, klass) =>
        robotsFor(tx, body.robots, body.teams.length, klass),
      );
      told(id);
      return { id };
    });

    serve('POST /classes/:id/copies', async ({ params, body, who }) => {
      const from = await classRow(db, params.id);
      const teams = await db.query<{ name: string; robot_id: number }>(
        'select name, robot_id from teams where class_id = $1 and removed_at is null order by id',
        [from.id],
      );
      const id = await addClass(
        { school: from.school, name: body.name, teams: teams.map(({ name }) => name) },
        who,
        () => Promise.resolve(teams.map(({ robot_id }) => robot_id)),
      );
      told(id);
      return { id };
    });

    serve('PATCH /classes/:id', async ({ params, body, who }) => {
      const klass = await classRow(db, params.id);
      if (body.teacher !== undefined) await handClass(klass.id, body.teacher, who);
      const { school = klass.school, name = klass.name, archived = klass.archived } = body;
      await mustBeFree(db, school, name, klass.id);
      if (klass.archived && !archived) await mustHaveRoom(db, 'classes');
      await db.query(
        `update classes set school = $2, name = $3,
                archived_at = case when $4 then coalesce(archived_at, $5::timestamptz) end where id = $1`,
        [klass.id, school, name, archived, now().toISOString()],
      );
      told(klass.id);
      return undefined;
    });

    serve('DELETE /classes/:id', async ({ params, who }) => {
      const { id } = await classRow(db, params.id);
      await mustBeTeacherOf(db, who, id);
      await db.query('update classes set removed_at = $2 where id = $1', [id, now().toISOString()]);
      told(id);
      return undefined;
    });
    serve('POST /classes/:id/restoration', async ({ params }) => {
      const { id, school, name } = await classRow(db, params.id);
      await mustBeFree(db, school, name, id);
      await mustHaveRoom(db, 'classes');
      await db.query('update classes set removed_at = null where id = $1', [id]);
      told(id);
      return undefined;
    });

    serve('POST /classes/:id/teams', async ({ params, body }) => {
      const klass = await classRow(db, params.id);
      const ids = await db.transaction(async (tx) =>
        addTeams(tx, klass, body.teams, await robotsFor(tx, body.robots, body.teams.length, klass.id), now()),
      );
      told(klass.id);
      return { ids };
    });

    serve('POST /periods', async ({ body }) => {
      const lesson = await lessonBySlug(db, body.lesson);
      if (!lesson || lesson.removed) throw notFound('such lesson');
      const [klass] = await db.query('select 1 from classes where id = $1 and removed_at is null', [
        body.classId,
      ]);
      if (!klass) throw notFound('such class');
      const row = await addHour(db, {
        classId: body.classId,
        lessonId: lesson.id,
        minutes: body.minutes,
        startsAt: body.startsAt === undefined ? now() : new Date(body.startsAt),
        began: body.startsAt === undefined,
        anew: body.anew ?? false,
      });
      changes.tell({ what: 'class', class: body.classId, part: 'period' });
      return { id: row.id };
    });
  });
}
