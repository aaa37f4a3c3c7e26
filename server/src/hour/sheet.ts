import { hourSpent, hourState } from '@vigilum/core/classroom';
import {
  expectedTurns,
  hourSteps,
  plannedLesson,
  queueOf,
  waitingIn,
  type HourStep,
  type Place,
  type Visit,
} from '@vigilum/core/hour';
import { variantOf } from '@vigilum/core/lesson';
import type { HourNote, HourRun, MatTurn, SheetTeam, StuckCall } from '@vigilum/contract/types';
import { hourOf, selectPeriods, type PeriodRow } from '../classes/periods.ts';
import { grouped, ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';
import type { EvidenceRow, SheetRows } from './rows.ts';

export const runOf = (row: PeriodRow): HourRun => ({
  mats: row.mats,
  turnMin: row.turn_minutes,
  asksTick: row.asks_tick,
  stopped: row.stopped,
  told: row.told === null || row.told_at === null ? null : { says: row.told, at: ms(row.told_at) },
  plan: row.plan,
});

/** The steps of an hour as its teacher planned and changed them. */
export const stepsOfHour = ({ definition, plan }: PeriodRow): HourStep[] =>
  hourSteps(plannedLesson(variantOf(definition), plan));

/** The hour of a class that is going on; of several the latest. */
export async function goingOn(db: Queries, klass: number, at: Date): Promise<PeriodRow | null> {
  const rows = await db.query<PeriodRow>(
    `${selectPeriods} where p.class_id = $1 and p.removed_at is null and p.began_at is not null and p.ended_at is null
      order by p.starts_at desc, p.id desc limit 5`,
    [klass],
  );
  return rows.find((row) => hourState(hourOf(row), at.getTime()) !== 'ended') ?? null;
}

const minutes = (seconds: number): number => seconds / 60;

export interface TurnRow {
  id: number;
  team_id: number;
  mat: number;
  began_s: number;
  ended_s: number | null;
  ticked_at: Date | null;
}
export const turnOf = (row: TurnRow): MatTurn => ({
  id: row.id,
  team: row.team_id,
  mat: row.mat,
  beganMin: minutes(row.began_s),
  endedMin: row.ended_s === null ? null : minutes(row.ended_s),
  ticked: row.ticked_at !== null,
});
export const turnsOf = async (db: Queries, period: number): Promise<MatTurn[]> =>
  (
    await db.query<TurnRow>(
      'select id, team_id, mat, began_s, ended_s, ticked_at from mat_turns where period_id = $1 order by id',
      [period],
    )
  ).map(turnOf);

export interface NoteRow {
  id: number;
  team_id: number;
  kind: HourNote['kind'];
  says: string;
  step_id: string | null;
  at: Date;
  seen_at: Date | null;
}
export const noteColumns = 'id, team_id, kind, says, step_id, at, seen_at';
export const noteOf = (row: NoteRow): HourNote => ({
  id: row.id,
  kind: row.kind,
  says: row.says,
  step: row.step_id,
  at: ms(row.at),
  seenAt: row.seen_at && ms(row.seen_at),
});

/** What the tables of the hour hold of its teams. */
export async function hourTables(db: Queries, period: number) {
  const notes = grouped(
    await db.query<NoteRow>(
      `select ${noteColumns} from hour_notes where period_id = $1 and removed_at is null order by id desc`,
      [period],
    ),
    ({ team_id }) => team_id,
  );
  const calls = new Map(
    (
      await db.query<{ team_id: number; about: string; at: Date }>(
        'select team_id, about, at from team_calls where period_id = $1 and over_at is null',
        [period],
      )
    ).map(({ team_id, about, at }): [number, StuckCall] => [team_id, { about, at: ms(at) }]),
  );
  const visits = grouped(
    await db.query<{ work_id: number; step_id: string; hour_s: number }>(
      'select work_id, step_id, hour_s from step_visits where period_id = $1 order by id',
      [period],
    ),
    ({ work_id }) => work_id,
  );
  const pins = new Map(
    (
      await db.query<{ team_id: number; place: number }>(
        'select team_id, place from mat_pins where period_id = $1',
        [period],
      )
    ).map(({ team_id, place }) => [team_id, place]),
  );
  const turns = await turnsOf(db, period);
  return { notes, calls, visits, pins, turns };
}
export type HourTables = Awaited<ReturnType<typeof hourTables>>;

/** A team's row: what its evidence says, with what the hour holds of it. */
export function sheetTeam({ work, ...row }: EvidenceRow, tables: HourTables): SheetTeam {
  const visits = work === null ? [] : (tables.visits.get(work) ?? []);
  return {
    ...row,
    strip: row.strip.map(({ id, state, figure }) => ({ id, state, figure })),
    visits: visits.map(({ step_id, hour_s }): Visit => ({ step: step_id, atMin: minutes(hour_s) })),
    call: tables.calls.get(row.id) ?? null,
    notes: (tables.notes.get(row.id) ?? []).map(noteOf),
    pinned: tables.pins.get(row.id) ?? null,
  };
}

/** The queue for the mats of an hour, with when each turn is expected. */
export async function queueIn(
  db: Queries,
  rows: SheetRows,
  period: PeriodRow,
  at: Date,
): Promise<{ teams: SheetTeam[]; turns: MatTurn[]; queue: (Place & { fromMin: number })[] }> {
  const tables = await hourTables(db, period.id);
  const teams = (await rows.of(period)).map((row) => sheetTeam(row, tables));
  const steps = stepsOfHour(period);
  const now = hourSpent(hourOf(period), at.getTime());
  const queue = queueOf(waitingIn(steps, teams, tables.turns));
  const turns = tables.turns.filter(({ endedMin }) => endedMin === null);
  const expected =
    period.mats === 0
      ? []
      : expectedTurns(queue, { mats: period.mats, turnMin: period.turn_minutes, now, turns });
  return {
    teams,
    turns: tables.turns,
    queue: queue.map((place, i) => ({ ...place, fromMin: expected[i]?.fromMin ?? now })),
  };
}
