import type { ReadingUnit, SensorKind, SensorMode } from './kit.ts';

const percent = { unit: '%', min: 0, max: 100, step: 1 } as const;
const level = { unit: '', min: 0, step: 1 } as const;

/** What a sensor of each kind usually is (common practice): where a kit of one's own starts from. */
export const usualModes: Record<SensorKind, SensorMode> = {
  touch: { kind: 'touch', ...level, max: 1, samplePeriodMs: 20 },
  light: { kind: 'light', ...percent, samplePeriodMs: 50 },
  ambient: { kind: 'ambient', ...percent, samplePeriodMs: 50 },
  colour: {
    kind: 'colour',
    ...level,
    max: 6,
    samplePeriodMs: 50,
    colours: ['black', 'white', 'red', 'green', 'blue', 'yellow', 'brown'],
  },
  rgb: { kind: 'rgb', ...level, max: 255, samplePeriodMs: 50 },
  distance: { kind: 'distance', unit: 'cm', min: 3, max: 250, step: 1, samplePeriodMs: 60, noReading: 255 },
  proximity: { kind: 'proximity', ...percent, samplePeriodMs: 70 },
  heading: { kind: 'heading', unit: 'deg', min: -36_000, max: 36_000, step: 1, samplePeriodMs: 20 },
  spin: { kind: 'spin', unit: 'deg/s', min: -440, max: 440, step: 1, samplePeriodMs: 20 },
  beacon: { kind: 'beacon', unit: 'deg', min: -60, max: 60, step: 5, samplePeriodMs: 100, noReading: -128 },
  wheel: { kind: 'wheel', unit: 'deg', min: -1_000_000, max: 1_000_000, step: 1, samplePeriodMs: 10 },
};

/** The units in which a kind can be told: lengths for what measures a length, angles for what measures an angle. */
export const unitsOfKind: Record<SensorKind, readonly ReadingUnit[]> = {
  touch: ['', '%'],
  light: ['%', ''],
  ambient: ['%', ''],
  colour: [''],
  rgb: [''],
  distance: ['cm', 'mm', 'in'],
  proximity: ['%', ''],
  heading: ['deg'],
  spin: ['deg/s'],
  beacon: ['deg', ''],
  wheel: ['deg'],
};
