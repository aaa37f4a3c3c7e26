import { linearRegression, mean, sampleStandardDeviation } from 'simple-statistics';
import type { SensorKind } from './kit.ts';

/** One sample of a sensor: a number in its unit, or null for "no reading". */
export type Reading = number | null;

/** One sample of an rgb sensor: red, green, blue in its own range. */
export type Rgb = readonly [number, number, number];

/** What a sensor may report as a sample: a number, three for rgb, or no reading. */
export type Sample = number | Rgb | null;

/** A sample as one number: rgb as the mean of its channels, which is how bright it is. */
export const asNumber = (sample: Sample): Reading =>
  sample === null || typeof sample === 'number' ? sample : (sample[0] + sample[1] + sample[2]) / 3;

/** Figures of a set of samples, in the sensor's unit. Where they cannot be had they are null, never NaN. */
export interface Summary {
  n: number;
  noReadings: number;
  mean: number | null;
  /** Sample standard deviation (n − 1); null under two readings. */
  sd: number | null;
  min: number | null;
  max: number | null;
  /** Least-squares change from the first to the last sample; null under three readings. */
  drift: number | null;
}

/**
 * Summarises samples taken over one surface, distance or state.
 * Infinite and NaN samples count as no reading.
 */
export function summarise(values: readonly Reading[]): Summary {
  const good: [number, number][] = [];
  values.forEach((value, i) => {
    if (value !== null && Number.isFinite(value)) good.push([i, value]);
  });
  const readings = good.map(([, value]) => value);
  const n = readings.length;
  return {
    n,
    noReadings: values.length - n,
    mean: n > 0 ? mean(readings) : null,
    sd: n > 1 ? sampleStandardDeviation(readings) : null,
    min: n > 0 ? readings.reduce((a, b) => Math.min(a, b)) : null,
    max: n > 0 ? readings.reduce((a, b) => Math.max(a, b)) : null,
    drift: n > 2 ? linearRegression(good).m * (good[n - 1]![0] - good[0]![0]) : null,
  };
}

/** A set of readings, or an even sample of a longer one with the figures of the whole beside it. */
export interface ReadSet {
  values: readonly Reading[];
  /** Figures of the whole set, where `values` is only a sample of it. */
  of?: Summary;
}

/** The figures of a whole set, whether all of it is here or a sample. */
export const summaryOf = (set: ReadSet): Summary => set.of ?? summarise(set.values);

/** At most `most` of the items, evenly spaced from the first to the last, in their order. `most` is at least 2. */
export function thinned<Item>(items: readonly Item[], most: number): Item[] {
  if (items.length <= most) return [...items];
  return Array.from({ length: most }, (_, i) => items[Math.round((i * (items.length - 1)) / (most - 1))]!);
}

/** A raw number from a sensor as a reading: its no-reading code, and what is no number, become "no reading". */
export const asReading = (raw: number | null, mode: { noReading?: number }): Reading =>
  raw === null || !Number.isFinite(raw) || raw === mode.noReading ? null : raw;

export interface SetWarning {
  grade: 'risk' | 'fault';
  says: string;
  mend: string;
}

/**
 * What is doubtful about one set, with what to do. `range` is the sensor's own lowest and highest reading. Infrared
 * proximity reads its lowest when nothing is there, so that end is no doubt for it.
 */
export function warnAboutSet(
  set: ReadSet,
  range: { min: number; max: number; kind?: SensorKind },
): SetWarning[] {
  const s = summaryOf(set);
  const warnings: SetWarning[] = [];
  if (s.n === 0) {
    return [{ grade: 'fault', says: 'No reading in this set.', mend: 'Check the plug, then read again.' }];
  }
  if (s.noReadings > 0) {
    warnings.push({
      grade: 'risk',
      says: `${s.noReadings} of ${s.n + s.noReadings} looks gave no reading.`,
      mend: 'Check the plug and hold the robot still.',
    });
  }
  if (s.n < 5) {
    warnings.push({
      grade: 'risk',
      says: `Only ${s.n} ${s.n === 1 ? 'reading' : 'readings'}.`,
      mend: 'Take at least five.',
    });
  }
  const ends = range.kind === 'proximity' ? [range.max] : [range.min, range.max];
  const stuckAt = ends.find((end) => s.min === end && s.max === end);
  if (stuckAt !== undefined && s.n >= 2) {
    warnings.push({
      grade: 'risk',
      says: `Every reading is ${stuckAt}: the sensor is at the end of its range.`,
      mend: 'Change the height or the light and read again.',
    });
  }
  if (
    s.drift !== null &&
    s.sd !== null &&
    s.n >= 5 &&
    Math.abs(s.drift) > 2 * s.sd &&
    Math.abs(s.drift) > 2
  ) {
    warnings.push({
      grade: 'risk',
      says: 'The reading moved while you took it.',
      mend: 'Keep the robot still over one surface and read again.',
    });
  }
  return warnings;
}

/** Sets that are compared but were taken under lights noted differently; null when nothing speaks for that. */
export function warnAboutLight(sets: readonly { surface: string; lightNote: string }[]): SetWarning | null {
  const noted = sets.filter(({ lightNote }) => lightNote.trim() !== '');
  const other = noted.find(
    ({ lightNote }) => lightNote.trim().toLowerCase() !== noted[0]!.lightNote.trim().toLowerCase(),
  );
  return other
    ? {
        grade: 'risk',
        says: `The ${noted[0]!.surface} was read with “${noted[0]!.lightNote.trim()}”, the ${other.surface} with “${other.lightNote.trim()}”.`,
        mend: 'Read them again under one light.',
      }
    : null;
}

/** What is doubtful about a pair of sets that should be told apart. */
export function warnAboutPair(a: ReadSet, b: ReadSet): SetWarning[] {
  const one = summaryOf(a);
  const two = summaryOf(b);
  if (one.mean === null || two.mean === null) return [];
  const gap = Math.abs(one.mean - two.mean);
  const spread = Math.max((one.max ?? 0) - (one.min ?? 0), (two.max ?? 0) - (two.min ?? 0));
  if (gap === 0 || spread > gap) {
    return [
      {
        grade: 'fault',
        says: 'The readings scatter more than the two surfaces differ.',
        mend: 'Check the sensor’s height, then read both surfaces again.',
      },
    ];
  }
  return [];
}
