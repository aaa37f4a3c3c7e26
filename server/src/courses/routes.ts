import type { Router } from 'express';
import { buildCourse, courseFamilies, type Course } from '@vigilum/core/course';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import { one } from '../db/database.ts';
import { shareOf, type Who } from '../access/who.ts';
import { notFound } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { nextRevision } from '../kept/store.ts';

interface CourseRow {
  id: number;
  name: string;
  definition: Course;
  family: string | null;
  parameters: Record<string, number> | null;
  revision: number;
  changed_at: Date;
}

const columns = 'id, name, definition, family, parameters, revision, changed_at';

const shown = ({ definition, changed_at, ...row }: CourseRow) => ({
  ...row,
  course: definition,
  at: changed_at.getTime(),
});

/** Courses of a teacher's own: made from a family, drawn, or imported. Those of lessons come with their lessons. */
export function courseRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    /** Refuses a course whose parts do not fit each other. */
    const sound = ({ body: { course }, who }: { body: { course: Course }; who: Who }) =>
      simulations.inspect('course', course, shareOf(who));

    serve('GET /courses', async () => {
      const rows = await db.query<CourseRow>(
        `select ${columns} from courses where removed_at is null order by changed_at desc, id desc limit 500`,
      );
      const lessons = await db.query<{ definition: Lesson }>(
        'select definition from lessons where removed_at is null order by id',
      );
      return {
        courses: rows.map(shown),
        // Where a twist makes the course, that of its usual numbers is what people know.
        lessons: lessons.map(({ definition }) => {
          const { slug, title, course } = variantOf(definition);
          return { slug, title, course };
        }),
      };
    });

    serve('GET /courses/:id', async ({ params }) => {
      const [row] = await db.query<CourseRow>(
        `select ${columns} from courses where id = $1 and removed_at is null`,
        [idFrom(params.id)],
      );
      if (!row) throw notFound('such course');
      return shown(row);
    });

    const add: Parameters<typeof serve<'POST /courses'>>[1] = async ({
      body: { course, family, parameters },
    }) => {
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
      changes.tell({ what: 'course', course: row.id });
      return { id: row.id };
    };
    serve('POST /courses', add, { first: sound });

    const save: Parameters<typeof serve<'PUT /courses/:id'>>[1] = async ({ params, body }) => {
      const { course, family = null, parameters = null } = body;
      const id = idFrom(params.id);
      const at = now();
      const revision = await db.transaction(async (tx) => {
        const [row] = await tx.query<CourseRow>(
          `select ${columns} from courses where id = $1 and removed_at is null for update`,
          [id],
        );
        if (!row) throw notFound('such course');
        const next = await nextRevision(tx, {
          kind: 'course',
          table: 'courses',
          id,
          key: String(id),
          what: 'this course',
          before: {
            revision: row.revision,
            value: { course: row.definition, family: row.family, parameters: row.parameters },
          },
          from: body.revision,
          value: { course, family, parameters },
          note: body.note ?? '',
          at,
        });
        await tx.query(
          `update courses set name = $2, definition = $3::jsonb, family = $4, parameters = $5::jsonb, changed_at = $6
            where id = $1`,
          [
            id,
            course.name,
            JSON.stringify(course),
            family,
            parameters ? JSON.stringify(parameters) : null,
            at.toISOString(),
          ],
        );
        return next;
      });
      changes.tell({ what: 'course', course: id });
      return { id, revision };
    };
    serve('PUT /courses/:id', save, { first: sound });

    const mark = async (id: number, removedAt: string | null) => {
      const [row] = await db.query<{ id: number }>(
        'update courses set removed_at = $2 where id = $1 returning id',
        [id, removedAt],
      );
      if (!row) throw notFound('such course');
      changes.tell({ what: 'course', course: id });
    };
    serve('DELETE /courses/:id', async ({ params }) => {
      await mark(idFrom(params.id), now().toISOString());
      return undefined;
    });
    serve('POST /courses/:id/restoration', async ({ params }) => {
      await mark(idFrom(params.id), null);
      return undefined;
    });

    // A course of a family, built here for whoever has no core at hand.
    serve(
      'POST /course-families/:id/builds',
      ({ params, body }) => {
        const family = courseFamilies.find(({ id }) => id === params.id);
        if (!family) throw notFound('such family of courses');
        return buildCourse(family, body);
      },
      { status: 200 },
    );
  });
}
