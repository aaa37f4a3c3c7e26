import type { Reading, SensorMode } from '../sensing/index.ts';
import { quantise } from './lightModel.ts';

type Range = Pick<SensorMode, 'min' | 'max' | 'step'>;

/** Scatter of an echo, in the sensor's unit: the given floor, growing by half a percent of the range. */
export const echoScatter = (distance: number, floor: number): number => floor + 0.005 * distance;

/**
 * What a distance sensor by sound reads of a flat thing at `distance` (in its own unit) met `obliqueDeg` off
 * square: nothing when too near, too far or met so obliquely that the echo goes elsewhere. `z` is a standard
 * normal draw. The no-reading code is not given here: a lost echo is null.
 */
export function readEcho(
  distance: number | null,
  obliqueDeg: number,
  range: Range,
  { z, scatter, coneHalfDeg = 14 }: { z: number; scatter: number; coneHalfDeg?: number },
): Reading {
  if (distance === null || Math.abs(obliqueDeg) > 2 * coneHalfDeg) return null;
  const heard = distance + z * echoScatter(distance, scatter);
  return heard < range.min || heard > range.max ? null : quantise(heard, range);
}
