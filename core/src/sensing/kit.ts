import { fromBase, toBase, type Unit } from '../quantity/index.ts';

/** What a sensor can be asked to measure. The step script uses the same words. */
export const sensorKinds = [
  'touch',
  'light',
  'ambient',
  'colour',
  'rgb',
  'distance',
  'proximity',
  'beacon',
  'heading',
  'spin',
  'wheel',
] as const;
export type SensorKind = (typeof sensorKinds)[number];

/** Units that readings come in; '' for a plain number. */
export const readingUnits = ['', '%', 'mm', 'cm', 'in', 'deg', 'deg/s'] as const;
export type ReadingUnit = Extract<Unit, (typeof readingUnits)[number]> | 'deg/s' | '';

/** A reading in base units (mm, deg, %): 15 of a sensor in cm is 150. Plain numbers and rates stay as they are. */
export const inBase = (value: number, unit: ReadingUnit): number =>
  unit === '' || unit === 'deg/s' ? value : toBase(value, unit);

/** A value in base units as a sensor of a unit tells it: the inverse of `inBase`. */
export const fromBaseTo = (value: number, unit: ReadingUnit): number =>
  unit === '' || unit === 'deg/s' ? value : fromBase(value, unit);

/** One way a sensor can be set: what it then measures, between which ends, how finely and how often. */
export interface SensorMode {
  kind: SensorKind;
  unit: ReadingUnit;
  min: number;
  max: number;
  /** Smallest difference between two readings, in the mode's unit. */
  step: number;
  samplePeriodMs: number;
  /** The number it gives when it has no reading, such as 255. Never a measurement. */
  noReading?: number;
  /** What the part counts before it tells its unit, at the lowest and at the highest reading; absent where it tells none. */
  raw?: { atMin: number; atMax: number };
  /** For `colour`: what the code numbers stand for, from 0. */
  colours?: string[];
}

export const facings = ['down', 'ahead', 'left', 'right', 'back', 'up'] as const;
export type Facing = (typeof facings)[number];

/** A sensor as a kit sells it: one physical part that can be set to one or more modes, the usual one first. */
export interface SensorSpec {
  id: string;
  name: string;
  modes: SensorMode[];
  /** The way it must face, where that matters. */
  faces?: Facing;
  /** Height above the floor at which a downward sensor is dependable. */
  mountMm?: { from: number; to: number };
  mountAdvice?: string;
}

export interface Socket {
  name: string;
  takes: 'sensor' | 'motor';
  /** What the motor on it usually turns: "left wheel". */
  drives?: string;
  /** The teacher's own label: "the red plug". */
  label?: string;
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
  /** Speeds below this do not turn a wheel, % of full speed: stiction. 0 when not said. */
  deadPercent?: number;
  /** A wheel gains or loses no more speed than this, mm/s in a second, whatever τ asks: its motor's strength. No limit when not said. */
  accelLimitMmPerS2?: number;
  /** How the robot rubs along what stands fast: friction as a share of the push, 0 slides freely. 0 when not said. */
  wallFriction?: number;
}

/** What trials found of one robot's drive, in place of what its kit says. */
export interface DriveFit extends Partial<
  Pick<DriveSpec, 'topDegPerS' | 'tauBrakeS' | 'commandDelayMs' | 'deadPercent' | 'accelLimitMmPerS2'>
> {
  /** Left wheel faster than right by this share: 0.02 veers to the right. */
  mismatch?: number;
  /** Share by which the track works wider than it was measured: scrubbing wheels, soft floor. */
  scrub?: number;
}

/** The kit as one robot of it drives: what its trials found in place of what the kit says. */
export const asMeasured = (kit: Kit, fit: DriveFit | null | undefined): Kit =>
  fit ? { ...kit, drive: { ...kit.drive, ...fit } } : kit;

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
  facing?: Facing;
  /** Socket of the motor that it rides on and that turns it. */
  turret?: string;
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
  /** What is known to be odd about this very robot: "left wheel is weak". */
  quirks?: string[];
}

export const sensorWords: Record<SensorKind, string> = {
  touch: 'touch',
  light: 'reflected light',
  ambient: 'room light',
  colour: 'colour',
  rgb: 'rgb colour',
  distance: 'distance',
  proximity: 'proximity',
  beacon: 'beacon direction',
  heading: 'heading',
  spin: 'spin',
  wheel: 'wheel turns',
};

/** A fitted sensor in the mode it is set to. */
export type FittedSensor = Omit<SensorSpec, 'modes'> & SensorMode;

/** The kit's data for a fitted sensor in its mode; undefined when the kit does not know it. */
export function sensorOf(kit: Kit, fitting: Fitting): FittedSensor | undefined {
  const spec = kit.sensors.find((sensor) => sensor.id === fitting.sensorId);
  const mode = spec?.modes.find(({ kind }) => kind === fitting.mode);
  if (!spec || !mode) return undefined;
  const { id, name, faces, mountMm, mountAdvice } = spec;
  return {
    id,
    name,
    ...(faces && { faces }),
    ...(mountMm && { mountMm }),
    ...(mountAdvice && { mountAdvice }),
    ...mode,
  };
}

/** Where a sensor looks: downward unless the fitting or the part says otherwise; bumpers and far-looking sensors look ahead. */
export function facingOf(kit: Kit, fitting: Fitting): Facing {
  const facing = fitting.facing ?? kit.sensors.find(({ id }) => id === fitting.sensorId)?.faces;
  if (facing) return facing;
  return ['touch', 'distance', 'proximity', 'beacon'].includes(fitting.mode) ? 'ahead' : 'down';
}

/** The part's name, "part" when the kit does not know it. */
export const partName = (kit: Kit, sensorId: string): string =>
  kit.sensors.find((sensor) => sensor.id === sensorId)?.name ?? 'part';

/** Whether a part of the kit can be set to measure a kind. */
export const canMeasure = (kit: Kit, sensorId: string, kind: SensorKind): boolean =>
  kit.sensors.find((sensor) => sensor.id === sensorId)?.modes.some((mode) => mode.kind === kind) ?? false;

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
