import type { Course } from '../course/index.ts';
import type { Pose } from '../motion/index.ts';
import type { Program } from '../script/index.ts';
import type { DriveSpec, ProgramEnd } from '../sensing/index.ts';
import type { LightModel } from './lightModel.ts';

/** A downward light sensor of the simulated robot. */
export interface SimLight {
  socket: string;
  aheadMm: number;
  rightMm: number;
  samplePeriodMs: number;
  min: number;
  max: number;
  step: number;
  model: LightModel;
}

/** A gyro: the heading since the start or `zero heading` in degrees, or the rate of turn in deg/s. */
export interface SimGyro {
  socket: string;
  kind: 'heading' | 'spin';
  samplePeriodMs: number;
  min: number;
  max: number;
  step: number;
}

/** The robot as the simulator drives it. */
export interface SimRobot {
  wheelDiameterMm: number;
  trackMm: number;
  drive: DriveSpec;
  stepTimeMs: number;
  atProgramEnd: ProgramEnd;
  lights: SimLight[];
  gyros?: SimGyro[];
}

/** What differs from run to run. */
export interface Circumstances {
  start: Pose;
  /** Room light: added to every light reading, in points. */
  lightShift: number;
  /** Left wheel faster than right by this share: 0.02 veers to the right. */
  mismatch: number;
  /** Charge, % of full; full when not said. It matters to raw power only. */
  battery?: number;
  /** Seed of the noise and of the sensors' phases. */
  seed: number;
}

/** All that a run depends on. The same setup gives the same run, to the byte. */
export interface RunSetup {
  program: Program;
  course: Course;
  robot: SimRobot;
  /** Decided thresholds by socket. */
  thresholds: Record<string, number>;
  circumstances: Circumstances;
  timeLimitMs: number;
}
