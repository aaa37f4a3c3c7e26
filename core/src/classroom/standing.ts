import type { Judgement, Proof } from '../expect/index.ts';
import {
  lessonAt,
  stepsOf,
  type Lesson,
  type LessonStep,
  type TrialFields,
  type TwistValues,
} from '../lesson/index.ts';
import {
  bySocket,
  type DriveFit,
  sameSocket,
  type Kit,
  type Reading,
  type ReadSet,
  type Rgb,
  type RobotBuild,
  type SensorKind,
} from '../sensing/index.ts';
import type { Compare } from '../threshold/index.ts';

export const stageNames = ['wire', 'read', 'decide', 'script', 'try', 'prove', 'floor'] as const;
export type StageName = (typeof stageNames)[number];

/** done ✓ · now ● · risk △ · fault ✕ · none (not begun). */
export type StageState = 'done' | 'now' | 'risk' | 'fault' | 'none';

export interface Stage {
  stage: StageName;
  state: StageState;
  /** The number that came out: "22 · 75", "47 %", "20/20"; empty when none did. */
  figure: string;
  /** What is wrong, in one sentence; empty when nothing is. */
  says: string;
  /** What the teacher or team can do about it. */
  mend: string;
}

/** A stored set of readings. */
export interface StoredSet extends ReadSet {
  id: number;
  socket: string;
  kind: SensorKind;
  surface: string;
  /** For rgb the brightness of each look. A long set comes as an even sample with the figures of the whole. */
  values: Reading[];
  /** The looks of an rgb sensor, gaps as null, as many as `values`. */
  rgb?: (Rgb | null)[];
  /** What the ruler or protractor said, in the sensor's unit. */
  truth: number | null;
  lightNote: string;
  at: number;
}

/** A decided threshold: how it was found, why that way, and the sets it rests on. */
export interface StoredThreshold {
  id: number;
  value: number;
  method: string;
  compare: Compare;
  /** For two levels: where the surface is left again. */
  leave: number | null;
  /** Why the team took another method than the recommended one; empty when it did not, or did not say. */
  reason: string;
  at: number;
}

/** A record of many looks in a row: a slow drag over everything. */
export interface StoredSweep {
  id: number;
  periodMs: number;
  values: Reading[];
  /** How many looks it has in all, where `values` are only every k-th of them. */
  of?: number;
  at: number;
}

/** Many looks in a row, as they are kept: a sweep, or a bumper's presses. */
export interface Recording extends StoredSweep {
  socket: string;
  kind: SensorKind;
  purpose: 'sweep' | 'touch';
}

/** A few quick looks at a surface, to learn whether its stored readings still hold. */
export interface QuickLooks {
  surface: string;
  values: readonly Reading[];
  at: number;
}

/** The name under which readings across the edge of two surfaces are kept. */
export const EDGE = 'across the edge';

/** The newest version of a team's script. */
export interface SavedScript {
  version: number;
  /**
   * The version since which the program says the same: blanks and comments alone change nothing that was tried or
   * proved.
   */
  sameSince: number;
  text: string;
  at: number;
}

/** Whether something was done with a program that says what the newest version says. */
export const isOfNewest = (
  script: SavedScript | null,
  { scriptVersion }: { scriptVersion: number | null },
): boolean => !script || (scriptVersion !== null && scriptVersion >= script.sameSince);

/** What a team wrote in a step, and how often it was saved. */
export interface StoredNote {
  text: string;
  revision: number;
}

/** A single run, as computed by the server. */
export interface StoredTry {
  id: number;
  scriptVersion: number;
  start: string;
  seed: number;
  judgements: Judgement[];
  pastMm: number | null;
  at: number;
}

export interface StoredProof {
  id: number;
  scriptVersion: number;
  seed: number;
  proof: Proof;
  at: number;
}

/** A trial on the floor, measured by hand and judged by the lesson's expectations. */
export interface StoredTrial extends TrialFields {
  id: number;
  scriptVersion: number | null;
  /** The floor step in which it was driven; null for the lesson’s first. */
  step: string | null;
  /** What was changed before it: “threshold 20”; empty for nothing. */
  changed: string;
  /** Speed in the script it ran, %; null when that cannot be told. */
  speedPercent: number | null;
  note: string;
  judgements: Judgement[];
  at: number;
}

/** The trials of one floor step: its own, and those that say no step where it is the first. Elsewhere all. */
export function trialsAt<Trial extends Pick<StoredTrial, 'step'>>(
  trials: readonly Trial[],
  lesson: Lesson,
  step: LessonStep | undefined,
): Trial[] {
  if (step?.kind !== 'floor') return [...trials];
  const floors = stepsOf(lesson).filter(({ kind }) => kind === 'floor');
  const isFirst = floors[0]?.id === step.id;
  return trials.filter((trial) =>
    floors.some(({ id }) => id === trial.step) ? trial.step === step.id : isFirst,
  );
}

/** What a floor trial came to: what was not measured does not count against it, nor for it. */
export type TrialVerdict = 'kept' | 'broken' | 'not judged';

/** Kept when something that was measured holds and nothing is broken; not judged when nothing that is judged was measured. */
export function trialVerdict({ judgements }: { judgements: readonly Judgement[] }): TrialVerdict {
  if (judgements.some(({ verdict }) => verdict === 'broken')) return 'broken';
  return judgements.some(({ verdict }) => verdict === 'holds') ? 'kept' : 'not judged';
}

/** What a page knows of one sensor of a team: as it is stored, with ids. */
export interface StoredSensor extends SensorRecord {
  sets: StoredSet[];
  threshold: StoredThreshold | null;
  sweep: StoredSweep | null;
  touch: StoredSweep | null;
}

/** All that is recorded about a team in one lesson, each thing once: what the server hands to a page. */
export interface TeamEvidence {
  /** The first of the hours that it belongs to, and when that began; null where the class has had none on this lesson. */
  hour: { id: number; at: number } | null;
  team: { id: number; name: string };
  robot: { id: number; name: string; standIn: boolean };
  kit: Kit;
  build: RobotBuild;
  /** The lesson in the team's own twist, with the sockets of its robot. */
  lesson: Lesson;
  /** Every sensor that the lesson takes, by socket. */
  sensors: Record<string, StoredSensor>;
  script: SavedScript | null;
  /** The newest eight, newest first. */
  tries: StoredTry[];
  proof: StoredProof | null;
  trials: StoredTrial[];
  /** What floor trials said about this robot's stopping, once the team let the simulation use it. */
  braking: TeamRecord['braking'] | null;
  /** The team's own twist of the lesson, once handed out. */
  twist: { values: TwistValues; level: number } | null;
  /** Id of the step of the lesson where the team left; null before it opened one. */
  place: string | null;
  /** What it wrote down in its steps, by their ids. */
  notes: Record<string, StoredNote>;
}

/** The evidence with the record that stages, review and simulator work from. */
export interface TeamInLesson extends TeamEvidence {
  record: TeamRecord;
}

const nothingStored: StoredSensor = {
  wireCheck: null,
  sets: [],
  quickLooks: [],
  threshold: null,
  sweep: null,
  touch: null,
};

/** The record of a team's evidence: the lesson's first sensor first, the others by socket. */
export function recordOf(evidence: TeamEvidence): TeamRecord {
  const { kit, build, lesson, sensors, script, tries, proof, trials, braking } = evidence;
  const { [lesson.need.socket]: first = nothingStored, ...others } = sensors;
  const plain = ({ wireCheck, sets, quickLooks, threshold, touch }: StoredSensor): SensorRecord => ({
    wireCheck,
    sets,
    quickLooks,
    threshold,
    touch,
  });
  return {
    kit,
    build,
    lesson,
    ...plain(first),
    others: Object.fromEntries(Object.entries(others).map(([socket, own]) => [socket, plain(own)])),
    script,
    lastTry: tries[0] ?? null,
    lastProof: proof,
    trials,
    braking: braking ?? null,
  };
}

/** The evidence with its record. */
export const withRecord = <E extends TeamEvidence>(evidence: E): E & TeamInLesson => ({
  ...evidence,
  record: recordOf(evidence),
});

/** Everything recorded about one sensor of a team's robot. Times are milliseconds since the epoch. */
export interface SensorRecord {
  wireCheck: { reacts: boolean; at: number } | null;
  /** Newest set of each surface, and of each true value that was read at. */
  sets: ({ surface: string; truth?: number | null; at: number } & ReadSet)[];
  /** Newest quick looks at each surface. */
  quickLooks: QuickLooks[];
  threshold: { value: number; compare: Compare; leave: number | null; at: number } | null;
  /** The newest record of a bumper's presses. */
  touch?: { periodMs: number; values: readonly Reading[]; at: number } | null;
}

const nothingRead: SensorRecord = { wireCheck: null, sets: [], quickLooks: [], threshold: null, touch: null };

/** Everything recorded about one team in one lesson, the lesson's first sensor before the others. */
export interface TeamRecord extends SensorRecord {
  kit: Kit;
  build: RobotBuild;
  lesson: Lesson;
  /** The lesson's further sensors, by socket. */
  others?: Record<string, SensorRecord>;
  script: SavedScript | null;
  lastTry: { scriptVersion: number; judgements: Judgement[]; pastMm: number | null; at: number } | null;
  lastProof: { scriptVersion: number; proof: Proof; at: number } | null;
  trials: { judgements: Judgement[]; pastMm: number | null; at: number }[];
  /** What trials said about this robot's drive, once somebody let the simulation use it. */
  braking?: DriveFit | null;
}

/** The record as a step of the lesson sees it: the step's sensor first, with what was read and decided on it. */
export function recordAt(record: TeamRecord, step: LessonStep): TeamRecord {
  const lesson = lessonAt(record.lesson, step);
  const [before, now] = [record.lesson.need.socket, lesson.need.socket];
  if (sameSocket(before, now)) return { ...record, lesson };
  const { wireCheck, sets, quickLooks, threshold, touch } = record;
  return {
    ...record,
    ...(bySocket(record.others ?? {}, now) ?? nothingRead),
    lesson,
    others: { ...record.others, [before]: { wireCheck, sets, quickLooks, threshold, touch: touch ?? null } },
  };
}

/** What is recorded of each sensor of the lesson, by socket. */
export const sensorsOf = (record: TeamRecord): [string, SensorRecord][] => {
  const { socket } = record.lesson.need;
  const others = Object.entries(record.others ?? {}).filter(([other]) => !sameSocket(other, socket));
  return [[socket, record], ...others];
};

/** What is recorded of the sensor on a socket; undefined where the lesson takes none there. */
export const sensorRecordOn = (record: TeamRecord, socket: string): SensorRecord | undefined =>
  sensorsOf(record).find(([other]) => sameSocket(other, socket))?.[1];

/** The stage a team is working at: the first that is not settled, else the last. */
export function currentStage(stages: readonly Stage[]): Stage {
  return stages.find((s) => s.state === 'now' || s.state === 'fault') ?? stages.at(-1)!;
}

/** When the team last did anything, ms since the epoch; null when it has not begun. */
export function lastActivity(record: TeamRecord): number | null {
  const times = [
    ...sensorsOf(record).flatMap(([, { wireCheck, sets, threshold, touch }]) => [
      wireCheck?.at,
      ...sets.map((set) => set.at),
      threshold?.at,
      touch?.at,
    ]),
    record.script?.at,
    record.lastTry?.at,
    record.lastProof?.at,
    ...record.trials.map((trial) => trial.at),
  ].filter((at): at is number => at !== undefined);
  return times.length > 0 ? Math.max(...times) : null;
}
