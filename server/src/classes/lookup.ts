import type { TeamInLesson } from '@vigilum/core/classroom';
import type { Queries } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import { idFrom } from '../http/validate.ts';
import { lessonBySlug, loadTeams, type LessonRow } from './records.ts';

/** The team and lesson of a path with all evidence of the work that they are in, or a 404. */
export async function teamInLesson(
  db: Queries,
  { id, slug }: { id: string; slug: string },
  at: Date,
): Promise<TeamInLesson & { lessonRow: LessonRow; work: number | null }> {
  const lessonRow = await lessonBySlug(db, slug);
  if (!lessonRow) throw notFound('such lesson');
  const [found] = await loadTeams(db, [idFrom(id)], lessonRow, { at });
  if (!found) throw notFound('such team');
  return { ...found, lessonRow };
}

/** A robot and the teams that drive it, or a 404. */
export async function robotAndTeams(db: Queries, text: string): Promise<{ robot: number; teams: number[] }> {
  const [row] = await db.query<{ id: number; teams: number[] }>(
    'select r.id, array(select t.id from teams t where t.robot_id = r.id and t.removed_at is null order by t.id) as teams from robots r where r.id = $1',
    [idFrom(text)],
  );
  if (!row) throw notFound('such robot');
  return { robot: row.id, teams: row.teams };
}

/** The id of a robot, or a 404. */
export async function robotId(db: Queries, text: string): Promise<number> {
  return (await robotAndTeams(db, text)).robot;
}
