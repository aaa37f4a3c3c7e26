import { convert, type Unit } from '../quantity/index.ts';
import {
  facingOf,
  sensorOf,
  summaryOf,
  type DriveFit,
  type Facing,
  type Fitting,
  type Kit,
  type ReadSet,
  type RobotBuild,
  sameSocket,
} from '../sensing/index.ts';
import type { Program } from '../script/index.ts';
import { ambientLeak, fitLight, type Sense, type SimRobot, type SimSensor } from '../sim/index.ts';
import type { Lesson } from './lesson.ts';
import { lightTasks } from './reading.ts';

/** A robot with what its team has found out about it. Sample sets by socket and surface name. */
export interface KnownRobot {
  kit: Kit;
  build: RobotBuild;
  sets: ({ socket: string; surface: string } & ReadSet)[];
  thresholds: Record<string, number>;
  /** Creep of each heading sensor at rest, deg/s, by socket, as last checked. */
  drifts?: Record<string, number>;
  /** What trials found of its drive, in place of the kit's. */
  braking?: DriveFit;
}

/** Scatters of a sensor that has not been read yet, in mm or in points. */
const USUAL_ECHO_MM = 2;
const USUAL_PROXIMITY = 0.6;
const USUAL_BEACON_DEG = 1.5;
const USUAL_AMBIENT = 0.7;
/** Room light in a classroom, points (house choice, as the stand-ins have it). */
const ROOM_LIGHT = 20;

const facingDegrees: Record<Facing, number | null> = {
  down: null,
  up: null,
  ahead: 0,
  right: 90,
  back: 180,
  left: -90,
};

/** Mean scatter of a socket's own sets, each of five readings or more; the usual one when there is none. */
function ownScatter(known: KnownRobot, socket: string, usual: number): number {
  const found = known.sets.flatMap((set) => {
    if (set.socket !== socket || set.values.length < 5) return [];
    const { sd } = summaryOf(set);
    return sd === null ? [] : [sd];
  });
  return found.length > 0 ? found.reduce((a, b) => a + b, 0) / found.length : usual;
}

/** How one fitted sensor answers, as its own readings say; null for kinds that only motors have. */
function senseOf(known: KnownRobot, lesson: Lesson, fitting: Fitting): Sense | null {
  const spec = sensorOf(known.kit, fitting)!;
  const { socket, heightMm } = fitting;
  switch (spec.kind) {
    case 'light': {
      const read = (role: 'dark' | 'light') => {
        for (const { surface, reflectance, ...task } of lightTasks(lesson)) {
          const set = known.sets.find((s) => s.socket === socket && s.surface === surface);
          if (task.role === role && set && reflectance !== undefined) return { ...set, reflectance };
        }
        return null;
      };
      return { kind: 'light', model: fitLight(read('dark'), read('light'), heightMm) };
    }
    case 'ambient':
      return {
        kind: 'ambient',
        level: ROOM_LIGHT + ambientLeak(heightMm, ROOM_LIGHT),
        scatter: ownScatter(known, socket, USUAL_AMBIENT),
      };
    case 'colour':
      return { kind: 'colour', colours: spec.colours ?? [] };
    case 'distance': {
      const scatter = ownScatter(known, socket, convert(USUAL_ECHO_MM, 'mm', spec.unit as Unit));
      return {
        kind: 'distance',
        scatter,
        ...(spec.noReading === undefined ? {} : { noReading: spec.noReading }),
      };
    }
    case 'proximity':
      return { kind: 'proximity', scatter: ownScatter(known, socket, USUAL_PROXIMITY) };
    case 'beacon':
      return { kind: 'beacon', scatter: USUAL_BEACON_DEG };
    case 'heading':
    case 'spin':
      return { kind: spec.kind, driftPerS: known.drifts?.[socket] ?? 0 };
    case 'rgb':
    case 'touch':
      return { kind: spec.kind };
    case 'wheel':
      return null;
  }
}

/**
 * The robot with its sensors set as a script declares them: “sensor seen is colour on K4” sets a sensor there that can tell
 * colours. What the part cannot do stays as it is.
 */
export function setAsDeclared(build: RobotBuild, kit: Kit, { sensors }: Program): RobotBuild {
  const fittings = build.fittings.map((fitting) => {
    const declared = sensors.find(({ socket }) => sameSocket(socket, fitting.socket))?.kind;
    const modes = kit.sensors.find(({ id }) => id === fitting.sensorId)?.modes ?? [];
    const mode = modes.find(({ kind }) => kind === declared)?.kind;
    return mode && mode !== fitting.mode ? { ...fitting, mode } : fitting;
  });
  return fittings.some((fitting, i) => fitting !== build.fittings[i]) ? { ...build, fittings } : build;
}

/** The simulator's robot: its sensors answer as this robot's own readings say. */
export function simRobot(known: KnownRobot, lesson: Lesson): SimRobot {
  const { kit, build } = known;
  const sensors = build.fittings.flatMap((fitting): SimSensor[] => {
    const spec = sensorOf(kit, fitting);
    const sense = spec && senseOf(known, lesson, fitting);
    if (!spec || !sense) return [];
    const { socket, aheadMm, rightMm, heightMm, turret } = fitting;
    const { unit, samplePeriodMs, min, max, step, raw } = spec;
    return [
      {
        ...sense,
        socket,
        unit,
        aheadMm,
        rightMm,
        heightMm,
        facingDeg: facingDegrees[facingOf(kit, fitting)],
        ...(turret ? { onTurret: true } : {}),
        samplePeriodMs,
        min,
        max,
        step,
        ...(raw ? { raw } : {}),
      },
    ];
  });
  // Lights come first: they share the run's dice, whatever else is plugged in before them.
  sensors.sort((a, b) => Number(b.kind === 'light') - Number(a.kind === 'light'));
  const { wheelDiameterMm, trackMm, lengthMm, widthMm, axleFromFrontMm } = build;
  return {
    wheelDiameterMm,
    trackMm,
    lengthMm,
    widthMm,
    axleFromFrontMm,
    drive: { ...kit.drive, ...known.braking },
    stepTimeMs: kit.stepTimeMs,
    atProgramEnd: kit.atProgramEnd,
    sensors,
  };
}
