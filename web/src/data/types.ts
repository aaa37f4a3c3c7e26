import type { HelpCall, Stage, StageName, TeamInLesson } from '@vigilum/core/classroom';
import type { Recording, StoredSet, ThresholdTable } from '@vigilum/core/classroom';
import type { Lesson, LessonStep } from '@vigilum/core/lesson';
import type { Kit, RobotBuild, SensorKind, SensorNeed } from '@vigilum/core/sensing';

import type { Room } from '../reading/reader.ts';

export interface BoardTeam {
  id: number;
  name: string;
  robot: string;
  stages: Stage[];
  current: StageName;
  help: HelpCall | null;
  lastAt: number | null;
}

export interface Period {
  id: number;
  startsAt: number;
  minutes: number;
  class: { id: number; name: string; school: string };
  lesson: Pick<Lesson, 'slug' | 'title' | 'aim'>;
  teams: BoardTeam[];
}

export interface Today {
  now: number;
  periods: Period[];
}

/** A team's workspace as the server sends it. */
export interface Workspace extends TeamInLesson {
  stages: Stage[];
  /** Around the stand-in; null for a real robot. */
  room: Room | null;
  now: number;
}

/** A robot as the list shows it. */
export interface RobotEntry {
  id: number;
  name: string;
  kit: Kit;
  build: RobotBuild;
  team: string | null;
  standIn: boolean;
}

/** The newest check of one socket and kind. */
export interface WireCheck {
  socket: string;
  kind: SensorKind;
  reacts: boolean;
  says: string;
  driftPerS: number | null;
  at: number;
}

export interface RobotDetail extends RobotEntry {
  checks: WireCheck[];
  room: Room | null;
  now: number;
}

/** Everything read off one robot. */
export interface RobotReadings {
  sets: StoredSet[];
  recordings: Recording[];
  now: number;
}

export interface RobotThreshold {
  socket: string;
  value: number;
  way: string;
  compare: string;
  leave: number | null;
  reason: string;
  at: number;
}

/** The kits, and what each lesson here needs of one. */
export interface Kits {
  kits: { kit: Kit; robots: number }[];
  needs: { slug: string; title: string; needs: SensorKind[] }[];
}

/** A lesson with the kit of its own robot. */
export interface LessonBench {
  lesson: Lesson;
  /** Null when the lesson names no robot, or one of a kit that is not here. */
  kit: Kit | null;
  /** Whether its numbers follow a twist: it is then changed in the builder. */
  twisted: boolean;
  /** Whether somebody has changed a shipped lesson here. */
  changed: boolean;
  shipped: boolean;
}

/** A class's thresholds side by side. */
/** What the teams of a class wrote down, by the steps that ask for it. */
export interface ClassNotes {
  now: number;
  school: string;
  class: string;
  lesson: Pick<Lesson, 'slug' | 'title'>;
  steps: Pick<LessonStep, 'id' | 'kind' | 'title' | 'text'>[];
  teams: { id: number; name: string; notes: Record<string, string> }[];
}

export interface ClassThresholds {
  now: number;
  school: string;
  class: string;
  lesson: Pick<Lesson, 'slug' | 'title'>;
  need: SensorNeed;
  teams: number[];
  table: ThresholdTable;
}
