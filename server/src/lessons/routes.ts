import { Router } from 'express';
import Joi from 'joi';
import type { Expectation } from '@vigilum/core/expect';
import { hasTwist, variantOf, writtenBack, type Lesson } from '@vigilum/core/lesson';
import type { Conditions } from '@vigilum/core/sim';
import { lessonBySlug } from '../classes/records.ts';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { kitOf, keepLesson } from './store.ts';
import { conditionsSchema, expectationsSchema, lessonSchema, proofSchema } from './lessonSchema.ts';

interface LessonChange {
  expectations?: Expectation[];
  conditions?: Conditions;
  proof?: Lesson['proof'];
}

const change = Joi.object<LessonChange>({
  expectations: expectationsSchema,
  conditions: conditionsSchema,
  proof: proofSchema,
}).min(1);

/** What a teacher changes about how a lesson judges, and the way back to how it was shipped. */
export function lessonRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  // The lesson with the kit of its own robot: what the teacher's page judges scripts with.
  router.get('/lessons/:slug/bench', async (req, res) => {
    const found = await lessonBySlug(db, req.params.slug);
    if (!found) throw notFound('such lesson');
    const { lesson } = found;
    const [state] = await db.query<{ changed: boolean }>(
      'select changed_at is not null as changed from lessons where id = $1',
      [found.id],
    );
    res.json({
      lesson: variantOf(lesson),
      kit: await kitOf(db, lesson),
      twisted: hasTwist(lesson),
      changed: state!.changed,
      shipped: harbourLessons.some(({ slug }) => slug === lesson.slug),
    });
  });

  router.patch('/lessons/:slug', async (req, res) => {
    const found = await lessonBySlug(db, req.params.slug);
    if (!found) throw notFound('such lesson');
    const wanted = validate(change, req.body);
    // The page changes the lesson with its usual numbers: what it left alone goes on following the twist.
    const { lesson, freed } = writtenBack(found.lesson, wanted);
    // What is said about the course must be there.
    validate(lessonSchema, JSON.parse(JSON.stringify(lesson)));
    await keepLesson(db, found.id, lesson, { from: null, at: now() });
    changes.tell({ what: 'lesson', id: found.id });
    res.json({ lesson: variantOf(lesson), freed });
  });

  router.post('/lessons/:slug/shipped-form', async (req, res) => {
    const found = await lessonBySlug(db, req.params.slug);
    if (!found) throw notFound('such lesson');
    const shipped = harbourLessons.find(({ slug }) => slug === found.lesson.slug);
    if (!shipped)
      throw new Problem(
        409,
        'Not a shipped lesson',
        'This lesson did not come with Vigilum: there is nothing to go back to.',
      );
    await keepLesson(db, found.id, shipped, { from: null, note: 'as shipped', at: now(), changed: null });
    changes.tell({ what: 'lesson', id: found.id });
    res.json(shipped);
  });

  return router;
}
