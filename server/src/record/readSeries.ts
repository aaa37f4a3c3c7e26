import { seriesFileSchema } from '@vigilum/contract/files';
import type { SeriesFile } from '@vigilum/contract/types';
import { Problem } from '../http/problems.ts';
import { validate } from '../http/validate.ts';
import { mustBeSound } from '../lessons/sound.ts';

/** A series out of a file of somebody, whole and sound, or a 422 that says what is wrong. */
export function readSeries(text: string): SeriesFile {
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch {
    throw new Problem(
      422,
      'No series',
      'Nothing was read: this is no series file. Choose a file that was saved under Series.',
      [{ field: 'text', says: 'must be JSON' }],
    );
  }
  const file = validate(seriesFileSchema, given);
  for (const lesson of file.lessons) mustBeSound(lesson);
  return file;
}
