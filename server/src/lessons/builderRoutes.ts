import express, { type Router } from 'express';
import type { Lesson } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import { shareOf, type Who } from '../access/who.ts';
import { Problem, notFound } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { addLesson, draftOf, keepLesson, modelState, proveModel, type DraftRow } from './store.ts';

/** A lesson with its course, some dozen steps and its scripts stays far below this. */
const large = express.json({ limit: '2mb' });
const largest = express.json({ limit: '3mb' });

interface VersionRow {
  version: number;
  saved_at: Date;
  note: string;
}

/** Making lessons: drafts with their revision, copies, removal with undo, versions, files of strangers. */
export function builderRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    const shown = (row: DraftRow) => ({
      lesson: row.definition,
      revision: row.revision,
      changed: row.changed_at !== null,
      shipped: harbourLessons.some(({ slug }) => slug === row.definition.slug),
      removed: row.removed_at !== null,
      model: modelState(row),
      modelProof: row.model_proof,
    });

    const tell = ({ definition, revision }: DraftRow) =>
      changes.tell({ what: 'lesson', lesson: definition.slug, of: revision });

    serve('GET /lessons/:slug/draft', async ({ params }) => {
      const row = await draftOf(db, params.slug);
      const kits = await db.query<{ definition: Kit }>(
        'select definition from kits where removed_at is null order by id',
      );
      return { ...shown(row), kits: kits.map(({ definition }) => definition) };
    });

    const sound = ({ body: { lesson }, who }: { body: { lesson: Lesson }; who: Who }) =>
      simulations.inspect('lesson', lesson, shareOf(who));
    const save: Parameters<typeof serve<'PUT /lessons/:slug/draft'>>[1] = async ({ params, body }) => {
      const { revision, lesson, note } = body;
      const row = await draftOf(db, params.slug);
      if (lesson.slug !== row.definition.slug)
        throw new Problem(
          422,
          'Another address',
          'The address of a lesson stays as it is. Make a copy instead.',
        );
      const kept = await keepLesson(db, row.id, lesson, { from: revision, note: note ?? '', at: now() });
      tell(kept);
      return shown(kept);
    };
    serve('PUT /lessons/:slug/draft', save, { reads: large, first: sound });

    // Judges the model answer as the lesson stands, and keeps the verdict until something that is judged changes.
    serve(
      'POST /lessons/:slug/model-proofs',
      async ({ params }) => {
        const row = await draftOf(db, params.slug);
        const proof = await proveModel(db, simulations, row.definition);
        const [kept] = await db.query<{ id: number }>(
          'update lessons set model_proof = $2::jsonb where id = $1 and revision = $3 returning id',
          [row.id, JSON.stringify(proof), row.revision],
        );
        if (!kept)
          throw new Problem(
            409,
            'Changed meanwhile',
            'The lesson was changed while its answer was judged. Prove it again.',
          );
        tell(row);
        return { proof };
      },
      { long: true },
    );

    const add: Parameters<typeof serve<'POST /lessons'>>[1] = async ({ body: { lesson } }) => {
      const row = await addLesson(db, lesson, now());
      tell(row);
      return shown(row);
    };
    serve('POST /lessons', add, { reads: large, first: sound });

    serve('POST /lessons/:slug/copies', async ({ params, body }) => {
      const { title, from } = body;
      const { definition } = await draftOf(db, params.slug);
      const row = await addLesson(
        db,
        {
          ...definition,
          slug: '',
          title: title ?? `${definition.title.slice(0, 110)}, copy`,
          origin: { title: definition.title, slug: definition.slug, from: from ?? '' },
        },
        now(),
      );
      tell(row);
      return shown(row);
    });

    serve('DELETE /lessons/:slug', async ({ params }) => {
      const row = await draftOf(db, params.slug);
      await db.query('update lessons set removed_at = $2 where id = $1', [row.id, now().toISOString()]);
      tell(row);
      return undefined;
    });

    serve('POST /lessons/:slug/restoration', async ({ params }) => {
      const row = await draftOf(db, params.slug);
      await db.query('update lessons set removed_at = null where id = $1', [row.id]);
      tell(row);
      return undefined;
    });

    serve('GET /lessons/:slug/versions', async ({ params }) => {
      const { id } = await draftOf(db, params.slug);
      const rows = await db.query<VersionRow>(
        'select version, saved_at, note from lesson_versions where lesson_id = $1 order by version desc limit 200',
        [id],
      );
      return {
        versions: rows.map(({ version, saved_at, note }) => ({ version, note, at: saved_at.getTime() })),
      };
    });

    const versionOf = async (slug: string, number: string) => {
      const row = await draftOf(db, slug);
      const [found] = await db.query<{ definition: Lesson }>(
        'select definition from lesson_versions where lesson_id = $1 and version = $2',
        [row.id, idFrom(number)],
      );
      if (!found) throw notFound('such version');
      return { row, lesson: found.definition };
    };

    serve('GET /lessons/:slug/versions/:version', async ({ params }) => {
      const { lesson } = await versionOf(params.slug, params.version);
      return { lesson };
    });

    serve(
      'POST /lessons/:slug/versions/:version/restoration',
      async ({ params }) => {
        const { row, lesson } = await versionOf(params.slug, params.version);
        const kept = await keepLesson(db, row.id, lesson, {
          from: null,
          note: `version ${params.version} brought back`,
          at: now(),
        });
        tell(kept);
        return shown(kept);
      },
      { status: 200 },
    );

    // Says what a stranger's file holds, or everything that is wrong with it. Nothing is kept.
    serve(
      'POST /lessons/imports',
      ({ body: { text }, who }) => simulations.inspect('lessonFile', text, shareOf(who)),
      { status: 200, reads: largest, long: true },
    );
  });
}
