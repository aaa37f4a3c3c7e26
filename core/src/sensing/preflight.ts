import { formatQuantity } from '../quantity/index.ts';
import {
  canMeasure,
  fittingOn,
  partName,
  sameSocket,
  sensorWords,
  type Fitting,
  type Kit,
  type RobotBuild,
  type SensorKind,
} from './kit.ts';

/** What a lesson asks of the robot: a kind of sensor, and the socket where the class keeps it. */
export interface SensorNeed {
  kind: SensorKind;
  socket: string;
  /** The name that scripts give it. */
  name: string;
}

export interface PreflightCheck {
  topic: 'socket' | 'mode' | 'facing' | 'height';
  grade: 'ok' | 'risk' | 'fault';
  says: string;
  /** What usually mends it; empty when nothing is wrong. */
  mend: string;
  /** For a plug in the wrong socket: where it sits now. What holds its place goes there. */
  foundOn?: string;
  /** For a part that is missing: which is to be plugged in. */
  plugIn?: { sensorId: string; mode: SensorKind };
}

/**
 * Compares what a lesson needs with what is plugged in, the most common mistake first:
 * wrong socket, wrong mode, wrong height (common practice; see the trade facts in the docs). `needs` are all that the robot must have:
 * a part that one of them needs where it sits is not taken from it, so that each mend leaves one need fewer open, and they come to an end.
 */
export function preflight(
  kit: Kit,
  build: RobotBuild,
  need: SensorNeed,
  needs: readonly SensorNeed[] = [],
): PreflightCheck[] {
  const word = sensorWords[need.kind];
  const able = (sensorId: string) => canMeasure(kit, sensorId, need.kind);
  const here = fittingOn(build, need.socket);
  if (!here || !able(here.sensorId)) return [wrongPlug(kit, build, need, needs)];
  const checks: PreflightCheck[] = [
    { topic: 'socket', grade: 'ok', says: `The ${word} sensor is on ${need.socket}.`, mend: '' },
  ];
  checks.push(
    here.mode === need.kind
      ? { topic: 'mode', grade: 'ok', says: `${need.socket} is set to ${word}.`, mend: '' }
      : {
          topic: 'mode',
          grade: 'fault',
          says: `${need.socket} is set to ${sensorWords[here.mode]}, not ${word}.`,
          mend: `Set ${need.socket} to ${word} on the robot.`,
        },
  );
  const part = kit.sensors.find((sensor) => sensor.id === here.sensorId);
  if (part?.faces && here.facing && here.facing !== part.faces) {
    checks.push({
      topic: 'facing',
      grade: 'fault',
      says: `The ${part.name} faces ${here.facing}; it must face ${part.faces}.`,
      mend: `Turn it to face ${part.faces}.`,
    });
  }
  const mount = part?.mountMm;
  if (mount) {
    const height = formatQuantity(here.heightMm, 'mm', 0);
    const range = `${mount.from}–${mount.to} mm`;
    const fits = here.heightMm >= mount.from && here.heightMm <= mount.to;
    checks.push(
      fits
        ? { topic: 'height', grade: 'ok', says: `It sits ${height} above the floor.`, mend: '' }
        : {
            topic: 'height',
            grade: 'risk',
            says: `It sits ${height} above the floor; ${range} reads well.`,
            mend: `${here.heightMm > mount.to ? 'Lower' : 'Raise'} the sensor to ${range}, then read again.`,
          },
    );
  }
  return checks;
}

/** What is to be moved, swapped or plugged in for a socket that does not hold what it needs. */
function wrongPlug(
  kit: Kit,
  build: RobotBuild,
  { kind, socket }: SensorNeed,
  needs: readonly SensorNeed[],
): PreflightCheck {
  const word = sensorWords[kind];
  const here = fittingOn(build, socket);
  const holds = here ? `a ${partName(kit, here.sensorId)}` : 'nothing';
  const neededThere = ({ socket: at, sensorId }: Fitting) =>
    needs.some((other) => sameSocket(other.socket, at) && canMeasure(kit, sensorId, other.kind));
  const able = build.fittings.filter(({ sensorId }) => canMeasure(kit, sensorId, kind));
  const elsewhere = able.find((fitting) => !neededThere(fitting));
  if (elsewhere)
    return {
      topic: 'socket',
      grade: 'fault',
      says: `The ${word} sensor is on ${elsewhere.socket}. The lesson reads ${socket}${here ? `, where ${holds} is plugged in` : ''}.`,
      mend: here
        ? `Swap the plugs of ${elsewhere.socket} and ${socket}, and push until they click.`
        : `Move the plug from ${elsewhere.socket} to ${socket} and push until it clicks.`,
      foundOn: elsewhere.socket,
    };
  const part = kit.sensors.find(({ id }) => canMeasure(kit, id, kind));
  const taken = able[0];
  const which = part ? `a ${taken ? 'second ' : ''}${part.name}` : `a ${word} sensor`;
  return {
    topic: 'socket',
    grade: 'fault',
    says: taken
      ? `The ${partName(kit, taken.sensorId)} on ${taken.socket} is needed there. ${socket} has ${holds}.`
      : `No ${word} sensor is fitted. ${socket} has ${holds}.`,
    mend: here
      ? `Unplug the ${partName(kit, here.sensorId)} from ${socket}, and plug ${which} in there.`
      : `Fit ${which} and plug it into ${socket}.`,
    ...(part ? { plugIn: { sensorId: part.id, mode: kind } } : {}),
  };
}

/** The worst grade of a preflight. */
export function preflightGrade(checks: readonly PreflightCheck[]): 'ok' | 'risk' | 'fault' {
  if (checks.some((check) => check.grade === 'fault')) return 'fault';
  return checks.some((check) => check.grade === 'risk') ? 'risk' : 'ok';
}
