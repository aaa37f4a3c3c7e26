import type { StoredSensor, StoredSet } from '@vigilum/core/classroom';
import type { Reading, SensorNeed } from '@vigilum/core/sensing';
import type { Compare } from '@vigilum/core/threshold';
import type { Queries } from '../db/database.ts';
import {
  SAMPLES_SHOWN,
  setColumns,
  setOf,
  shortened,
  shownRecording,
  shownRecordings,
  type ShownRecordingRow,
  type SetRow,
} from '../readings/store.ts';
import { grouped, ms } from './rows.ts';

/** Sets of a team’s robot that are shown: those of the lesson first, then the newest. */
const SETS_SHOWN = 24;
/** Looks of all of them together: what was imported makes no page heavier than this. */
const SAMPLES_TOGETHER = 600;
/** Each keeps at least so many. */
const SAMPLES_AT_LEAST = 12;

/** The sets of all sensors of one team, as many and as long as its page can take. */
function bounded(sets: readonly StoredSet[], lessons: ReadonlySet<string>): StoredSet[] {
  const first = (set: StoredSet) => (lessons.has(set.surface) ? 0 : 1);
  const kept = [...sets]
    .sort((a, b) => first(a) - first(b) || b.at - a.at || b.id - a.id)
    .slice(0, SETS_SHOWN);
  const total = kept.reduce((sum, { values }) => sum + values.length, 0);
  if (total <= SAMPLES_TOGETHER) return kept;
  const most = Math.min(
    SAMPLES_SHOWN,
    Math.max(SAMPLES_AT_LEAST, Math.floor(SAMPLES_TOGETHER / kept.length)),
  );
  return kept.map((set) => shortened(set, most));
}

/** A robot that reads for a work; null where nothing was begun yet. Checks of its plugs count from when the work began. */
export interface ReadsFor {
  robot: number;
  work: number | null;
  since: Date | null;
}

/**
 * What is stored of every sensor that a lesson takes, for several robots at once, each asked with its own sockets: newest checks of the
 * robot, and sets, looks, thresholds and recordings of the work. `surfaces` are those that the lesson reads: their sets come before others.
 */
export async function loadSensors(
  db: Queries,
  readers: readonly ReadsFor[],
  needs: readonly SensorNeed[],
  surfaces: readonly string[],
): Promise<(robot: number, work: number | null, own: readonly SensorNeed[]) => Record<string, StoredSensor>> {
  const robots = readers.map(({ robot }) => robot);
  const sockets = [...new Set(needs.map(({ socket }) => socket))];
  const who = [robots, sockets, readers.flatMap(({ work }) => work ?? [])];
  const checks = await db.query<{ robot_id: number; socket: string; reacts: boolean; checked_at: Date }>(
    `select distinct on (c.robot_id, c.socket) c.robot_id, c.socket, c.reacts, c.checked_at
       from wire_checks c
       join unnest($1::int[], $3::timestamptz[]) as r(robot, since) on r.robot = c.robot_id
      where c.socket = any($2::text[]) and (r.since is null or c.checked_at >= r.since)
      order by c.robot_id, c.socket, c.checked_at desc, c.id desc`,
    [robots, sockets, readers.map(({ since }) => since?.toISOString() ?? null)],
  );
  const sets = await db.query<SetRow & { work_id: number }>(
    `select distinct on (robot_id, work_id, socket, kind, surface, truth) work_id, ${setColumns} from sample_sets
      where robot_id = any($1::int[]) and socket = any($2::text[]) and work_id = any($3::int[]) and removed_at is null
      order by robot_id, work_id, socket, kind, surface, truth, taken_at desc, id desc`,
    who,
  );
  const recordings = await db.query<ShownRecordingRow>(
    shownRecordings(
      `select distinct on (robot_id, work_id, socket, kind, purpose) * from recordings
        where robot_id = any($1::int[]) and socket = any($2::text[]) and work_id = any($3::int[]) and removed_at is null
        order by robot_id, work_id, socket, kind, purpose, taken_at desc, id desc`,
    ),
    who,
  );
  const quick = await db.query<{
    robot_id: number;
    work_id: number;
    socket: string;
    surface: string;
    readings: Reading[];
    taken_at: Date;
  }>(
    `select distinct on (robot_id, work_id, socket, surface) robot_id, work_id, socket, surface, readings, taken_at from quick_looks
      where robot_id = any($1::int[]) and socket = any($2::text[]) and work_id = any($3::int[])
      order by robot_id, work_id, socket, surface, taken_at desc, id desc`,
    who,
  );
  const thresholds = await db.query<{
    id: number;
    robot_id: number;
    work_id: number;
    socket: string;
    value: number;
    method: string;
    compare: Compare;
    leave_value: number | null;
    reason: string;
    decided_at: Date;
  }>(
    `select distinct on (robot_id, work_id, socket) id, robot_id, work_id, socket, value, method, compare, leave_value, reason, decided_at
       from thresholds where robot_id = any($1::int[]) and socket = any($2::text[]) and work_id = any($3::int[])
      order by robot_id, work_id, socket, decided_at desc, id desc`,
    who,
  );

  const at = (row: { robot_id: number; work_id: number; socket: string }) =>
    `${row.robot_id} ${row.work_id} ${row.socket}`;
  const checkOf = grouped(checks, (row) => `${row.robot_id} ${row.socket}`);
  const setsOf = grouped(sets, at);
  const recordingsOf = grouped(recordings, at);
  const quickOf = grouped(quick, at);
  const thresholdOf = grouped(thresholds, at);

  const stored = (robot: number, work: number | null, { socket, kind }: SensorNeed): StoredSensor => {
    const key = `${robot} ${work ?? ''} ${socket}`;
    const check = checkOf.get(`${robot} ${socket}`)?.[0];
    const decided = thresholdOf.get(key)?.[0];
    const recorded = (purpose: 'sweep' | 'touch') => {
      const row = recordingsOf
        .get(key)
        ?.find((recording) => recording.purpose === purpose && recording.kind === kind);
      if (!row) return null;
      const { socket: _socket, kind: _kind, purpose: _purpose, ...sweep } = shownRecording(row);
      return sweep;
    };
    return {
      wireCheck: check ? { reacts: check.reacts, at: ms(check.checked_at) } : null,
      // Readings count only while the sensor is set as the lesson needs it.
      sets: (setsOf.get(key) ?? []).filter((set) => set.kind === kind).map(setOf),
      quickLooks: (quickOf.get(key) ?? []).map(({ surface, readings, taken_at }) => ({
        surface,
        values: readings,
        at: ms(taken_at),
      })),
      threshold: decided
        ? {
            id: decided.id,
            value: decided.value,
            method: decided.method,
            compare: decided.compare,
            leave: decided.leave_value,
            reason: decided.reason,
            at: ms(decided.decided_at),
          }
        : null,
      sweep: recorded('sweep'),
      touch: recorded('touch'),
    };
  };
  const lessons = new Set(surfaces);
  return (robot, work, own) => {
    const mine = own.map((need) => [need.socket, stored(robot, work, need)] as const);
    const all = mine.flatMap(([, { sets }]) => sets);
    const byId = new Map(bounded(all, lessons).map((set) => [set.id, set]));
    return Object.fromEntries(
      mine.map(([socket, sensor]) => [
        socket,
        { ...sensor, sets: sensor.sets.flatMap(({ id }) => byId.get(id) ?? []) },
      ]),
    );
  };
}
