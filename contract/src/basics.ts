import Joi from 'joi';
import { PARAMETER_NAME } from '@vigilum/core/lesson';
import type { Sample } from '@vigilum/core/sensing';

/** Surrounding blanks are taken off before anything is judged: nobody is refused for a blank at the end of a line. */
const trimmed = () => Joi.string().prefs({ convert: true }).trim();

/** One line or more of a person's words, not empty. `longest` in characters. */
export const words = (longest: number) => trimmed().min(1).max(longest);
/** Characters that are not seen, or turn the direction of what stands after them: a name of them is like another, or like none. */
const UNSEEN =
  /[\u0000-\u001f\u007f-\u009f\u00ad\u061c\u180e\u200b\u200e\u200f\u2028-\u202e\u2060-\u2064\u2066-\u206f\ufeff\ufff9-\ufffb]/u;
const SEEN = /[\p{L}\p{N}\p{P}\p{S}]/u;
/** A name that people tell apart by looking: one line, with something to be seen and nothing that is not. */
export const nameWords = (longest: number) =>
  words(longest).custom((value: string, helpers) =>
    UNSEEN.test(value) || !SEEN.test(value)
      ? helpers.message({ custom: '{{#label}} must be a name that can be seen, in one line' })
      : value,
  );
/** The same where nothing need be said. */
export const wordsOrNone = (longest: number) => trimmed().max(longest).allow('');
/** Text that is kept to the last blank: scripts, notes. */
export const verbatim = (longest: number) => Joi.string().max(longest).allow('');

/** A short name in addresses and files. */
export const slug = (longest = 40) =>
  trimmed().pattern(new RegExp(`^[a-z0-9-]{1,${longest}}$`), 'lower-case letters, digits and dashes');
export const socketName = trimmed().pattern(/^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/, 'a socket name');
export const parameterName = trimmed().pattern(PARAMETER_NAME, 'a letter, then letters, digits or _');

export const within = (least: number, most: number) => Joi.number().min(least).max(most);
export const whole = (least: number, most: number) => Joi.number().integer().min(least).max(most);
export const seedNumber = whole(-(2 ** 31), 2 ** 31 - 1);
/** Id of a database row in a request. */
export const rowId = whole(1, 2 ** 31 - 1);
/** A number of the database: ids, counts. */
export const count = whole(0, 2 ** 53);
/** A day of the calendar, as ISO 8601 writes it. */
export const day = Joi.string().pattern(/^\d{4}-\d\d-\d\d$/, 'a day as 2026-11-28');
/** Milliseconds since the epoch. */
export const moment = Joi.number().min(0);
/** Any finite number. */
export const amount = Joi.number().unsafe();

/** Lowest and highest of a range. */
export const pair = (least: number, most: number) =>
  Joi.array<[number, number]>().items(within(least, most).required()).length(2);

/** One of several shapes that are told apart by a field, such as `kind`; what they share comes first. */
export function byField(
  field: string,
  shapes: Readonly<Record<string, Joi.SchemaMap>>,
  shared: Joi.SchemaMap = {},
): Joi.AlternativesSchema {
  const names = Object.keys(shapes);
  return Joi.alternatives().conditional(Joi.ref(`.${field}`), {
    switch: names.map((name) => ({
      is: name,
      then: Joi.object({ [field]: Joi.valid(name).required(), ...shared, ...shapes[name] }),
    })),
    otherwise: Joi.object({ [field]: Joi.valid(...names).required() }).unknown(),
  });
}

const isReading = (v: unknown) => typeof v === 'number' && Math.abs(v) <= 100_000;
const reading = Joi.number().min(-100_000).max(100_000);
/** What a list of looks holds, for descriptions: checked below in one plain loop. */
const sample = Joi.alternatives().try(reading, Joi.valid(null), Joi.array().items(reading).length(3));

/** A list of looks: numbers, gaps, and for rgb triples. Checked in one plain loop, so that 100,000 of them take no time. */
export const samples = <T = Sample>(most: number): Joi.AnySchema<T[]> =>
  Joi.any<T[]>()
    .meta({ described: Joi.array().items(sample).min(1).max(most) })
    .custom((value: unknown, helpers) => {
      const bad = (says: string) => helpers.message({ custom: `{{#label}} ${says}` });
      if (!Array.isArray(value)) return bad('must be a list of readings');
      if (value.length < 1) return bad('must hold a reading');
      if (value.length > most) return bad(`must hold at most ${most} readings`);
      for (const one of value as unknown[]) {
        if (one === null || isReading(one)) continue;
        if (!Array.isArray(one) || one.length !== 3 || !one.every(isReading))
          return bad('must hold numbers from −100000 to 100000, or null for no reading');
      }
      return value as unknown;
    });
