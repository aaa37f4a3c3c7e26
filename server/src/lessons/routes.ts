import type { Router } from 'express';
import { lessonSchema } from '@vigilum/contract/files';
import { hasTwist, variantOf, writtenBack, type Lesson } from '@vigilum/core/lesson';
import { lessonBySlug } from '../classes/records.ts';
import { shareOf } from '../access/who.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { validate } from '../http/validate.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { kitOf, keepLesson } from './store.ts';

/** A lesson with a change of a teacher's, and how much of it no longer follows the twist. */
interface Written {
  id: number;
  lesson: Lesson;
  freed: number;
}

/** What a teacher changes about how a lesson judges, and the way back to how it was shipped. */
export function lessonRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    serve('GET /lessons', async () => {
      const rows = await db.query<{ slug: string; definition: Lesson; changed_at: Date | null }>(
        'select slug, definition, changed_at from lessons where removed_at is null order by id',
      );
      return {
        lessons: rows.map((row) => variantOf(row.definition)),
        facts: rows.map(({ slug, changed_at }) => ({
          slug,
          shipped: harbourLessons.some((lesson) => lesson.slug === slug),
          changedAt: changed_at && changed_at.getTime(),
        })),
      };
    });

    serve('GET /lessons/:slug', async ({ params }) => {
      const found = await lessonBySlug(db, params.slug);
      if (!found) throw notFound('such lesson');
      return variantOf(found.lesson);
    });

    // The lesson with the kit of its own robot: what the teacher's page judges scripts with.
    serve('GET /lessons/:slug/bench', async ({ params }) => {
      const found = await lessonBySlug(db, params.slug);
      if (!found) throw notFound('such lesson');
      const { lesson } = found;
      const [state] = await db.query<{ changed: boolean; revision: number }>(
        'select changed_at is not null as changed, revision from lessons where id = $1',
        [found.id],
      );
      return {
        lesson: variantOf(lesson),
        revision: state!.revision,
        kit: await kitOf(db, lesson),
        twisted: hasTwist(lesson),
        changed: state!.changed,
        shipped: harbourLessons.some(({ slug }) => slug === lesson.slug),
      };
    });

    serve(
      'PATCH /lessons/:slug',
      async ({ body: { revision: from } }, { id, lesson, freed }: Written) => {
        const { revision } = await keepLesson(db, id, lesson, { from, at: now() });
        changes.tell({ what: 'lesson', lesson: lesson.slug, of: revision });
        return { lesson: variantOf(lesson), revision, freed };
      },
      {
        // Whoever changes the lesson between this and the saving is noticed by its revision.
        first: async ({ params, body, who }) => {
          const found = await lessonBySlug(db, params.slug);
          if (!found) throw notFound('such lesson');
          const { revision: _from, ...wanted } = body;
          // The page changes the lesson with its usual numbers: what it left alone goes on following the twist.
          const { lesson, freed } = writtenBack(found.lesson, wanted);
          // What is said about the course must be there.
          const written = validate(lessonSchema, JSON.parse(JSON.stringify(lesson)));
          await simulations.inspect('lesson', written, shareOf(who));
          return { id: found.id, lesson, freed };
        },
      },
    );

    serve(
      'POST /lessons/:slug/shipped-form',
      async ({ params }) => {
        const found = await lessonBySlug(db, params.slug);
        if (!found) throw notFound('such lesson');
        const shipped = harbourLessons.find(({ slug }) => slug === found.lesson.slug);
        if (!shipped)
          throw new Problem(
            409,
            'Not a shipped lesson',
            'This lesson did not come with Vigilum: there is nothing to go back to.',
          );
        const { revision } = await keepLesson(db, found.id, shipped, {
          from: null,
          note: 'as shipped',
          at: now(),
          changed: null,
        });
        changes.tell({ what: 'lesson', lesson: shipped.slug, of: revision });
        return shipped;
      },
      { status: 200 },
    );
  });
}
