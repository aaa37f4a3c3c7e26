import { Router } from 'express';
import { thresholdTable, type TeamInLesson } from '@vigilum/core/classroom';
import { sensorAt, stepsOf, variantOf, type Lesson, type StepKind } from '@vigilum/core/lesson';
import type { Queries } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { loadTeams, type LessonRow } from './records.ts';

export interface PeriodRow {
  id: number;
  starts_at: Date;
  minutes: number;
  class_id: number;
  class: string;
  school: string;
  lesson_id: number;
  definition: Lesson;
}

export const selectPeriods = `select p.id, p.starts_at, p.minutes, c.id as class_id, c.name as class, c.school,
              l.id as lesson_id, l.definition
         from periods p join classes c on c.id = p.class_id join lessons l on l.id = p.lesson_id`;

/** Every surface that some step of a lesson reads. */
const surfacesOf = (lesson: Lesson): string[] =>
  [lesson.read.tasks, ...(lesson.steps ?? []).map(({ part }) => part?.tasks ?? [])]
    .flat()
    .map(({ surface }) => surface);

/** The teams of a class in one lesson, in their order, with what the class’s boards show. */
export async function teamsOf(db: Queries, classId: number, lesson: LessonRow): Promise<TeamInLesson[]> {
  const teams = await db.query<{ id: number }>('select id from teams where class_id = $1 order by id', [
    classId,
  ]);
  return loadTeams(
    db,
    teams.map((team) => team.id),
    lesson,
    surfacesOf(lesson.lesson),
  );
}

/** Steps in which a team writes something down. */
const written: readonly StepKind[] = ['predict', 'reflect', 'extend', 'homework'];

/** A whole class in one period: its thresholds side by side, and what its teams wrote down. */
export function periodRoutes({ db, now }: Services): Router {
  const router = Router();

  const load = async (id: string) => {
    const [period] = await db.query<PeriodRow>(`${selectPeriods} where p.id = $1`, [idFrom(id)]);
    if (!period) throw notFound('such period');
    const { definition: lesson, lesson_id, class_id, school } = period;
    const teams = await teamsOf(db, class_id, { id: lesson_id, lesson });
    const shown = {
      now: now().getTime(),
      school,
      class: period.class,
      lesson: { slug: lesson.slug, title: lesson.title },
    };
    return { lesson: variantOf(lesson), teams, shown };
  };

  router.get('/periods/:id/thresholds', async (req, res) => {
    const { lesson, teams, shown } = await load(req.params.id);
    const decides = stepsOf(lesson).find(({ kind }) => kind === 'decide');
    res.json({
      ...shown,
      need: decides ? sensorAt(lesson, decides) : lesson.need,
      teams: teams.map(({ team }) => team.id),
      table: thresholdTable(teams, shown.now),
    });
  });

  // What teams predicted, found out and did at home, step by step.
  router.get('/periods/:id/notes', async (req, res) => {
    const { lesson, teams, shown } = await load(req.params.id);
    res.json({
      ...shown,
      steps: stepsOf(lesson)
        .filter(({ kind }) => written.includes(kind))
        .map(({ id, kind, title, text }) => ({ id, kind, title, text })),
      teams: teams.map(({ team, notes }) => ({ ...team, notes })),
    });
  });

  return router;
}
