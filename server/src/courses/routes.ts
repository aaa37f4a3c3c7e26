import { Router } from 'express';
import Joi from 'joi';
import { buildCourse, courseFamilies, type Course } from '@vigilum/core/course';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import { one } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, validate } from '../http/validate.ts';
import { courseSchema } from './courseSchema.ts';

interface CourseRow {
  id: number;
  name: string;
  definition: Course;
  family: string | null;
  parameters: Record<string, number> | null;
  changed_at: Date;
}
interface NewCourse {
  course: Course;
  family?: string | null;
  parameters?: Record<string, number> | null;
}

const columns = 'id, name, definition, family, parameters, changed_at';
const families = courseFamilies.map(({ id }) => id);
const newCourse = Joi.object<NewCourse>({
  course: courseSchema.required(),
  family: Joi.valid(...families).allow(null),
  parameters: Joi.object().pattern(Joi.string().max(40), Joi.number()).max(20).allow(null),
});

const shown = ({ definition, changed_at, ...row }: CourseRow) => ({
  ...row,
  course: definition,
  at: changed_at.getTime(),
});

/** Courses of a teacher's own: made from a family, drawn, or imported. Those of lessons come with their lessons. */
export function courseRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  router.get('/courses', async (_req, res) => {
    const rows = await db.query<CourseRow>(
      `select ${columns} from courses where removed_at is null order by changed_at desc, id desc limit 500`,
    );
    const lessons = await db.query<{ definition: Lesson }>(
      'select definition from lessons where removed_at is null order by id',
    );
    res.json({
      courses: rows.map(shown),
      // Where a twist makes the course, that of its usual numbers is what people know.
      lessons: lessons.map(({ definition }) => {
        const { slug, title, course } = variantOf(definition);
        return { slug, title, course };
      }),
    });
  });

  router.get('/courses/:id', async (req, res) => {
    const [row] = await db.query<CourseRow>(
      `select ${columns} from courses where id = $1 and removed_at is null`,
      [idFrom(req.params.id)],
    );
    if (!row) throw notFound('such course');
    res.json(shown(row));
  });

  router.post('/courses', async (req, res) => {
    const { course, family, parameters } = validate(newCourse, req.body);
    const row = await one<{ id: number }>(
      db,
      `insert into courses (name, definition, family, parameters, changed_at)
       values ($1, $2::jsonb, $3, $4::jsonb, $5) returning id`,
      [
        course.name,
        JSON.stringify(course),
        family ?? null,
        parameters ? JSON.stringify(parameters) : null,
        now().toISOString(),
      ],
    );
    changes.tell({ what: 'courses', id: row.id });
    res.status(201).json({ id: row.id });
  });

  router.put('/courses/:id', async (req, res) => {
    const { course, family, parameters } = validate(newCourse, req.body);
    const [row] = await db.query<{ id: number }>(
      `update courses set name = $2, definition = $3::jsonb, family = $4, parameters = $5::jsonb, changed_at = $6
        where id = $1 and removed_at is null returning id`,
      [
        idFrom(req.params.id),
        course.name,
        JSON.stringify(course),
        family ?? null,
        parameters ? JSON.stringify(parameters) : null,
        now().toISOString(),
      ],
    );
    if (!row) throw notFound('such course');
    changes.tell({ what: 'courses', id: row.id });
    res.json({ id: row.id });
  });

  const mark = async (id: number, removedAt: string | null) => {
    const [row] = await db.query<{ id: number }>(
      'update courses set removed_at = $2 where id = $1 returning id',
      [id, removedAt],
    );
    if (!row) throw notFound('such course');
    changes.tell({ what: 'courses', id });
  };
  router.delete('/courses/:id', async (req, res) => {
    await mark(idFrom(req.params.id), now().toISOString());
    res.status(204).end();
  });
  router.post('/courses/:id/restoration', async (req, res) => {
    await mark(idFrom(req.params.id), null);
    res.status(204).end();
  });

  // A course of a family, built here for whoever has no core at hand.
  router.post('/course-families/:id/builds', (req, res) => {
    const family = courseFamilies.find(({ id }) => id === req.params.id);
    if (!family) throw notFound('such family of courses');
    const values = validate(
      Joi.object<Record<string, number>>().pattern(Joi.string().max(40), Joi.number()).max(20),
      req.body,
    );
    res.json(buildCourse(family, values));
  });

  return router;
}
