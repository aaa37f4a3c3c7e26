import type { Unit } from '../quantity/index.ts';

/** What a sensor can be asked to measure. The step script uses the same words. */
export type SensorKind =
  'touch' | 'light' | 'ambient' | 'colour' | 'rgb' | 'distance' | 'proximity' | 'heading' | 'spin';

/** A sensor as a kit sells it: one physical part that measures one or more kinds. */
export interface SensorSpec {
  id: string;
  name: string;
  /** The modes it can be set to, the usual one first. */
  kinds: SensorKind[];
  unit: Unit | '';
  min: number;
  max: number;
  /** Smallest difference between two readings, in the sensor's unit. */
  step: number;
  samplePeriodMs: number;
  /** Height above the floor at which a downward sensor is dependable. */
  mountMm?: { from: number; to: number };
  mountAdvice?: string;
}

export interface Socket {
  name: string;
  takes: 'sensor' | 'motor';
  /** What the motor on it usually turns: "left wheel". */
  drives?: string;
}

/** How the kit's motors answer a command. */
export interface DriveSpec {
  /** Wheel speed at 100 %, in degrees per second. */
  topDegPerS: number;
  /** Time constant while driven, in s. */
  tauDriveS: number;
  /** Time constant while braking, in s. */
  tauBrakeS: number;
  /** Time constant while rolling free, in s. */
  tauCoastS: number;
  /** From the program's command to the motor's first answer, in ms. */
  commandDelayMs: number;
}

/** What the motors do when the program has no step left. */
export type ProgramEnd = { kind: 'stop' } | { kind: 'roll'; forMs: number };

export interface Kit {
  slug: string;
  name: string;
  sockets: Socket[];
  sensors: SensorSpec[];
  drive: DriveSpec;
  /** What one step of a program costs, in ms. */
  stepTimeMs: number;
  atProgramEnd: ProgramEnd;
}

/** A sensor on a robot: which, on what socket, set to what mode, and where it sits. */
export interface Fitting {
  socket: string;
  sensorId: string;
  mode: SensorKind;
  /** Ahead of the wheel axle, mm. */
  aheadMm: number;
  /** To the right of the middle line, mm. */
  rightMm: number;
  heightMm: number;
}

/** One robot as built: its measures and what is plugged in where. */
export interface RobotBuild {
  wheelDiameterMm: number;
  trackMm: number;
  lengthMm: number;
  widthMm: number;
  /** From the front bumper back to the wheel axle, mm. */
  axleFromFrontMm: number;
  fittings: Fitting[];
}

export const sensorWords: Record<SensorKind, string> = {
  touch: 'touch',
  light: 'reflected light',
  ambient: 'room light',
  colour: 'colour',
  rgb: 'rgb colour',
  distance: 'distance',
  proximity: 'proximity',
  heading: 'heading',
  spin: 'spin',
};

/** The kit's data for a fitted sensor; undefined when the kit does not know it. */
export function sensorOf(kit: Kit, fitting: Fitting): SensorSpec | undefined {
  return kit.sensors.find((sensor) => sensor.id === fitting.sensorId);
}

/** Whether two spellings name one socket: case does not matter, as in the script. */
export const sameSocket = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** The fitting on a socket, if anything is plugged in there. */
export function fittingOn(build: RobotBuild, socket: string): Fitting | undefined {
  return build.fittings.find((fitting) => sameSocket(fitting.socket, socket));
}

/** What is kept for a socket in a record by socket name. */
export function bySocket<T>(record: Readonly<Record<string, T>>, socket: string): T | undefined {
  const key = Object.keys(record).find((name) => sameSocket(name, socket));
  return key === undefined ? undefined : record[key];
}
