import { formatNumber } from '../quantity/index.ts';
import {
  bySocket,
  canMeasure,
  fittingOn,
  partName,
  sensorOf,
  type Kit,
  type ReadingUnit,
  type RobotBuild,
  type SensorKind,
} from '../sensing/index.ts';
import type { SensorDeclaration } from '../script/index.ts';

/** A surface as a team read it, in the sensor's own unit. */
export interface KnownSurface {
  name: string;
  mean: number;
  /** Spread of its readings; absent when it was read only once. */
  sd?: number;
}

/** What an editor and the review may know about the robot that a script is for. */
export interface KnownRobotFacts {
  kit: Kit;
  build: RobotBuild;
  /** Decided thresholds by socket, in the sensor's own unit. */
  thresholds: Record<string, number>;
  /** The two surfaces read on a socket, lower first. */
  surfaces: Record<string, { low: KnownSurface; high: KnownSurface }>;
}

/** The kit's sensor behind a declaration in the declared kind; undefined when it is not fitted or cannot. */
export function partBehind(
  { kit, build }: KnownRobotFacts,
  sensor: Pick<SensorDeclaration, 'socket' | 'kind'>,
) {
  const fitting = fittingOn(build, sensor.socket);
  if (!fitting || !canMeasure(kit, fitting.sensorId, sensor.kind)) return undefined;
  return sensorOf(kit, { ...fitting, mode: sensor.kind });
}

/** The unit that a sensor's readings are told in; '' for a plain number. */
export const unitOf = (
  robot: KnownRobotFacts,
  sensor: Pick<SensorDeclaration, 'socket' | 'kind'>,
): ReadingUnit => partBehind(robot, sensor)?.unit ?? usualUnit[sensor.kind] ?? '';

const usualUnit: Partial<Record<SensorKind, ReadingUnit>> = {
  light: '%',
  ambient: '%',
  proximity: '%',
  distance: 'cm',
  heading: 'deg',
  beacon: 'deg',
  spin: 'deg/s',
  wheel: 'deg',
};

/** What sits on a socket: “floor eye on K3”, or “nothing on K4”. */
export function plugged({ kit, build }: KnownRobotFacts, socket: string): string {
  const fitting = fittingOn(build, socket);
  return fitting ? `${partName(kit, fitting.sensorId)} on ${fitting.socket}` : `nothing on ${socket}`;
}

/** A team's readings on a socket in words; empty when there are none. */
export function readingsTold(robot: KnownRobotFacts, sensor: SensorDeclaration): string {
  const pair = bySocket(robot.surfaces, sensor.socket);
  if (!pair) return '';
  const unit = unitOf(robot, sensor);
  const told = ({ name, mean }: KnownSurface) => `${name} ${formatNumber(mean)}${unit && ` ${unit}`}`;
  return `You read ${told(pair.low)}, ${told(pair.high)}.`;
}
