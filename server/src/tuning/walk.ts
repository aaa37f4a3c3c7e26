import type { Judgement, Proof } from '@vigilum/core/expect';
import { judgeTrial, lessonOnFloor, resultsOfTrial, type Lesson } from '@vigilum/core/lesson';
import {
  floorKnobs,
  skeletonOf,
  trialKnobs,
  type Results,
  type Trial,
  type TrialKnob,
} from '@vigilum/core/tuning';
import { trialFields, type Measured } from '../classes/records.ts';
import { grouped, ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';

/** Of each kind so many trials are shown, the newest ones. */
const MOST = 120;

/** Kept when every sentence was, broken when one was; null where some could not be told. */
const verdictOf = (judgements: readonly Judgement[]): boolean | null =>
  judgements.some(({ verdict }) => verdict === 'broken')
    ? false
    : judgements.length > 0 && judgements.every(({ verdict }) => verdict === 'holds')
      ? true
      : null;

/** The scripts of one work, by version. */
interface Texts {
  of: (version: number | null) => string;
  /** Versions of the same steps have one number. */
  shape: (version: number | null) => number;
}

function textsOf(rows: readonly { version: number; text: string }[]): Texts {
  const texts = new Map(rows.map(({ version, text }) => [version, text]));
  const shapes = new Map<string, number>();
  const known = new Map<number, number>();
  const of = (version: number | null) => (version === null ? '' : (texts.get(version) ?? ''));
  return {
    of,
    shape: (version) => {
      const key = version ?? -1;
      const found = known.get(key);
      if (found !== undefined) return found;
      const skeleton = skeletonOf(of(version));
      const shape = shapes.get(skeleton) ?? shapes.size;
      shapes.set(skeleton, shape);
      known.set(key, shape);
      return shape;
    },
  };
}

interface Row {
  work_id: number;
  id: number;
  script_version: number;
  knobs: TrialKnob[] | null;
  at: Date;
}

type TryRow = Row & { judgements: Judgement[]; results: Results; past_mm: number | null };
type ProofRow = Row & { proof: Proof };
type FloorRow = Omit<Row, 'script_version'> &
  Measured & { script_version: number | null; step_id: string | null; changed: string };

/** The rows of one work that a walk is made of. */
interface Rows {
  tries: readonly TryRow[];
  proofs: readonly ProofRow[];
  floor: readonly FloorRow[];
  texts: Texts;
}

/** The walk of one work in a lesson, for `walksOf`. */
function walkOfRows({ tries, proofs, floor, texts }: Rows, lesson: Lesson): Trial[] {
  const own = (row: Pick<Row, 'knobs' | 'at'> & { script_version: number | null }) => ({
    at: ms(row.at),
    version: row.script_version,
    knobs: row.knobs ?? trialKnobs(texts.of(row.script_version), null),
    shape: texts.shape(row.script_version),
  });
  let before: { version: number | null; knobs: TrialKnob[] } | null = null;
  const driven = floor.map((row): Trial => {
    const fields = trialFields(row);
    const base = own(row);
    const stays = before && before.version === row.script_version ? before.knobs : null;
    const knobs = row.knobs ?? floorKnobs(texts.of(row.script_version), null, stays, {}, row.changed);
    before = { version: row.script_version, knobs };
    return {
      ...base,
      id: `floor ${row.id}`,
      source: 'floor',
      knobs,
      results: resultsOfTrial(fields),
      kept: verdictOf(judgeTrial(lessonOnFloor(lesson, row.step_id), fields)),
      runs: 1,
      said: row.changed,
    };
  });
  const all: Trial[] = [
    ...tries.map((row): Trial => ({
      ...own(row),
      id: `try ${row.id}`,
      source: 'try',
      results: row.past_mm === null ? row.results : { past: row.past_mm, ...row.results },
      kept: verdictOf(row.judgements),
      runs: 1,
      said: '',
    })),
    ...proofs.map((row): Trial => {
      const { runs, passes, verdict } = row.proof;
      return {
        ...own(row),
        id: `proof ${row.id}`,
        source: 'proof',
        results: runs > 0 ? { 'pass rate': (100 * passes) / runs } : {},
        kept: verdict === 'proved' ? true : verdict === 'fails' ? false : null,
        runs,
        said: '',
      };
    }),
    ...driven,
  ];
  return all.sort((a, b) => a.at - b.at);
}

/**
 * Every try, proof and trial of the floor of some works, oldest first, with its numbers and what came out: four statements however many
 * works. What was tried before numbers were kept has those that its script says; a threshold that was decided then cannot be told any more.
 */
export async function walksOf(
  db: Queries,
  works: readonly { work: number; lesson: Lesson }[],
): Promise<Map<number, Trial[]>> {
  const ids = works.map(({ work }) => work);
  const newest = async <R extends { work_id: number }>(
    table: string,
    columns: string,
    when: string,
    where = '',
  ): Promise<(work: number) => readonly R[]> => {
    const rows = await db.query<R>(
      `select * from (select work_id, id, script_version, knobs, ${when} as at, ${columns},
                             row_number() over (partition by work_id order by ${when} desc, id desc) as recent
                        from ${table} where work_id = any($1::int[]) ${where}) as numbered
        where recent <= ${MOST} order by at, id`,
      [ids],
    );
    const groups = grouped(rows, ({ work_id }) => work_id);
    return (work) => groups.get(work) ?? [];
  };
  const tries = await newest<TryRow>('tries', 'judgements, results, past_mm', 'tried_at');
  const proofs = await newest<ProofRow>('proofs', 'proof', 'proved_at');
  const floor = await newest<FloorRow>(
    'floor_trials',
    'past_mm, gap_mm, turned_deg, counted, took_s, rested, seen, step_id, changed',
    'tried_at',
    'and removed_at is null',
  );
  const scripts = grouped(
    await db.query<{ work_id: number; version: number; text: string }>(
      'select work_id, version, text from script_versions where work_id = any($1::int[])',
      [ids],
    ),
    ({ work_id }) => work_id,
  );
  return new Map(
    works.map(({ work, lesson }) => [
      work,
      walkOfRows(
        {
          tries: tries(work),
          proofs: proofs(work),
          floor: floor(work),
          texts: textsOf(scripts.get(work) ?? []),
        },
        lesson,
      ),
    ]),
  );
}

/** The numbers of the trial before on the floor of a work, of the same version of its script; null for the first of it. */
export async function floorBefore(
  db: Queries,
  work: number,
  version: number | null,
): Promise<TrialKnob[] | null> {
  const [row] = await db.query<{ knobs: TrialKnob[] | null }>(
    `select knobs from floor_trials where work_id = $1 and script_version is not distinct from $2 and removed_at is null
      order by tried_at desc, id desc limit 1`,
    [work, version],
  );
  return row?.knobs ?? null;
}
