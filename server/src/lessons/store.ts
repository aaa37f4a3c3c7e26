import type { Proof } from '@vigilum/core/expect';
import { sameJudged, variantOf, type Lesson, type ModelState } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import { one, type Database, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { scopeNow } from '../http/scope.ts';
import type { Simulations } from '../jobs/simulations.ts';

/** A lesson as its teacher works on it. */
export interface DraftRow {
  id: number;
  definition: Lesson;
  revision: number;
  changed_at: Date | null;
  removed_at: Date | null;
  model_proof: Proof | null;
}

const columns = 'id, definition, revision, changed_at, removed_at, model_proof';
/** Saves that follow each other this closely are one version, ms. */
const SAME_SITTING_MS = 3 * 60_000;

export async function draftOf(db: Queries, slug: string): Promise<DraftRow> {
  const [row] = await db.query<DraftRow>(`select ${columns} from lessons where slug = $1`, [slug]);
  if (!row) throw notFound('such lesson');
  return row;
}

export const modelState = ({ model_proof }: Pick<DraftRow, 'model_proof'>): ModelState =>
  model_proof === null ? 'never proved' : model_proof.verdict === 'proved' ? 'proved' : 'not proved';

interface Save {
  /** The revision that this was made from; saves from an older one are refused. Null overrides. */
  from: number | null;
  note?: string;
  at: Date;
  /** Null puts a shipped lesson back to following newer versions. */
  changed?: Date | null;
}

/**
 * Keeps a lesson as its newest version. Saves of one sitting are one version, but for those with a note. The proof
 * of the model answer is kept while nothing that is judged has changed.
 */
export async function keepLesson(
  db: Database,
  id: number,
  lesson: Lesson,
  { from, note = '', at, changed = at }: Save,
): Promise<DraftRow> {
  return db.transaction(async (tx) => {
    const before = await one<DraftRow>(tx, `select ${columns} from lessons where id = $1 for update`, [id]);
    if (from !== null && before.revision !== from)
      throw new Problem(
        409,
        'Changed meanwhile',
        'This lesson was changed on another screen. Your text is kept here: compare, then save again or take theirs.',
        [],
        { theirs: { revision: before.revision, value: before.definition } },
      );
    const by = scopeNow()?.by ?? '';
    const [newest] = await tx.query<{ version: number; saved_at: Date; note: string; saved_by: string }>(
      'select version, saved_at, note, saved_by from lesson_versions where lesson_id = $1 order by version desc limit 1',
      [id],
    );
    let version = newest?.version ?? 0;
    if (!newest) {
      // What was there before the first save is the first version.
      await tx.query(
        'insert into lesson_versions (lesson_id, version, definition, saved_at, note) values ($1, 1, $2::jsonb, $3, $4)',
        [id, JSON.stringify(before.definition), at.toISOString(), 'as it was'],
      );
      version = 1;
    }
    const sameSitting =
      newest !== undefined &&
      newest.note === '' &&
      newest.saved_by === by &&
      note === '' &&
      at.getTime() - newest.saved_at.getTime() < SAME_SITTING_MS;
    if (!sameSitting) version++;
    await tx.query(
      `insert into lesson_versions (lesson_id, version, definition, saved_at, note, saved_by)
       values ($1, $2, $3::jsonb, $4, $5, $6)
       on conflict (lesson_id, version) do update set definition = excluded.definition, saved_at = excluded.saved_at`,
      [id, version, JSON.stringify(lesson), at.toISOString(), note, by],
    );
    return one<DraftRow>(
      tx,
      `update lessons set title = $2, definition = $3::jsonb, revision = revision + 1, changed_at = $4,
              model_proof = case when $5 then model_proof end
        where id = $1 returning ${columns}`,
      [
        id,
        lesson.title,
        JSON.stringify(lesson),
        changed?.toISOString() ?? null,
        sameJudged(before.definition, lesson),
      ],
    );
  });
}

/** A new lesson; its slug is made unlike every other. */
export async function addLesson(db: Database, lesson: Lesson, at: Date): Promise<DraftRow> {
  return db.transaction(async (tx) => {
    const stem = slugOf(lesson.slug || lesson.title);
    const taken = new Set(
      (await tx.query<{ slug: string }>('select slug from lessons where slug like $1', [`${stem}%`])).map(
        (row) => row.slug,
      ),
    );
    let [slug, n] = [stem, 1];
    while (taken.has(slug)) slug = `${stem}-${++n}`;
    const named = { ...lesson, slug };
    return one<DraftRow>(
      tx,
      `insert into lessons (slug, title, definition, changed_at) values ($1, $2, $3::jsonb, $4) returning ${columns}`,
      [slug, lesson.title, JSON.stringify(named), at.toISOString()],
    );
  });
}

/** A title as part of an address: “Tide line, part 2” is tide-line-part-2. */
export const slugOf = (title: string): string =>
  title
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-|-$/g, '')
    .slice(0, 50)
    .replace(/-$/, '') || 'lesson';

/** The kit of a lesson's own robot; null when it names none, or one that is not here. */
export async function kitOf(db: Queries, lesson: Lesson): Promise<Kit | null> {
  const [row] = await db.query<{ definition: Kit }>('select definition from kits where slug = $1', [
    lesson.robot?.kit ?? '',
  ]);
  return row?.definition ?? null;
}

/** Judges the model answer of a lesson as it is usually given, or of one variant. Refused where there is no robot. */
export async function proveModel(
  db: Queries,
  simulations: Simulations,
  lesson: Lesson,
  values: Parameters<typeof variantOf>[1] = null,
): Promise<Proof> {
  const kit = await kitOf(db, lesson);
  const variant = variantOf(lesson, values);
  const { robot, proof, modelScript } = variant;
  if (!robot || !kit)
    throw new Problem(
      409,
      'No robot',
      'The lesson names no robot to prove its model answer on. Choose a kit under Plan, then prove again.',
    );
  return simulations.prove({
    lesson: variant,
    known: { kit, build: robot.build, sets: [], thresholds: robot.thresholds },
    text: modelScript,
    seed: proof.seed,
    runs: proof.runs,
  });
}
