import { Router } from 'express';
import { currentStage, helpFor, lastActivity, stagesOf } from '@vigilum/core/classroom';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import { notFound } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { roomShown } from '../robots/store.ts';
import { selectPeriods, teamsOf, type PeriodRow } from './periods.ts';
import { lessonBySlug, loadTeams, type LessonRow } from './records.ts';

/** Today's board, the list of lessons, and a team's workspace. */
export function classRoutes({ db, now }: Services): Router {
  const router = Router();

  const board = async (classId: number, lesson: LessonRow) => {
    const loaded = await teamsOf(db, classId, lesson);
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
      `${selectPeriods}
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
