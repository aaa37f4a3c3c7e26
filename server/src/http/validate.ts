import type Joi from 'joi';
import { Problem } from './problems.ts';

/** Nothing that is sent is nested deeper than this: what is, is no lesson and no kit. */
const DEEPEST = 64;

const badText = (says: string) => new Problem(422, 'Check these fields', `Nothing was saved: ${says}.`);

/** Refuses what no schema should have to read: nested without end, or texts that no database can hold. */
export function guard(input: unknown): void {
  const open: [value: unknown, depth: number][] = [[input, 0]];
  while (open.length > 0) {
    const [value, depth] = open.pop()!;
    if (typeof value === 'string') sound(value);
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= DEEPEST) throw badText('it is nested too deep');
    if (Array.isArray(value)) {
      for (const one of value as unknown[])
        if (typeof one === 'string' || (typeof one === 'object' && one !== null && !isFlat(one)))
          open.push([one, depth + 1]);
    } else
      for (const [key, one] of Object.entries(value)) {
        sound(key);
        open.push([one, depth + 1]);
      }
  }
}

/** A list of numbers and gaps, such as a look at colours: there are hundreds of thousands of them. */
const isFlat = (value: object): boolean =>
  Array.isArray(value) && value.length < 8 && value.every((one) => typeof one === 'number' || one === null);

function sound(text: string): void {
  // PostgreSQL cannot hold the NUL character, nor half of a character of two, in any text.
  if (text.includes('\0') || /\p{Cs}/u.test(text))
    throw badText('a text holds a character that cannot be stored');
}

/** Checks a body, query or path against a schema, or throws a 422 with every field that is wrong. */
export function validate<T>(schema: Joi.Schema<T>, input: unknown): T {
  guard(input);
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
