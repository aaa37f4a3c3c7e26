import type { Course } from '../course/index.ts';
import type { Pose } from '../motion/index.ts';
import type { Program } from '../script/index.ts';
import type { DriveFit, DriveSpec, ProgramEnd, ReadingUnit } from '../sensing/index.ts';
import type { LightModel } from './lightModel.ts';

/** What a simulated sensor answers to, and how this very one does it. Scatters are in the sensor's unit. */
export type Sense =
  | { kind: 'light'; model: LightModel }
  | { kind: 'ambient'; level: number; scatter: number }
  | { kind: 'colour'; colours: readonly string[] }
  | { kind: 'rgb' }
  | { kind: 'distance'; scatter: number; noReading?: number }
  | { kind: 'proximity'; scatter: number }
  | { kind: 'beacon'; scatter: number }
  | { kind: 'touch' }
  | { kind: 'heading' | 'spin'; driftPerS: number };

/** A sensor of the simulated robot: where it sits, how often it looks, between which ends and how finely. */
export type SimSensor = Sense & {
  socket: string;
  unit: ReadingUnit;
  /** Ahead of the axle and to the right of the middle, mm. */
  aheadMm: number;
  rightMm: number;
  heightMm: number;
  /** Where it looks, degrees clockwise from ahead; null: down (or, for a button, up). */
  facingDeg: number | null;
  /** Rides on the turret and looks where that points. */
  onTurret?: boolean;
  samplePeriodMs: number;
  min: number;
  max: number;
  step: number;
  /** What it counts before it tells its unit, at `min` and at `max`. */
  raw?: { atMin: number; atMax: number };
};

/** The robot as the simulator drives it. */
export interface SimRobot {
  wheelDiameterMm: number;
  trackMm: number;
  lengthMm: number;
  widthMm: number;
  /** From the front back to the wheel axle, mm. */
  axleFromFrontMm: number;
  drive: DriveSpec & DriveFit;
  stepTimeMs: number;
  atProgramEnd: ProgramEnd;
  sensors: SimSensor[];
}

/** What differs from run to run. Whatever is not said is as it should be. */
export interface Circumstances {
  start: Pose;
  /** Room light: added to every light reading, in points. */
  lightShift: number;
  /** Left wheel faster than right by this share: 0.02 veers to the right. */
  mismatch: number;
  /** Charge, % of full; full when not said. It matters to raw power only. */
  battery?: number;
  /** Scatter of all sensors against what was measured: 1 when not said. */
  noise?: number;
  /** Share by which the wheels scrub in a turn: 0.03 turns that much too short. */
  scrub?: number;
  /** Boxes and presses come later by this, s. */
  laterS?: number;
  /** Share of a distance sensor's looks that hear a neighbour's echo. */
  echoes?: number;
  /** What headings say before they are zeroed: the robot was turned since it was switched on, deg. */
  headingAtStart?: number;
  /** Degrees that a heading reads per degree turned, against what is right: 1.02 reads 2 % too much. */
  gyroScale?: number;
  /** Stiction beside the kit's own, % of full speed. */
  deadPercent?: number;
  /** Creep of headings beside what the sensor has of its own, deg/s. */
  driftPerS?: number;
  /** Seed of the noise and of the sensors' phases. */
  seed: number;
}

/** All that a run depends on. The same setup gives the same run, to the byte. */
export interface RunSetup {
  program: Program;
  course: Course;
  robot: SimRobot;
  /** Decided thresholds by socket, in base units. */
  thresholds: Record<string, number>;
  circumstances: Circumstances;
  timeLimitMs: number;
  /** A second robot of the same make that runs a program of its own; what one sends the other hears. */
  other?: OtherRobot;
}

/** A second robot: what it runs, from where. */
export interface OtherRobot {
  program: Program;
  start: Pose;
}
