import type Joi from 'joi';

export type Described = Joi.Description;
export type Random = (n: number) => number;

/** What no field should ever hold, and somebody will send. */
const STRANGE: readonly unknown[] = [
  null,
  true,
  '',
  ' ',
  'x',
  0,
  -1,
  0.5,
  2 ** 31 - 1,
  2 ** 31,
  2 ** 53,
  1e308,
  -1e308,
  [],
  {},
  [[]],
  ['a', 1, null],
  '\u0000',
  '\ud800',
  '\u202eabc',
  '\u200b',
  '💥'.repeat(30),
  'ab'.repeat(3000),
  '__proto__',
  "'; drop table robots; --",
  '{{7*7}}',
  '../../etc/passwd',
  '{w}{w}{w}',
  '%00',
  'NaN',
  '1e999',
];

/** A value that a schema describes, and now and then, `slip` times of a thousand, one that it does not. Where it may be the id of a row it is one of `ids`. */
export function valueFor(
  described: Described,
  random: Random,
  { slip, ids = [] }: { slip: number; ids?: readonly number[] },
  depth = 0,
): unknown {
  if (depth > 12) return null;
  if (random(1000) < slip) return STRANGE[random(STRANGE.length)];
  const { type, flags, allow, keys, items, rules, matches } = described as {
    type: string;
    flags?: { only?: boolean };
    allow?: unknown[];
    keys?: Record<string, Described & { flags?: { presence?: string } }>;
    items?: Described[];
    rules?: { name: string; args?: { limit?: number } }[];
    matches?: { schema?: Described }[];
  };
  const limit = (name: string): number | undefined => {
    const given = rules?.find((rule) => rule.name === name)?.args?.limit;
    return typeof given === 'number' ? given : undefined;
  };
  const choices = (allow ?? []).filter((one) => typeof one !== 'object' || one === null);
  if (flags?.only && choices.length > 0) return choices[random(choices.length)];
  switch (type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(keys ?? {})
          .filter(([, key]) => key.flags?.presence === 'required' || random(2) === 0)
          .map(([name, key]) => [name, valueFor(key, random, { slip, ids }, depth + 1)]),
      );
    case 'array': {
      const n = Math.min(limit('max') ?? 4, (limit('length') ?? limit('min') ?? 0) + random(3));
      const [item] = items ?? [];
      return Array.from({ length: n }, () =>
        item ? valueFor(item, random, { slip, ids }, depth + 1) : random(9),
      );
    }
    case 'number': {
      const [low, high] = [limit('min') ?? 0, limit('max') ?? 100];
      if (low === 1 && high === 2 ** 31 - 1 && ids.length > 0) return ids[random(ids.length)];
      const value = low + random(1000) * ((high - low) / 1000);
      return rules?.some(({ name }) => name === 'integer') ? Math.floor(value) : value;
    }
    case 'boolean':
      return random(2) === 0;
    case 'string':
      return ['tide-line', 'K3', 'cobble', 'Wren', 'light', 'a', 'drive 30 %\nstop', 'red card'][random(8)];
    case 'alternatives': {
      const schemas = (matches ?? []).flatMap(({ schema }): Described[] => (schema ? [schema] : []));
      const chosen = schemas[random(Math.max(1, schemas.length))];
      return chosen ? valueFor(chosen, random, { slip, ids }, depth + 1) : {};
    }
    default:
      return random(2) === 0 ? [20, 21, 22, 20, 19, 20, 22, 21, 20, 20, 21] : STRANGE[random(STRANGE.length)];
  }
}
