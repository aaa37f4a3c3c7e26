import type Joi from 'joi';
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
  const checked = schema.validate(input ?? {}, {
    abortEarly: false,
    convert: false,
    errors: { wrap: { label: false } },
  });
  if (!checked.error) return checked.value;
  const fields = checked.error.details.slice(0, 20).map((detail) => ({
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
