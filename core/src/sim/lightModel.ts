import { exp } from '../quantity/index.ts';
import { summaryOf, type ReadSet, type SensorMode } from '../sensing/index.ts';

/**
 * How one robot's reflected-light sensor answers: reading = 100·gain·reflectance + leak, with a scatter
 * that may differ between dark and light surfaces. Reflectance 0–1, the rest in the sensor's unit.
 */
export interface LightModel {
  gain: number;
  leak: number;
  /** Noiseless readings at which the two scatters were measured, and those scatters. */
  lowAt: number;
  lowSd: number;
  highAt: number;
  highSd: number;
  footprintRadiusMm: number;
}

/** The height at which the lamp's spot and the detector's view meet best, mm. */
const BEST_HEIGHT_MM = 11;

/**
 * Share of the light that comes back at a height, 1 at best: ((h/h₀)·e^(1−h/h₀))³. Closer or farther and
 * the reading collapses (common practice: mount 8–16 mm above the floor).
 */
export function heightFactor(heightMm: number): number {
  const h = Math.max(0, heightMm) / BEST_HEIGHT_MM;
  return (h * exp(1 - h)) ** 3;
}

/** Radius of the spot a sensor sees, mm: it grows with the height. */
export function footprintRadius(heightMm: number): number {
  return 1 + 0.25 * Math.max(0, heightMm);
}

/** Room light that leaks in beside the sensor's own lamp, in reading points; grows with the height. */
export function ambientLeak(heightMm: number, roomLight: number): number {
  return roomLight * Math.min(1, (Math.max(0, heightMm) / 40) ** 2);
}

/** A sensor as its maker describes it, for a robot that has read nothing yet. Scatter 1.5 points. */
export function nominalLight(heightMm: number, roomLight = 20): LightModel {
  return {
    gain: heightFactor(heightMm),
    leak: ambientLeak(heightMm, roomLight),
    lowAt: 20,
    lowSd: 1.5,
    highAt: 80,
    highSd: 1.5,
    footprintRadiusMm: footprintRadius(heightMm),
  };
}

export interface ReadSurface extends ReadSet {
  /** Reflectance of that surface on the course, 0–1. */
  reflectance: number;
}

/**
 * Fits the model to a robot's own readings of two surfaces: two means give gain and leak, two sample sds
 * the scatter. Falls back to the nominal model when a set is missing or the surfaces read alike.
 */
export function fitLight(dark: ReadSurface | null, light: ReadSurface | null, heightMm: number): LightModel {
  const nominal = nominalLight(heightMm);
  const a = dark && summaryOf(dark);
  const b = light && summaryOf(light);
  if (!a || !b || a.mean === null || b.mean === null || a.mean === b.mean) return nominal;
  const gap = light.reflectance - dark.reflectance;
  if (gap === 0) return nominal;
  const gain = (b.mean - a.mean) / (100 * gap);
  return {
    gain,
    leak: a.mean - 100 * gain * dark.reflectance,
    lowAt: a.mean,
    lowSd: a.sd ?? nominal.lowSd,
    highAt: b.mean,
    highSd: b.sd ?? nominal.highSd,
    footprintRadiusMm: nominal.footprintRadiusMm,
  };
}

/** The scatter at a noiseless reading: straight between the two measured ones, level beyond. */
export function scatterAt(model: LightModel, reading: number): number {
  const { lowAt, lowSd, highAt, highSd } = model;
  if (lowAt === highAt) return lowSd;
  const t = Math.min(1, Math.max(0, (reading - lowAt) / (highAt - lowAt)));
  return lowSd + t * (highSd - lowSd);
}

/** A reading as the sensor reports it: rounded to its step, held within its range. */
export function quantise(
  value: number,
  { min, max, step }: Pick<SensorMode, 'min' | 'max' | 'step'>,
): number {
  const rounded = Math.round(value / step) * step;
  return rounded < min ? min : rounded > max ? max : rounded;
}
