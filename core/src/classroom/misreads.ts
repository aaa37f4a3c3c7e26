import { resultFacts, type Trial } from '../tuning/index.ts';
import { judgeThreshold } from '../threshold/index.ts';
import { pairOfRecord, wantedIn } from './known.ts';
import type { TeamRecord } from './standing.ts';

/**
 * Trials with what their threshold would misread of a thousand looks, the worse of both surfaces, from this team's own readings. Left out
 * where the two surfaces of the lesson's sensor are not read, or a trial has no threshold of it in the sensor's unit.
 */
export function withMisreads(record: TeamRecord, trials: readonly Trial[]): Trial[] {
  const pair = pairOfRecord(record);
  if (!pair) return [...trials];
  const { name } = record.lesson.need;
  const names = new Set([`${name} threshold`, `${name} target`]);
  return trials.map((trial) => {
    const knob = trial.knobs.find(
      (one) => names.has(one.name) && (one.unit === pair.unit || one.unit === ''),
    );
    if (!knob) return trial;
    const { misreadsLow, misreadsHigh } = judgeThreshold(knob.value, pair, wantedIn(record, pair));
    const worse = Math.max(misreadsLow, misreadsHigh);
    const { digits } = resultFacts.misreads;
    return { ...trial, results: { ...trial.results, misreads: Number(worse.toFixed(digits + 1)) } };
  });
}
