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
import { ms } from '../classes/rows.ts';
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

interface Texts {
  of: (version: number | null) => string;
  /** Versions of the same steps have one number. */
  shape: (version: number | null) => number;
}

/** The versions of a work's script that some trials ran. */
async function textsOf(db: Queries, work: number, versions: readonly number[]): Promise<Texts> {
  const rows = await db.query<{ version: number; text: string }>(
    'select version, text from script_versions where work_id = $1 and version = any($2::int[])',
    [work, [...new Set(versions)]],
  );
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
  id: number;
  script_version: number;
  knobs: TrialKnob[] | null;
  at: Date;
}

/**
 * Every try, proof and trial of the floor of a work, oldest first, with its numbers and what came out. What was tried before
 * numbers were kept has those that its script says; a threshold that was decided then cannot be told any more.
 */
export async function walkTrials(db: Queries, work: number, lesson: Lesson): Promise<Trial[]> {
  const newest = (table: string, columns: string, when: string, where = '') =>
    `select * from (select id, script_version, knobs, ${when} as at, ${columns} from ${table}
                     where work_id = $1 ${where} order by ${when} desc, id desc limit ${MOST}) as newest order by at, id`;
  const tries = await db.query<Row & { judgements: Judgement[]; results: Results; past_mm: number | null }>(
    newest('tries', 'judgements, results, past_mm', 'tried_at'),
    [work],
  );
  const proofs = await db.query<Row & { proof: Proof }>(newest('proofs', 'proof', 'proved_at'), [work]);
  const floor = await db.query<
    Omit<Row, 'script_version'> &
      Measured & {
        script_version: number | null;
        step_id: string | null;
        changed: string;
      }
  >(
    newest(
      'floor_trials',
      'past_mm, gap_mm, turned_deg, counted, took_s, rested, seen, step_id, changed',
      'tried_at',
      'and removed_at is null',
    ),
    [work],
  );
  const texts = await textsOf(
    db,
    work,
    [...tries, ...proofs, ...floor].flatMap(({ script_version }) => script_version ?? []),
  );
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
