import type { TeamInLesson } from '@vigilum/core/classroom';
import type { Lesson } from '@vigilum/core/lesson';
import { one, type Queries } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import { idFrom } from '../http/validate.ts';
import { lessonBySlug, loadTeams, type LessonRow } from './records.ts';

type Given = { id: string; slug: string };

/** The ids of the team and lesson of a path such as /teams/:id/lessons/:slug, or a 404: one statement, no evidence. */
export async function teamAndLesson(
  db: Queries,
  { id, slug }: Given,
): Promise<{ team: number; lesson: number }> {
  const { team, lesson } = await one<{ team: number | null; lesson: number | null }>(
    db,
    `select (select id from teams where id = $1) as team, (select id from lessons where slug = $2) as lesson`,
    [idFrom(id), slug],
  );
  if (lesson === null) throw notFound('such lesson');
  if (team === null) throw notFound('such team');
  return { team, lesson };
}

/** The same with the lesson as it is written. */
export async function teamAndWrittenLesson(
  db: Queries,
  { id, slug }: Given,
): Promise<{ team: number; lesson: LessonRow }> {
  const [row] = await db.query<{ team: number | null; id: number; definition: Lesson }>(
    'select (select id from teams where id = $1) as team, id, definition from lessons where slug = $2',
    [idFrom(id), slug],
  );
  if (!row) throw notFound('such lesson');
  if (row.team === null) throw notFound('such team');
  return { team: row.team, lesson: { id: row.id, lesson: row.definition } };
}

/** The team and lesson of a path with all evidence, or a 404. */
export async function teamInLesson(
  db: Queries,
  { id, slug }: Given,
): Promise<TeamInLesson & { lessonRow: LessonRow }> {
  const lessonRow = await lessonBySlug(db, slug);
  if (!lessonRow) throw notFound('such lesson');
  const [found] = await loadTeams(db, [idFrom(id)], lessonRow);
  if (!found) throw notFound('such team');
  return { ...found, lessonRow };
}

/** A robot and the teams that drive it, or a 404. */
export async function robotAndTeams(db: Queries, text: string): Promise<{ robot: number; teams: number[] }> {
  const [row] = await db.query<{ id: number; teams: number[] }>(
    'select r.id, array(select t.id from teams t where t.robot_id = r.id order by t.id) as teams from robots r where r.id = $1',
    [idFrom(text)],
  );
  if (!row) throw notFound('such robot');
  return { robot: row.id, teams: row.teams };
}

/** The id of a robot, or a 404. */
export async function robotId(db: Queries, text: string): Promise<number> {
  return (await robotAndTeams(db, text)).robot;
}
