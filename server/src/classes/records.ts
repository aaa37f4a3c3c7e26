import {
  EDGE,
  withRecord,
  type SavedScript,
  type StoredTrial,
  type TeamInLesson,
  type TeamRecord,
} from '@vigilum/core/classroom';
import { plannedLesson, type HourPlan } from '@vigilum/core/hour';
import type { Answers, Judgement, Proof } from '@vigilum/core/expect';
import {
  forRobot,
  judgeTrial,
  lessonOnFloor,
  needsOfLesson,
  variantOf,
  type Lesson,
  type TrialFields,
  type TwistValues,
} from '@vigilum/core/lesson';
import { driveSpeed } from '@vigilum/core/script';
import type { Kit, RobotBuild } from '@vigilum/core/sensing';
import type { Queries } from '../db/database.ts';
import { grouped, ms } from './rows.ts';
import { loadSensors } from './sensors.ts';
import { firstHour } from './works.ts';

export interface LessonRow {
  id: number;
  lesson: Lesson;
  /** Taken off the list; what was done in it stays. */
  removed?: boolean;
}

export async function lessonBySlug(db: Queries, slug: string): Promise<LessonRow | null> {
  const [row] = await db.query<{ id: number; definition: Lesson; removed: boolean }>(
    'select id, definition, removed_at is not null as removed from lessons where slug = $1',
    [slug],
  );
  return row ? { id: row.id, lesson: row.definition, removed: row.removed } : null;
}

/** Every surface that some step of a lesson reads, and the edge between them. */
const surfacesOf = (lesson: Lesson): string[] => [
  EDGE,
  ...[lesson.read.tasks, ...(lesson.steps ?? []).map(({ part }) => part?.tasks ?? [])]
    .flat()
    .map(({ surface }) => surface),
];

/** The newest version of each team’s script, with the version since which the program is the same. */
export const scriptOf = (row: ScriptRow): SavedScript => ({
  version: row.version,
  sameSince: row.same_since ?? row.version,
  text: row.text,
  at: ms(row.saved_at),
});
export interface ScriptRow {
  version: number;
  same_since: number | null;
  text: string;
  saved_at: Date;
}

export interface TrialRow {
  id: number;
  script_version: number | null;
  past_mm: number | null;
  gap_mm: number | null;
  turned_deg: number | null;
  counted: number | null;
  changed: string;
  /** The script it ran; null for none. */
  text: string | null;
  rested: boolean | null;
  took_s: number | null;
  seen: Answers;
  step_id: string | null;
  note: string;
  tried_at: Date;
}
/** Columns and tables of floor trials, for a where clause to follow; the trials are `f`. */
export const trialColumns = `f.id, f.script_version, f.past_mm, f.gap_mm, f.turned_deg, f.counted, f.changed, f.rested, f.took_s,
            f.seen, f.step_id, f.note, f.tried_at, v.text
       from floor_trials f
       left join script_versions v on v.work_id = f.work_id and v.version = f.script_version`;

/** What was measured and seen of a trial, as the core reads it. */
export type Measured = Pick<
  TrialRow,
  'past_mm' | 'gap_mm' | 'turned_deg' | 'counted' | 'rested' | 'took_s' | 'seen'
>;
export const trialFields = (row: Measured): TrialFields => ({
  pastMm: row.past_mm,
  gapMm: row.gap_mm,
  turnedDeg: row.turned_deg,
  counted: row.counted,
  rested: row.rested,
  tookS: row.took_s,
  seen: row.seen,
});

/** A floor trial as pages know it, judged by the sentences of the step in which it was driven. */
export function trialOf(row: TrialRow, lesson: Lesson): StoredTrial {
  const fields = trialFields(row);
  return {
    ...fields,
    id: row.id,
    scriptVersion: row.script_version,
    step: row.step_id,
    changed: row.changed,
    speedPercent: row.text === null ? null : driveSpeed(row.text),
    note: row.note,
    judgements: judgeTrial(lessonOnFloor(lesson, row.step_id), fields),
    at: ms(row.tried_at),
  };
}

/** Whose hours are asked for: what a lesson’s hours are at a moment, or those that go on from one hour. */
export type WhichHours = { at: Date } | { first: number | null };

/**
 * Loads several teams in one lesson, each in its own twist of it, with what they did in the hours that are asked for: as many
 * statements however many teams. Unknown ids are left out.
 */
export async function loadTeams(
  db: Queries,
  teamIds: readonly number[],
  { id: lessonId, lesson: base }: LessonRow,
  hours: WhichHours,
): Promise<(TeamInLesson & { work: number | null })[]> {
  const ids = [...teamIds];
  const first = 'at' in hours ? firstHour('t.class_id', '$2::int', '$3::timestamptz') : '$3::int';
  const teams = await db.query<{
    id: number;
    name: string;
    robot_id: number;
    robot: string;
    build: RobotBuild;
    stand_in: boolean;
    kit: Kit;
    braking: TeamRecord['braking'];
    work: number | null;
    first: number | null;
    began: Date | null;
    plan: HourPlan | null;
  }>(
    `select t.*, w.id as work, p.starts_at as began, p.plan
       from (select t.id, t.name, r.id as robot_id, r.name as robot, r.build, r.stand_in is not null as stand_in, r.braking,
                    k.definition as kit, ${first} as first
               from teams t join robots r on r.id = t.robot_id join kits k on k.id = r.kit_id
              where t.id = any($1::int[])) as t
       left join works w on w.team_id = t.id and w.lesson_id = $2 and w.first_period_id is not distinct from t.first
       left join periods p on p.id = t.first
      order by array_position($1::int[], t.id)`,
    [ids, lessonId, 'at' in hours ? hours.at.toISOString() : hours.first],
  );
  const works = teams.flatMap(({ work }) => work ?? []);
  const variants = await db.query<{ team_id: number; twist_values: TwistValues; level: number }>(
    'select team_id, twist_values, level from lesson_variants where lesson_id = $2 and team_id = any($1::int[])',
    [ids, lessonId],
  );
  const variantRow = new Map(variants.map((row) => [row.team_id, row]));
  // Each team in its own twist, with the sockets of its robot's kit, as the hour changes its steps.
  const lessonOf = new Map(
    teams.map(({ id, kit, build, plan }) => [
      id,
      plannedLesson(forRobot(variantOf(base, variantRow.get(id)?.twist_values), kit, build), plan ?? {}),
    ]),
  );
  const needs = [...lessonOf.values()].flatMap(needsOfLesson);
  const surfaces = [...lessonOf.values()].flatMap(surfacesOf);
  const sensors = await loadSensors(
    db,
    teams.map(({ robot_id, work, began }) => ({ robot: robot_id, work, since: began })),
    needs,
    [...new Set(surfaces)],
  );
  const scripts = await db.query<ScriptRow & { work_id: number }>(
    `select distinct on (work_id) work_id, version, same_since, text, saved_at from script_versions
      where work_id = any($1::int[]) order by work_id, version desc`,
    [works],
  );
  const tries = await db.query<{
    id: number;
    work_id: number;
    script_version: number;
    start_name: string;
    seed: number;
    judgements: Judgement[];
    past_mm: number | null;
    tried_at: Date;
  }>(
    `select id, work_id, script_version, start_name, seed, judgements, past_mm, tried_at from
       (select *, row_number() over (partition by work_id order by tried_at desc, id desc) as recent from tries
         where work_id = any($1::int[]) and not tuned) as numbered
      where recent <= 8 order by work_id, recent`,
    [works],
  );
  const proofs = await db.query<{
    id: number;
    work_id: number;
    script_version: number;
    seed: number;
    proof: Proof;
    proved_at: Date;
  }>(
    `select distinct on (work_id) id, work_id, script_version, seed, proof, proved_at from proofs
      where work_id = any($1::int[]) order by work_id, proved_at desc, id desc`,
    [works],
  );
  const trials = await db.query<TrialRow & { work_id: number }>(
    `select f.work_id, ${trialColumns}
      where f.work_id = any($1::int[]) and f.removed_at is null order by f.tried_at, f.id`,
    [works],
  );

  const places = await db.query<{ work_id: number; step_id: string }>(
    'select work_id, step_id from lesson_places where work_id = any($1::int[])',
    [works],
  );
  const notes = await db.query<{ work_id: number; step_id: string; text: string; revision: number }>(
    'select work_id, step_id, text, revision from step_notes where work_id = any($1::int[])',
    [works],
  );
  const byWork = <Row extends { work_id: number }>(rows: readonly Row[]) => {
    const groups = grouped(rows, (row) => row.work_id);
    return (work: number | null): Row[] => (work === null ? [] : (groups.get(work) ?? []));
  };
  const notesOf = byWork(notes);
  const placeOf = byWork(places);
  const scriptsOf = byWork(scripts);
  const triesOf = byWork(tries);
  const proofOf = byWork(proofs);
  const trialsOf = byWork(trials);

  return teams.map((team) => {
    const twisted = variantRow.get(team.id);
    const lesson = lessonOf.get(team.id)!;
    const { work } = team;
    const [script] = scriptsOf(work);
    const mine = sensors(team.robot_id, work, needsOfLesson(lesson));
    const myTries = triesOf(work).map((row) => ({
      id: row.id,
      scriptVersion: row.script_version,
      start: row.start_name,
      seed: row.seed,
      judgements: row.judgements,
      pastMm: row.past_mm,
      at: ms(row.tried_at),
    }));
    const [proved] = proofOf(work);
    const proof = proved
      ? {
          id: proved.id,
          scriptVersion: proved.script_version,
          seed: proved.seed,
          proof: proved.proof,
          at: ms(proved.proved_at),
        }
      : null;
    const myTrials = trialsOf(work).map((row) => trialOf(row, lesson));
    return withRecord({
      work,
      hour: team.first === null || team.began === null ? null : { id: team.first, at: ms(team.began) },
      team: { id: team.id, name: team.name },
      robot: { id: team.robot_id, name: team.robot, standIn: team.stand_in },
      kit: team.kit,
      build: team.build,
      lesson,
      sensors: mine,
      script: script ? scriptOf(script) : null,
      tries: myTries,
      proof,
      trials: myTrials,
      braking: team.braking ?? null,
      twist: twisted ? { values: twisted.twist_values, level: twisted.level } : null,
      place: placeOf(work)[0]?.step_id ?? null,
      notes: Object.fromEntries(
        notesOf(work).map(({ step_id, text, revision }) => [step_id, { text, revision }]),
      ),
    });
  });
}
