import Joi from 'joi';
import { LOG_COLUMNS, LOG_ROWS } from '@vigilum/core/formats';
import { samples, words, wordsOrNone } from '../basics.ts';

/** What a robot wrote down of one run: signals with units over one row of times, s. */
export interface RunLog {
  name: string;
  times: number[];
  signals: Record<string, { unit: string; values: (number | null)[] }>;
}

/** The shape of a run log. That times go forward and columns are full is `runLogFaults`. */
export const runLogSchema = Joi.object<RunLog>({
  name: words(120).required(),
  times: samples(LOG_ROWS).required(),
  signals: Joi.object()
    .pattern(
      Joi.string().max(60),
      Joi.object({ unit: wordsOrNone(10).required(), values: samples(LOG_ROWS).required() }),
    )
    .min(1)
    .max(LOG_COLUMNS)
    .required(),
}).label('the log');

/** What is wrong with a log of the right shape, in words; null for nothing. */
export function runLogFault({ times, signals }: RunLog): string | null {
  const back = times.findIndex((t, i) => typeof t !== 'number' || t < 0 || (i > 0 && t <= times[i - 1]!));
  if (back >= 0) return `times must go forward from 0: number ${back + 1} does not`;
  const uneven = Object.entries(signals).find(([, { values }]) => values.length !== times.length);
  return uneven ? `“${uneven[0]}” must have as many values as there are times` : null;
}
