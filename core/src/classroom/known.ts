import { surfaceAt } from '../course/index.ts';
import { courseFacts, narrowestLine, stepsOf, type KnownRobot } from '../lesson/index.ts';
import { pointOnRobot } from '../motion/index.ts';
import { parseScript, type Finding } from '../script/index.ts';
import { review, type ReviewContext } from '../review/index.ts';
import {
  asMeasured,
  fittingOn,
  sameSocket,
  sensorOf,
  staleCheck,
  summaryOf,
  type FittedSensor,
  type SensorNeed,
  type StaleVerdict,
} from '../sensing/index.ts';
import { pairOf, type Pair, type Wanted } from '../threshold/index.ts';
import { recordAt, sensorsOf, type TeamRecord } from './standing.ts';

/** The sensor on the lesson's socket, in the mode it is set to. */
export function watched({ kit, build, lesson }: TeamRecord): FittedSensor | undefined {
  const fitting = fittingOn(build, lesson.need.socket);
  return fitting && sensorOf(kit, fitting);
}

/** The sensors that a team's robot must have: the lesson's own, and whatever else its script declares. */
export function needsOf({ lesson, script: saved }: TeamRecord): SensorNeed[] {
  const own = [lesson.need, ...(lesson.also ?? [])];
  const declared = saved ? parseScript(saved.text).sensors : [];
  const more = declared.filter(
    ({ socket }, i) =>
      !own.some((need) => sameSocket(socket, need.socket)) &&
      declared.findIndex((other) => sameSocket(other.socket, socket)) === i,
  );
  return [...own, ...more.map(({ name, kind, socket }) => ({ name, kind, socket }))];
}

/** By socket, the decided value that the script's word `threshold` stands for; a change is no level and gives none. */
export const thresholdsOf = (record: TeamRecord): Record<string, number> =>
  Object.fromEntries(
    sensorsOf(record).flatMap(([socket, { threshold }]) =>
      threshold && threshold.compare !== 'change' ? [[socket, threshold.value] as const] : [],
    ),
  );

/** A team's robot as the simulator may know it: its build, its readings, its threshold, its own braking once tried. */
export function knownRobotOf(record: TeamRecord): KnownRobot {
  const { kit, build, braking } = record;
  return {
    kit,
    build,
    sets: sensorsOf(record).flatMap(([socket, { sets }]) =>
      sets.map(({ surface, values, of }) => ({ socket, surface, values, ...(of ? { of } : {}) })),
    ),
    thresholds: thresholdsOf(record),
    ...(braking ? { braking } : {}),
  };
}

/** Mean reading over a surface; null where it was not read. */
export function meanOver(record: TeamRecord, surface: string | undefined): number | null {
  const set = record.sets.find((s) => s.surface === surface);
  return set ? summaryOf(set).mean : null;
}

/** Quick looks taken after the set they test, each with its verdict. */
export function staleVerdicts(record: TeamRecord): (StaleVerdict & { surface: string; at: number })[] {
  const spec = watched(record);
  const { tasks } = record.lesson.read;
  return tasks.flatMap(({ surface }) => {
    const set = record.sets.find((s) => s.surface === surface);
    const looks = record.quickLooks.find((q) => q.surface === surface);
    if (!set || !looks || looks.at < set.at) return [];
    const other = tasks.find((task) => task.surface !== surface)?.surface;
    const verdict = staleCheck({
      surface,
      stored: set,
      fresh: looks.values,
      threshold: thresholdsOf(record)[record.lesson.need.socket] ?? null,
      otherMean: meanOver(record, other),
      step: spec?.step ?? 1,
      unit: spec?.unit ?? '%',
    });
    return [{ ...verdict, surface, at: looks.at }];
  });
}

/** The two surfaces of a lesson as this team read them, in order; null until both are read and differ. */
export function pairOfRecord(record: TeamRecord): Pair | null {
  const { lesson } = record;
  const [a, b] = lesson.read.tasks.map((task) => record.sets.find((set) => set.surface === task.surface));
  if (!a || !b) return null;
  const spec = watched(record);
  const pair = pairOf(
    { ...a, name: a.surface },
    { ...b, name: b.surface },
    spec?.unit ?? '%',
    spec?.step ?? 1,
  );
  return pair.ok ? pair.value : null;
}

/** Which of a lesson's two surfaces is looked for: the one that it asks for first. */
export const wantedIn = ({ lesson }: TeamRecord, pair: Pair): Wanted =>
  pair.low.name === lesson.read.tasks[0]?.surface ? 'low' : 'high';

/** What the lesson's sensor reads at the start, where every start lies on one surface that the team has read. */
function startReadings(record: TeamRecord): Record<string, number> {
  const { course, need } = record.lesson;
  const fitting = fittingOn(record.build, need.socket);
  if (!fitting) return {};
  const under = course.starts.map((start) => {
    const { xMm, yMm } = pointOnRobot(start, fitting.aheadMm, fitting.rightMm);
    return surfaceAt(course, xMm, yMm).name;
  });
  const [surface] = under;
  const mean = meanOver(record, surface);
  return mean !== null && under.every((name) => name === surface) ? { [need.socket]: mean } : {};
}

/** Both surfaces of each sensor that the lesson reads them with, by socket. */
function surfacesBySocket(record: TeamRecord): ReviewContext['surfaces'] {
  const known = ({ name, mean, sd }: Pair['low']) => ({ name, mean, sd });
  return Object.fromEntries(
    stepsOf(record.lesson)
      .filter(({ kind }) => kind === 'read')
      .flatMap((step) => {
        const at = recordAt(record, step);
        const pair = pairOfRecord(at);
        return pair
          ? [[at.lesson.need.socket, { low: known(pair.low), high: known(pair.high) }] as const]
          : [];
      }),
  );
}

/** What the script review may know about a team. */
export function reviewContext(record: TeamRecord): ReviewContext {
  return {
    kit: asMeasured(record.kit, record.braking),
    build: record.build,
    thresholds: thresholdsOf(record),
    surfaces: surfacesBySocket(record),
    lineWidthMm: narrowestLine(record.lesson),
    course: { ...courseFacts(record.lesson.course), startReadings: startReadings(record) },
    about: record.lesson.need.kind,
  };
}

/** The review of a team's newest script; empty when there is none. */
export function findingsOf(record: TeamRecord): Finding[] {
  return record.script ? review(parseScript(record.script.text), reviewContext(record)) : [];
}
