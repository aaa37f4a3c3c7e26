import type { Room } from '@vigilum/contract/types';
import type { StoredSet } from '@vigilum/core/classroom';
import type { FittedSensor, Fitting, RobotBuild } from '@vigilum/core/sensing';

/** One sensor of one robot, as every reading board needs it. */
export interface Reader {
  robot: { id: number; name: string; standIn: boolean };
  build: RobotBuild;
  fitting: Fitting;
  sensor: FittedSensor;
  /** Changes when the robot is wired anew, so that listening starts anew. */
  epoch: string;
  /** Null for a real robot. */
  room: Room | null;
  /** The server's clock less this machine's, ms. */
  skew: number;
}

/** The sets that were read with the sensor as it is set now. */
export const ownSets = (sets: readonly StoredSet[], { fitting, sensor }: Reader): StoredSet[] =>
  sets.filter(({ socket, kind }) => socket === fitting.socket && kind === sensor.kind);
