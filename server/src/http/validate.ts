import Joi from 'joi';
import { Problem } from './problems.ts';

/** Checks a body, query or path against a schema, or throws a 422 with every field that is wrong. */
export function validate<T>(schema: Joi.Schema<T>, input: unknown): T {
  // PostgreSQL cannot hold the NUL character in any text.
  if (JSON.stringify(input ?? {}).includes('\\u0000')) {
    throw new Problem(
      422,
      'Check these fields',
      'Nothing was saved: a text holds a character that cannot be stored.',
    );
  }
  const { value, error } = schema.validate(input ?? {}, {
    abortEarly: false,
    convert: false,
    errors: { wrap: { label: false } },
  });
  if (!error) return value as T;
  const fields = error.details.slice(0, 20).map((detail) => ({
    field: detail.path.join('.') || '(request)',
    says: detail.message,
  }));
  throw new Problem(422, 'Check these fields', `Nothing was saved: ${fields[0]!.says}.`, fields);
}

/** A positive whole number from the path; anything else is simply not found. */
export function idFrom(text: string | string[] | undefined): number {
  const id = Number(text);
  return Number.isInteger(id) && id > 0 && id < 2 ** 31 ? id : 0;
}

export const socketName = Joi.string().pattern(/^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/, 'a socket name');
export const seedNumber = Joi.number()
  .integer()
  .min(-(2 ** 31))
  .max(2 ** 31 - 1);

/** A list of looks: numbers, gaps, and for rgb triples. Checked in one plain loop, so that 100,000 of them take no time. */
export const looks = (most: number): Joi.AnySchema =>
  Joi.any().custom((value: unknown, helpers) => {
    const bad = (says: string) => helpers.message({ custom: `{{#label}} ${says}` });
    if (!Array.isArray(value)) return bad('must be a list of readings');
    if (value.length < 1) return bad('must hold a reading');
    if (value.length > most) return bad(`must hold at most ${most} readings`);
    const fine = (v: unknown) => typeof v === 'number' && Math.abs(v) <= 100_000;
    for (const look of value as unknown[]) {
      if (look === null || fine(look)) continue;
      if (!Array.isArray(look) || look.length !== 3 || !look.every(fine))
        return bad('must hold numbers from −100000 to 100000, or null for no reading');
    }
    return value;
  });
