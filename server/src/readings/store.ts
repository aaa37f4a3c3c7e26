import type { QuickLooks, Recording, StoredSet } from '@vigilum/core/classroom';
import {
  asNumber,
  summarise,
  thinned,
  type Sample,
  type Reading,
  type Rgb,
  type SensorKind,
  type Summary,
} from '@vigilum/core/sensing';
import type { Queries } from '../db/database.ts';
import { one } from '../db/database.ts';

/** Looks of one set that pages and boards are given; of longer ones an even sample, with the figures of the whole. */
export const SAMPLES_SHOWN = 60;
/** Looks of a sweep, and of a bumper's record, that come with a team's page. */
export const SWEEP_SHOWN = 240;
export const TOUCH_SHOWN = 2000;

/** Samples as one row of numbers: three a sample for rgb, a gap as three gaps. */
export function flat(samples: readonly Sample[], kind: SensorKind): { channels: 1 | 3; readings: Reading[] } {
  if (kind !== 'rgb')
    return { channels: 1, readings: samples.map((one) => (typeof one === 'number' ? one : null)) };
  return {
    channels: 3,
    readings: samples.flatMap((one): Reading[] =>
      one !== null && typeof one === 'object' ? [...one] : [null, null, null],
    ),
  };
}

/** A row of numbers as samples; a gap in any channel of rgb is a gap. */
export function samplesOf(readings: readonly Reading[], channels: number): Sample[] {
  if (channels === 1) return [...readings];
  const samples: (Rgb | null)[] = [];
  for (let i = 0; i + 2 < readings.length; i += 3) {
    const [r, g, b] = [readings[i], readings[i + 1], readings[i + 2]];
    samples.push(typeof r === 'number' && typeof g === 'number' && typeof b === 'number' ? [r, g, b] : null);
  }
  return samples;
}

/** What is stored beside a long set: figures of its brightness and an even sample; null for one that is short enough. */
export function sampleOf(
  readings: readonly Reading[],
  channels: number,
  kind: SensorKind,
): { figures: Summary; sample: Reading[] } | null {
  const samples = samplesOf(readings, channels);
  if (samples.length <= SAMPLES_SHOWN) return null;
  return {
    figures: summarise(samples.map(asNumber)),
    sample: flat(thinned(samples, SAMPLES_SHOWN), kind).readings,
  };
}

export interface SetRow {
  id: number;
  robot_id: number;
  socket: string;
  kind: SensorKind;
  surface: string;
  readings: Reading[];
  /** Figures of the whole set, where `readings` is its sample. */
  figures: Summary | null;
  channels: number;
  truth: number | null;
  light_note: string;
  taken_at: Date;
}

const common = 'id, robot_id, socket, kind, surface, channels, truth, light_note, taken_at';
/** A set as pages and boards read it: long ones by their sample. */
export const setColumns = `${common}, coalesce(sample, readings) as readings, figures`;
/** A set with all its samples. */
export const wholeSetColumns = `${common}, readings, null::jsonb as figures`;

/** A row as the pages know it: brightness for rgb, with the samples themselves beside it, gap for gap. */
export function setOf(row: SetRow): StoredSet {
  const samples = samplesOf(row.readings, row.channels);
  return {
    id: row.id,
    socket: row.socket,
    kind: row.kind,
    surface: row.surface,
    truth: row.truth,
    lightNote: row.light_note,
    at: row.taken_at.getTime(),
    values: samples.map(asNumber),
    ...(row.channels === 1 ? {} : { rgb: samples as (Rgb | null)[] }),
    ...(row.figures ? { of: row.figures } : {}),
  };
}

/** A set with at most so many samples; the figures of the whole stay beside them. */
export function shortened(set: StoredSet, most: number): StoredSet {
  if (set.values.length <= most) return set;
  return {
    ...set,
    values: thinned(set.values, most),
    ...(set.rgb ? { rgb: thinned(set.rgb, most) } : {}),
    of: set.of ?? summarise(set.values),
  };
}

/** Works out figures and samples of long sets that were stored before there were any. */
export async function sampleOldSets(db: Queries): Promise<void> {
  for (;;) {
    const rows = await db.query<{ id: number; kind: SensorKind; channels: number; readings: Reading[] }>(
      `select id, kind, channels, readings from sample_sets
        where figures is null and cardinality(readings) > $1 * channels order by id limit 50`,
      [SAMPLES_SHOWN],
    );
    if (rows.length === 0) return;
    for (const { id, kind, channels, readings } of rows) {
      const { figures, sample } = sampleOf(readings, channels, kind)!;
      await db.query(
        'update sample_sets set figures = $2::jsonb, sample = $3::double precision[] where id = $1',
        [id, JSON.stringify(figures), sample],
      );
    }
  }
}

/** SQL for rows that a team may see, $2: of its own works, or read off the robot for nobody; all where $2 is null. */
const seenByTeam =
  '($2::int is null or work_id is null or work_id in (select id from works where team_id = $2))';

/** The newest set of each surface and true value on every socket of a robot, the newest 200: all, or what one team may see. */
export async function readSets(db: Queries, robot: number, team: number | null): Promise<StoredSet[]> {
  const rows = await db.query<SetRow>(
    `select * from (
       select distinct on (socket, kind, surface, truth) ${setColumns} from sample_sets
        where robot_id = $1 and removed_at is null and ${seenByTeam}
        order by socket, kind, surface, truth, taken_at desc, id desc) as newest
      order by taken_at desc, id desc limit 200`,
    [robot, team],
  );
  return rows.map(setOf).sort((a, b) => a.at - b.at);
}

export interface RecordingRow {
  id: number;
  robot_id: number;
  socket: string;
  kind: SensorKind;
  purpose: 'sweep' | 'touch';
  period_ms: number;
  readings: Reading[];
  taken_at: Date;
}
export const recordingColumns = 'id, robot_id, socket, kind, purpose, period_ms, readings, taken_at';

export const recordingOf = ({ id, socket, kind, purpose, ...row }: RecordingRow): Recording => ({
  id,
  socket,
  kind,
  purpose,
  periodMs: row.period_ms,
  values: row.readings,
  at: row.taken_at.getTime(),
});

/** A recording as pages are given it: every k-th sample where it is long, and then how many there are. */
export interface ShownRecordingRow extends RecordingRow {
  of: number;
  work_id: number;
}

/**
 * Recordings cut down where they lie: of a long one every k-th sample leaves the database, and
 * the period is k times as long. `rows` is a query that gives whole rows of `recordings`.
 */
export const shownRecordings = (rows: string): string => `
  select id, robot_id, work_id, socket, kind, purpose, taken_at, period_ms * k as period_ms, cardinality(readings) as of,
         case when k = 1 then readings
              else (select array_agg(value order by n) from unnest(readings) with ordinality as u(value, n)
                     where (n - 1) % k = 0) end as readings
    from (select r.*, greatest(1, ceil(cardinality(readings)
                 / (case purpose when 'touch' then ${TOUCH_SHOWN} else ${SWEEP_SHOWN} end)::float8))::int as k
            from (${rows}) as r) as long`;

/** A row of `shownRecordings` as the pages know it. */
export const shownRecording = ({ of, ...row }: ShownRecordingRow): Recording => ({
  ...recordingOf(row),
  ...(row.readings.length < of ? { of } : {}),
});

/** The newest recordings of a robot, at most ten, long ones as every k-th sample: all, or what one team may see. */
export async function readRecordings(db: Queries, robot: number, team: number | null): Promise<Recording[]> {
  const rows = await db.query<ShownRecordingRow>(
    `${shownRecordings(
      `select * from recordings where robot_id = $1 and removed_at is null and ${seenByTeam} order by taken_at desc, id desc limit 10`,
    )} order by taken_at desc, id desc`,
    [robot, team],
  );
  return rows.map(shownRecording);
}

/** Stores quick looks at a surface. */
export async function addQuickLooks(
  db: Queries,
  robot: number,
  work: number | null,
  { socket, surface, values }: { socket: string; surface: string; values: Reading[] },
  at: Date,
): Promise<{ id: number; looks: QuickLooks }> {
  const { id } = await one<{ id: number }>(
    db,
    `insert into quick_looks (robot_id, work_id, socket, surface, readings, taken_at)
     values ($1, $6, $2, $3, $4::double precision[], $5) returning id`,
    [robot, socket, surface, values, at.toISOString(), work],
  );
  return { id, looks: { surface, values, at: at.getTime() } };
}
