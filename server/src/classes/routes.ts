import { Router } from 'express';
import { currentStage, helpFor, lastActivity, stagesOf, thresholdTable } from '@vigilum/core/classroom';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import { notFound } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { roomShown } from '../robots/store.ts';
import { lessonBySlug, loadTeams, type LessonRow } from './records.ts';

interface PeriodRow {
  id: number;
  starts_at: Date;
  minutes: number;
  class_id: number;
  class: string;
  school: string;
  lesson_id: number;
  definition: Lesson;
}

/** Every surface that some step of a lesson reads. */
const surfacesOf = (lesson: Lesson): string[] =>
  [lesson.read.tasks, ...(lesson.steps ?? []).map(({ part }) => part?.tasks ?? [])]
    .flat()
    .map(({ surface }) => surface);

/** Today's board, the list of lessons, and a team's workspace. */
export function classRoutes({ db, now }: Services): Router {
  const router = Router();

  const teamsOf = async (classId: number, lesson: LessonRow) => {
    const teams = await db.query<{ id: number }>('select id from teams where class_id = $1 order by id', [
      classId,
    ]);
    return loadTeams(
      db,
      teams.map((team) => team.id),
      lesson,
      surfacesOf(lesson.lesson),
    );
  };

  const board = async (classId: number, lesson: LessonRow) => {
    const loaded = await teamsOf(classId, lesson);
    return loaded.map(({ team, robot, record }) => {
      const stages = stagesOf(record);
      return {
        id: team.id,
        name: team.name,
        robot: robot.name,
        stages,
        current: currentStage(stages).stage,
        help: helpFor(record, stages, now().getTime()),
        lastAt: lastActivity(record),
      };
    });
  };

  router.get('/today', async (_req, res) => {
    const periods = await db.query<PeriodRow>(
      `select p.id, p.starts_at, p.minutes, c.id as class_id, c.name as class, c.school, l.id as lesson_id, l.definition
         from periods p join classes c on c.id = p.class_id join lessons l on l.id = p.lesson_id
        where p.starts_at > $1::timestamptz - interval '18 hours' and p.starts_at < $1::timestamptz + interval '18 hours'
        order by p.starts_at limit 12`,
      [now().toISOString()],
    );
    const boards = [];
    for (const period of periods) {
      boards.push({
        id: period.id,
        startsAt: period.starts_at.getTime(),
        minutes: period.minutes,
        class: { id: period.class_id, name: period.class, school: period.school },
        lesson: { slug: period.definition.slug, title: period.definition.title, aim: period.definition.aim },
        teams: await board(period.class_id, { id: period.lesson_id, lesson: period.definition }),
      });
    }
    res.json({ now: now().getTime(), periods: boards });
  });

  // The thresholds of a class side by side: who differs, who is poor, who is stale.
  router.get('/periods/:id/thresholds', async (req, res) => {
    const [period] = await db.query<PeriodRow>(
      `select p.id, p.starts_at, p.minutes, c.id as class_id, c.name as class, c.school, l.id as lesson_id, l.definition
         from periods p join classes c on c.id = p.class_id join lessons l on l.id = p.lesson_id where p.id = $1`,
      [idFrom(req.params.id)],
    );
    if (!period) throw notFound('such period');
    const { definition: lesson } = period;
    const teams = await teamsOf(period.class_id, { id: period.lesson_id, lesson });
    const at = now().getTime();
    res.json({
      now: at,
      school: period.school,
      class: period.class,
      lesson: { slug: lesson.slug, title: lesson.title },
      need: lesson.need,
      teams: teams.map(({ team }) => team.id),
      table: thresholdTable(teams, at),
    });
  });

  router.get('/lessons', async (_req, res) => {
    const rows = await db.query<{ definition: Lesson }>(
      'select definition from lessons where removed_at is null order by id',
    );
    res.json({ lessons: rows.map((row) => variantOf(row.definition)) });
  });

  router.get('/lessons/:slug', async (req, res) => {
    const found = await lessonBySlug(db, req.params.slug);
    if (!found) throw notFound('such lesson');
    res.json(variantOf(found.lesson));
  });

  router.get('/teams/:id/lessons/:slug', async (req, res) => {
    const lesson = await lessonBySlug(db, req.params.slug);
    if (!lesson) throw notFound('such lesson');
    const [found] = await loadTeams(db, [idFrom(req.params.id)], lesson);
    if (!found) throw notFound('such team');
    res.json({
      ...found,
      stages: stagesOf(found.record),
      room: await roomShown(db, found.robot.standIn),
      now: now().getTime(),
    });
  });

  return router;
}
