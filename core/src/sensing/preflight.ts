import { formatQuantity } from '../quantity/index.ts';
import {
  canMeasure,
  fittingOn,
  partName,
  sensorWords,
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
  /** For a plug in the wrong socket: where it sits now. */
  foundOn?: string;
}

/**
 * Compares what a lesson needs with what is plugged in, the most common mistake first:
 * wrong socket, wrong mode, wrong height (common practice; see the trade facts in the docs).
 */
export function preflight(kit: Kit, build: RobotBuild, need: SensorNeed): PreflightCheck[] {
  const word = sensorWords[need.kind];
  const able = (sensorId: string) => canMeasure(kit, sensorId, need.kind);
  const here = fittingOn(build, need.socket);
  if (!here || !able(here.sensorId)) {
    const elsewhere = build.fittings.find((fitting) => able(fitting.sensorId));
    const holds = here ? `a ${partName(kit, here.sensorId)}` : 'nothing';
    return [
      {
        topic: 'socket',
        grade: 'fault',
        says: elsewhere
          ? `The ${word} sensor is on ${elsewhere.socket}. The lesson reads ${need.socket}${here ? `, where ${holds} is plugged in` : ''}.`
          : `No ${word} sensor is fitted. ${need.socket} has ${holds}.`,
        mend: elsewhere
          ? `Move the plug from ${elsewhere.socket} to ${need.socket} and push until it clicks.`
          : `Fit a ${word} sensor and plug it into ${need.socket}.`,
        ...(elsewhere ? { foundOn: elsewhere.socket } : {}),
      },
    ];
  }
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

/** The worst grade of a preflight. */
export function preflightGrade(checks: readonly PreflightCheck[]): 'ok' | 'risk' | 'fault' {
  if (checks.some((check) => check.grade === 'fault')) return 'fault';
  return checks.some((check) => check.grade === 'risk') ? 'risk' : 'ok';
}
