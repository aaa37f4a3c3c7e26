import type { StoredTrial } from '@vigilum/core/classroom';
import type { Expectation } from '@vigilum/core/expect';
import { measureFacts, type FloorMeasure, type Lesson } from '@vigilum/core/lesson';

/** What a trial measured, in the measure's shown unit; null when it was not measured. */
export function valueOf(trial: StoredTrial, measure: FloorMeasure): number | null {
  const value = { past: trial.pastMm, gap: trial.gapMm, turn: trial.turnedDeg, count: trial.counted }[
    measure
  ];
  return value === null ? null : value / measureFacts[measure].perUnit;
}

/** The stretch that the lesson's expectations allow for a measure, in its shown unit; null when none speaks of it. */
export function allowed({ expectations }: Lesson, measure: FloorMeasure): [number, number] | null {
  const { perUnit } = measureFacts[measure];
  const band = (e: Expectation): [number, number] | null => {
    switch (e.kind) {
      case 'stops past':
        return measure === 'past' ? [0, e.withinMm] : null;
      case 'ends with gap':
        return measure === 'gap' ? [e.gapMm - e.toleranceMm, e.gapMm + e.toleranceMm] : null;
      case 'net turn':
        return measure === 'turn' ? [e.deg - e.toleranceDeg, e.deg + e.toleranceDeg] : null;
      case 'counts':
        return measure === 'count' ? [e.count - e.tolerance, e.count + e.tolerance] : null;
      default:
        return null;
    }
  };
  const found = expectations.map(band).find((one) => one !== null);
  return found ? [found[0] / perUnit, found[1] / perUnit] : null;
}
