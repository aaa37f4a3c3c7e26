import type { TeamInLesson } from '@vigilum/core/classroom';
import type { Queries } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import { idFrom } from '../http/validate.ts';
import { lessonBySlug, loadTeams, type LessonRow } from './records.ts';

/** The team and lesson of a path such as /teams/:id/lessons/:slug, or a 404. */
export async function teamInLesson(
  db: Queries,
  params: { id?: string | string[]; slug?: string | string[] },
): Promise<TeamInLesson & { lessonRow: LessonRow }> {
  const lessonRow = await lessonBySlug(db, String(params.slug));
  if (!lessonRow) throw notFound('such lesson');
  const [found] = await loadTeams(db, [idFrom(params.id)], lessonRow);
  if (!found) throw notFound('such team');
  return { ...found, lessonRow };
}

/** Makes sure a robot exists, or throws a 404. */
export async function robotId(db: Queries, text: string | string[] | undefined): Promise<number> {
  const id = idFrom(text);
  const rows = await db.query('select 1 from robots where id = $1', [id]);
  if (rows.length === 0) throw notFound('such robot');
  return id;
}
