import type { Recording, StoredSet } from '@vigilum/core/classroom';
import type { Look, Reading, Rgb, SensorKind } from '@vigilum/core/sensing';
import type { Queries } from '../db/database.ts';

/** Looks as one row of numbers: three a look for rgb, a gap as three gaps. */
export function flat(looks: readonly Look[], kind: SensorKind): { channels: 1 | 3; readings: Reading[] } {
  if (kind !== 'rgb')
    return { channels: 1, readings: looks.map((look) => (typeof look === 'number' ? look : null)) };
  return {
    channels: 3,
    readings: looks.flatMap((look): Reading[] =>
      look !== null && typeof look === 'object' ? [...look] : [null, null, null],
    ),
  };
}

export interface SetRow {
  id: number;
  robot_id: number;
  socket: string;
  kind: SensorKind;
  surface: string;
  readings: Reading[];
  channels: number;
  truth: number | null;
  light_note: string;
  taken_at: Date;
}

export const setColumns =
  'id, robot_id, socket, kind, surface, readings, channels, truth, light_note, taken_at';

/** A row as the pages know it: brightness for rgb, with the looks themselves beside it. */
export function setOf(row: SetRow): StoredSet {
  const common = {
    id: row.id,
    socket: row.socket,
    kind: row.kind,
    surface: row.surface,
    truth: row.truth,
    lightNote: row.light_note,
    at: row.taken_at.getTime(),
  };
  if (row.channels === 1) return { ...common, values: row.readings };
  const rgb: Rgb[] = [];
  for (let i = 0; i + 2 < row.readings.length; i += 3) {
    const [r, g, b] = [row.readings[i], row.readings[i + 1], row.readings[i + 2]];
    if (typeof r === 'number' && typeof g === 'number' && typeof b === 'number') rgb.push([r, g, b]);
  }
  return { ...common, values: rgb.map(([r, g, b]) => (r + g + b) / 3), rgb };
}

/** The newest set of each surface and true value on every socket of a robot. */
export async function readSets(db: Queries, robot: number): Promise<StoredSet[]> {
  const rows = await db.query<SetRow>(
    `select distinct on (socket, kind, surface, truth) ${setColumns} from sample_sets
      where robot_id = $1 and removed_at is null
      order by socket, kind, surface, truth, taken_at desc, id desc`,
    [robot],
  );
  return rows.map(setOf).sort((a, b) => a.at - b.at);
}

/** The newest recordings of a robot, at most ten. */
export async function readRecordings(db: Queries, robot: number): Promise<Recording[]> {
  const rows = await db.query<{
    id: number;
    socket: string;
    kind: SensorKind;
    purpose: 'sweep' | 'touch';
    period_ms: number;
    readings: Reading[];
    taken_at: Date;
  }>(
    `select id, socket, kind, purpose, period_ms, readings, taken_at from recordings
      where robot_id = $1 and removed_at is null order by taken_at desc, id desc limit 10`,
    [robot],
  );
  return rows.map(({ period_ms, readings, taken_at, ...row }) => ({
    ...row,
    periodMs: period_ms,
    values: readings,
    at: taken_at.getTime(),
  }));
}
