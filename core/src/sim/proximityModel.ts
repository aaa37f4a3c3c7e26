import type { Reading, SensorMode } from '../sensing/index.ts';
import { quantise } from './lightModel.ts';

/** Distance at which a white thing gives half the full reading, mm. */
const HALF_MM = 120;

/**
 * Infrared proximity, 0–100: falls with distance as 1/(1 + (d/d₀)²) and is proportional to how much the thing
 * sends back (common practice: approximate, best on light surfaces). Nothing in front reads 0.
 */
export function readProximity(
  distanceMm: number | null,
  reflectance: number,
  range: Pick<SensorMode, 'min' | 'max' | 'step'>,
  noise: number,
): number {
  const clean = distanceMm === null ? 0 : (100 * reflectance) / 0.9 / (1 + (distanceMm / HALF_MM) ** 2);
  return quantise(clean + noise, range);
}

/**
 * Direction of an infrared beacon, degrees to the right of straight ahead, in the sensor's steps; nothing when
 * there is none or it lies beside the sensor's field (its range). Its own noise is in degrees.
 */
export function readBeacon(
  deg: number | null,
  range: Pick<SensorMode, 'min' | 'max' | 'step'>,
  noise: number,
): Reading {
  return deg === null || deg < range.min || deg > range.max ? null : quantise(deg + noise, range);
}
