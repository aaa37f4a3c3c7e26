import express, { Router } from 'express';
import Joi from 'joi';
import { readLessonJson, readLessonMarkdown, LESSON_FILE_LIMIT } from '@vigilum/core/formats';
import { missingIn, type Lesson } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import { Problem, notFound, type FieldProblem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, validate } from '../http/validate.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { lessonSchema } from './lessonSchema.ts';
import { addLesson, draftOf, keepLesson, modelState, proveModel, type DraftRow } from './store.ts';

const save = Joi.object<{ revision: number; lesson: Lesson; note?: string }>({
  revision: Joi.number().integer().min(1).required(),
  lesson: lessonSchema.required(),
  note: Joi.string().trim().max(120).allow(''),
});
const added = Joi.object<{ lesson: Lesson }>({ lesson: lessonSchema.required() });
const copied = Joi.object<{ title?: string; from?: string }>({
  title: Joi.string().trim().min(1).max(120),
  from: Joi.string().trim().max(120).allow(''),
});
const file = Joi.object<{ text: string }>({ text: Joi.string().max(LESSON_FILE_LIMIT).required() });
/** A lesson with its course, some dozen steps and its scripts stays far below this. */
const large = express.json({ limit: '2mb' });
const largest = express.json({ limit: '3mb' });

interface VersionRow {
  version: number;
  saved_at: Date;
  note: string;
}

/** Making lessons: drafts with their revision, copies, removal with undo, versions, files of strangers. */
export function builderRoutes({ db, changes, now, simulations }: Services): Router {
  const router = Router();

  const shown = (row: DraftRow) => ({
    lesson: row.definition,
    revision: row.revision,
    changed: row.changed_at !== null,
    shipped: harbourLessons.some(({ slug }) => slug === row.definition.slug),
    removed: row.removed_at !== null,
    model: modelState(row),
    modelProof: row.model_proof,
  });

  router.get('/lessons/:slug/draft', async (req, res) => {
    const row = await draftOf(db, req.params.slug);
    const kits = await db.query<{ definition: Kit }>(
      'select definition from kits where removed_at is null order by id',
    );
    res.json({ ...shown(row), kits: kits.map(({ definition }) => definition) });
  });

  router.put('/lessons/:slug/draft', large, async (req, res) => {
    const { revision, lesson, note } = validate(save, req.body);
    const row = await draftOf(db, String(req.params.slug));
    if (lesson.slug !== row.definition.slug)
      throw new Problem(
        422,
        'Another address',
        'The address of a lesson stays as it is. Make a copy instead.',
      );
    const kept = await keepLesson(db, row.id, lesson, { from: revision, note: note ?? '', at: now() });
    changes.tell({ what: 'lesson', id: row.id });
    res.json(shown(kept));
  });

  // Judges the model answer as the lesson stands, and keeps the verdict until something that is judged changes.
  router.post('/lessons/:slug/model-proofs', async (req, res) => {
    const row = await draftOf(db, req.params.slug);
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
    changes.tell({ what: 'lesson', id: row.id });
    res.status(201).json({ proof });
  });

  router.post('/lessons', large, async (req, res) => {
    const { lesson } = validate(added, req.body);
    const row = await addLesson(db, lesson, now());
    changes.tell({ what: 'lesson', id: row.id });
    res.status(201).json(shown(row));
  });

  router.post('/lessons/:slug/copies', async (req, res) => {
    const { title, from } = validate(copied, req.body);
    const { definition } = await draftOf(db, req.params.slug);
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
    changes.tell({ what: 'lesson', id: row.id });
    res.status(201).json(shown(row));
  });

  router.delete('/lessons/:slug', async (req, res) => {
    const { id } = await draftOf(db, req.params.slug);
    await db.query('update lessons set removed_at = $2 where id = $1', [id, now().toISOString()]);
    changes.tell({ what: 'lesson', id });
    res.status(204).end();
  });

  router.post('/lessons/:slug/restoration', async (req, res) => {
    const { id } = await draftOf(db, req.params.slug);
    await db.query('update lessons set removed_at = null where id = $1', [id]);
    changes.tell({ what: 'lesson', id });
    res.status(204).end();
  });

  router.get('/lessons/:slug/versions', async (req, res) => {
    const { id } = await draftOf(db, req.params.slug);
    const rows = await db.query<VersionRow>(
      'select version, saved_at, note from lesson_versions where lesson_id = $1 order by version desc limit 200',
      [id],
    );
    res.json({
      versions: rows.map(({ version, saved_at, note }) => ({ version, note, at: saved_at.getTime() })),
    });
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

  router.get('/lessons/:slug/versions/:version', async (req, res) => {
    const { lesson } = await versionOf(req.params.slug, req.params.version);
    res.json({ lesson });
  });

  router.post('/lessons/:slug/versions/:version/restoration', async (req, res) => {
    const { row, lesson } = await versionOf(req.params.slug, req.params.version);
    const kept = await keepLesson(db, row.id, lesson, {
      from: null,
      note: `version ${req.params.version} brought back`,
      at: now(),
    });
    changes.tell({ what: 'lesson', id: row.id });
    res.json(shown(kept));
  });

  // Says what a stranger's file holds, or everything that is wrong with it. Nothing is kept.
  router.post('/lessons/imports', largest, (req, res) => {
    const { text } = validate(file, req.body);
    const read = /^\s*[{[]/.test(text) ? readLessonJson(text) : readLessonMarkdown(text);
    if (!read.ok) throw new Problem(422, 'Not a lesson', `${read.says} ${read.mend}`.trim());
    const { value, error } = lessonSchema.validate(read.value, {
      abortEarly: false,
      convert: true,
      errors: { wrap: { label: false } },
    });
    if (error) {
      const fields: FieldProblem[] = error.details.slice(0, 50).map(({ path, message }) => ({
        field: path.join('.'),
        says: message.slice(0, 200),
      }));
      throw new Problem(
        422,
        'Lesson not valid',
        `${error.details.length} ${error.details.length === 1 ? 'part' : 'parts'} of the lesson cannot be taken. Nothing was changed.`,
        fields,
      );
    }
    const lesson = value as Lesson;
    res.json({ lesson, missing: missingIn(lesson, 'never proved') });
  });

  return router;
}
