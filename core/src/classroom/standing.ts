import type { Judgement, Proof } from '../expect/index.ts';
import type { Lesson, TwistValues } from '../lesson/index.ts';
import type { Kit, Reading, Rgb, RobotBuild, SensorKind } from '../sensing/index.ts';
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
export interface StoredSet {
  id: number;
  socket: string;
  kind: SensorKind;
  surface: string;
  /** For rgb the brightness of each look. */
  values: Reading[];
  rgb?: Rgb[];
  /** What the ruler or protractor said, in the sensor's unit. */
  truth: number | null;
  lightNote: string;
  at: number;
}

/** A decided threshold: how it was found, why that way, and the sets it rests on. */
export interface StoredThreshold {
  id: number;
  value: number;
  way: string;
  compare: Compare;
  /** For two levels: where the surface is left again. */
  leave: number | null;
  /** Why the team took another way than the recommended one; empty when it did not, or did not say. */
  reason: string;
  at: number;
}

/** A record of many looks in a row: a slow drag over everything. */
export interface StoredSweep {
  id: number;
  periodMs: number;
  values: Reading[];
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
export interface StoredTrial {
  id: number;
  scriptVersion: number | null;
  /** What was measured; null for what was not. */
  pastMm: number | null;
  gapMm: number | null;
  turnedDeg: number | null;
  counted: number | null;
  /** What was changed before it: “threshold 20”; empty for nothing. */
  changed: string;
  /** Speed in the script it ran, %; null when that cannot be told. */
  speedPercent: number | null;
  rested: boolean;
  tookS: number | null;
  note: string;
  judgements: Judgement[];
  at: number;
}

/** A floor trial is kept when nothing is broken; what was not measured does not count against it. */
export const trialKept = ({ judgements }: { judgements: readonly Judgement[] }): boolean =>
  judgements.every((judgement) => judgement.verdict !== 'broken');

/** A team with all that is recorded about it in one lesson: what the server hands to a page. */
export interface TeamInLesson {
  team: { id: number; name: string };
  robot: { id: number; name: string; standIn: boolean };
  record: TeamRecord;
  sets: StoredSet[];
  threshold: StoredThreshold | null;
  sweep: StoredSweep | null;
  tries: StoredTry[];
  proof: StoredProof | null;
  trials: StoredTrial[];
  /** The team's own twist of the lesson, once handed out. */
  twist: { values: TwistValues; level: number } | null;
  /** Id of the step of the lesson where the team left; null before it opened one. */
  place: string | null;
  /** What it wrote down in its steps, by their ids. */
  notes: Record<string, string>;
}

/** Everything recorded about one team in one lesson. Times are milliseconds since the epoch. */
export interface TeamRecord {
  kit: Kit;
  build: RobotBuild;
  lesson: Lesson;
  wireCheck: { reacts: boolean; at: number } | null;
  /** Newest set of each surface on the lesson's socket. */
  sets: { surface: string; values: readonly Reading[]; at: number }[];
  /** Newest quick looks at each surface. */
  quickLooks: QuickLooks[];
  threshold: { value: number; compare: Compare; leave: number | null; at: number } | null;
  script: { version: number; text: string; at: number } | null;
  lastTry: { scriptVersion: number; judgements: Judgement[]; pastMm: number | null; at: number } | null;
  lastProof: { scriptVersion: number; proof: Proof; at: number } | null;
  trials: { judgements: Judgement[]; pastMm: number | null; at: number }[];
  /** What floor trials said about this robot's stopping, once the team let the simulation use it. */
  braking?: { commandDelayMs: number; tauBrakeS: number } | null;
}

/** The stage a team is working at: the first that is not settled, else the last. */
export function currentStage(stages: readonly Stage[]): Stage {
  return stages.find((s) => s.state === 'now' || s.state === 'fault') ?? stages.at(-1)!;
}

/** When the team last did anything, ms since the epoch; null when it has not begun. */
export function lastActivity(record: TeamRecord): number | null {
  const times = [
    record.wireCheck?.at,
    ...record.sets.map((set) => set.at),
    record.threshold?.at,
    record.script?.at,
    record.lastTry?.at,
    record.lastProof?.at,
    ...record.trials.map((trial) => trial.at),
  ].filter((at): at is number => at !== undefined);
  return times.length > 0 ? Math.max(...times) : null;
}
