import { median } from 'simple-statistics';
import { stepsOf } from '../lesson/index.ts';
import { formatNumber } from '../quantity/index.ts';
import { bySocket } from '../sensing/index.ts';
import { gradeSeparation, judgeThreshold, MISREADS_POOR, separation } from '../threshold/index.ts';
import { pairOfRecord, staleVerdicts, wantedIn, watched } from './known.ts';
import { recordAt, type TeamInLesson } from './standing.ts';

/** One team's threshold beside the others'. Readings in the sensor's unit. */
export interface ThresholdRow {
  team: string;
  robot: string;
  low: number | null;
  high: number | null;
  value: number | null;
  leave: number | null;
  method: string;
  /** Expected misreads in a thousand looks on the worse side; null where it cannot be told. */
  misreads: number | null;
  /** Light shift survived, points. */
  lightShift: number | null;
  /** d′ of the two surfaces. */
  apart: number | null;
  /** When its readings were taken, ms since the epoch: the older of the two sets. */
  readAt: number | null;
  /** What stands out, the gravest first; empty when nothing does. */
  remarks: { grade: 'fault' | 'risk'; says: string }[];
}

export interface ThresholdTable {
  unit: string;
  lowName: string;
  highName: string;
  rows: ThresholdRow[];
  median: number | null;
}

/** Readings older than this are called old, minutes. */
export const OLD_MIN = 45;

/**
 * The thresholds of a class: who differs (more than 2.5 robust sds, 1.4826 × MAD, from the median, as Leys et
 * al. 2013 advise, cited from memory; and at least four points), who is poor and who is stale. `now` in ms since the epoch.
 */
export function thresholdTable(all: readonly TeamInLesson[], now: number): ThresholdTable {
  const teams = all.map(({ record: whole, ...team }) => {
    const decides = stepsOf(whole.lesson).find(({ kind }) => kind === 'decide');
    const record = decides ? recordAt(whole, decides) : whole;
    return {
      ...team,
      record,
      threshold: bySocket(team.sensors, record.lesson.need.socket)?.threshold ?? null,
    };
  });
  const first = teams[0]?.record;
  const levels = teams.flatMap(({ threshold }) =>
    threshold && threshold.compare !== 'change' ? [threshold.value] : [],
  );
  const middle = levels.length > 0 ? median(levels) : null;
  const spread =
    middle === null ? 0 : Math.max(4, 2.5 * 1.4826 * median(levels.map((value) => Math.abs(value - middle))));
  const pairs = teams.map(({ record }) => pairOfRecord(record));
  const named = pairs.find((pair) => pair !== null);
  return {
    unit: named?.unit ?? (first ? watched(first)?.unit : undefined) ?? '%',
    lowName: named?.low.name ?? first?.lesson.read.tasks[0]?.surface ?? '',
    highName: named?.high.name ?? first?.lesson.read.tasks[1]?.surface ?? '',
    median: middle,
    rows: teams.map(({ team, robot, record, threshold }, i): ThresholdRow => {
      const pair = pairs[i] ?? null;
      const safety =
        pair && threshold && threshold.compare !== 'change'
          ? judgeThreshold(threshold.value, pair, wantedIn(record, pair))
          : null;
      const misreads = safety && Math.max(safety.misreadsLow, safety.misreadsHigh);
      const apart = pair && separation(pair);
      const own = record.sets.filter((set) =>
        record.lesson.read.tasks.some((t) => t.surface === set.surface),
      );
      const readAt = own.length > 0 ? Math.min(...own.map((set) => set.at)) : null;
      const remarks: ThresholdRow['remarks'] = [];
      const say = (grade: 'fault' | 'risk', says: string) => remarks.push({ grade, says });
      if (apart !== null && gradeSeparation(apart) === 'poor') say('fault', 'surfaces too close');
      if (misreads !== null && misreads >= MISREADS_POOR)
        say('fault', `${formatNumber(misreads, 0)} misreads in 1000`);
      const stale = staleVerdicts(record).some(({ verdict }) => verdict === 'read again');
      if (stale) say('fault', 'stale: the light has changed');
      else if (readAt !== null && now - readAt > OLD_MIN * 60_000)
        say('risk', `readings ${formatNumber((now - readAt) / 60_000, 0)} min old`);
      if (
        middle !== null &&
        threshold &&
        threshold.compare !== 'change' &&
        levels.length > 2 &&
        Math.abs(threshold.value - middle) > spread
      )
        say('risk', `${formatNumber(Math.abs(threshold.value - middle))} from the class’s middle`);
      return {
        team: team.name,
        robot: robot.name,
        low: pair?.low.mean ?? null,
        high: pair?.high.mean ?? null,
        value: threshold?.value ?? null,
        leave: threshold?.leave ?? null,
        method: threshold?.method ?? '',
        misreads,
        lightShift: safety?.lightShift ?? null,
        apart,
        readAt,
        remarks,
      };
    }),
  };
}
