import type { DriveFit } from '../sensing/index.ts';
import type { FitInput, RobotFit } from './fitRobot.ts';

/** What can be taken over into the simulation by itself. */
export type Measure = 'speed' | 'straight' | 'turns' | 'dead zone' | 'stops';
export const measuresOfDrive: readonly Measure[] = ['speed', 'straight', 'turns', 'dead zone', 'stops'];

/** The fields of the drive that a measure stands in. */
export const fieldsOf: Record<Measure, readonly (keyof DriveFit)[]> = {
  speed: ['topDegPerS'],
  straight: ['mismatch'],
  turns: ['scrub'],
  'dead zone': ['deadPercent'],
  stops: ['tauBrakeS', 'commandDelayMs', 'accelLimitMmPerS2'],
};

/** A motor that brakes faster is none, s. */
const LEAST_TAU_S = 0.005;

/**
 * The drive as trials found it, measure by measure; null where they cannot tell. Where braking and delay are not told apart, the
 * kit's delay stands and what is over is put to the braking. `lookS` is the sensor's period in the stops.
 */
export function driveFitOf(
  fit: RobotFit,
  {
    drive,
    stepTimeMs,
    trackMm,
    wheelDiameterMm,
    lookS,
  }: Omit<FitInput, 'trials' | 'kitTopMmPerS'> & { wheelDiameterMm: number; lookS: number },
): Record<Measure, DriveFit | null> {
  const {
    topMmPerS,
    mismatch,
    trackMm: track,
    deadPercent,
    stopsAfterS,
    tauBrakeS,
    commandDelayS,
    accelLimitMmPerS2,
  } = fit;
  const stops = (): DriveFit | null => {
    const limit = accelLimitMmPerS2.ok ? { accelLimitMmPerS2: accelLimitMmPerS2.value.value } : {};
    if (tauBrakeS.ok && commandDelayS.ok)
      return { tauBrakeS: tauBrakeS.value.value, commandDelayMs: 1000 * commandDelayS.value.value, ...limit };
    if (!stopsAfterS.ok) return null;
    const rest = stopsAfterS.value.value - lookS / 2 - (1.5 * stepTimeMs + drive.commandDelayMs) / 1000;
    return rest >= LEAST_TAU_S ? { tauBrakeS: rest, commandDelayMs: drive.commandDelayMs, ...limit } : null;
  };
  return {
    speed: topMmPerS.ok ? { topDegPerS: (360 * topMmPerS.value.value) / (Math.PI * wheelDiameterMm) } : null,
    straight: mismatch.ok ? { mismatch: mismatch.value.value } : null,
    turns: track.ok ? { scrub: track.value.value / trackMm - 1 } : null,
    'dead zone': deadPercent.ok ? { deadPercent: deadPercent.value.value } : null,
    stops: stops(),
  };
}

/** Whether a drive stands in for the kit's in a measure. */
export const usesMeasure = (drive: DriveFit | null | undefined, measure: Measure): boolean =>
  fieldsOf[measure].some((field) => drive?.[field] !== undefined);

/** A drive without a measure; null where nothing is left of it. */
export function withoutMeasure(drive: DriveFit | null | undefined, measure: Measure): DriveFit | null {
  const left = Object.entries(drive ?? {}).filter(
    ([field]) => !fieldsOf[measure].includes(field as keyof DriveFit),
  );
  return left.length > 0 ? Object.fromEntries(left) : null;
}
