import type Joi from 'joi';

/**
 * JSON Schemas (draft 2020-12) made from the Joi schemas of files. Only what those schemas are made of is
 * translated; anything else throws, so that nothing is lost without a word. General converters were tried: they drop that
 * text is trimmed before it is judged, tuples, and shapes told apart by a field.
 */
export type JsonSchema = { [key: string]: unknown };

interface Rule {
  name: string;
  args?: { limit?: number; regex?: string };
}
interface Described {
  type: string;
  flags?: { presence?: string; only?: boolean; unknown?: boolean; unsafe?: boolean };
  rules?: Rule[];
  allow?: unknown[];
  metas?: { described?: Described; named?: string }[];
  keys?: Record<string, Described>;
  patterns?: { regex?: string; schema?: Described & { rules?: Rule[] }; rule: Described }[];
  items?: Described[];
  matches?: {
    schema?: Described;
    ref?: unknown;
    switch?: { is: Described; then: Described }[];
    otherwise?: Described;
  }[];
}

/** Parts that stand once, by their names. */
type Parts = Record<string, JsonSchema>;

const limit = (rules: readonly Rule[], name: string): number | undefined =>
  rules.find((rule) => rule.name === name)?.args?.limit;

/** A regular expression as Joi writes it, `/source/flags`, without its slashes. */
const sourceOf = (regex: string): string => regex.slice(1, regex.lastIndexOf('/'));

/** A pattern for text whose surrounding blanks do not count. */
const aroundBlanks = (source: string): string => source.replace(/^\^/, '^\\s*').replace(/\$$/, '\\s*$');

function textSchema(rules: readonly Rule[], empty: boolean): JsonSchema {
  const trimmed = rules.some(({ name }) => name === 'trim');
  const [least, most] = [limit(rules, 'min') ?? (empty ? 0 : 1), limit(rules, 'max')];
  const regex = rules.find(({ name }) => name === 'pattern')?.args?.regex;
  const plain: JsonSchema = { type: 'string' };
  if (!trimmed)
    return {
      ...plain,
      ...(least > 0 ? { minLength: least } : {}),
      ...(most === undefined ? {} : { maxLength: most }),
      ...(regex ? { pattern: sourceOf(regex) } : {}),
    };
  if (regex) {
    const pattern = aroundBlanks(sourceOf(regex));
    return { ...plain, pattern: empty ? `${pattern}|^\\s*$` : pattern };
  }
  // From the first to the last character that is no blank.
  const more = most === undefined ? '(?:[\\s\\S]*\\S)?' : most < 2 ? '' : `(?:[\\s\\S]{0,${most - 2}}\\S)?`;
  const body = `\\S${more}`;
  return { ...plain, pattern: empty ? `^\\s*(?:${body})?\\s*$` : `^\\s*${body}\\s*$` };
}

function numberSchema(rules: readonly Rule[]): JsonSchema {
  const [least, most, greater] = ['min', 'max', 'greater'].map((name) => limit(rules, name));
  return {
    type: rules.some(({ name }) => name === 'integer') ? 'integer' : 'number',
    ...(least === undefined ? {} : { minimum: least }),
    ...(most === undefined ? {} : { maximum: most }),
    ...(greater === undefined ? {} : { exclusiveMinimum: greater }),
  };
}

function objectSchema(
  { keys = {}, patterns = [], flags = {}, rules = [] }: Described,
  parts: Parts,
): JsonSchema {
  const required = Object.entries(keys).flatMap(([key, { flags: own }]) =>
    own?.presence === 'required' ? [key] : [],
  );
  const named = patterns.map(({ regex, schema, rule }): [string, JsonSchema] => {
    const longest = limit(schema?.rules ?? [], 'max');
    return [
      regex ? sourceOf(regex) : longest === undefined ? '^' : `^[\\s\\S]{1,${longest}}$`,
      translate(rule, parts),
    ];
  });
  const [least, most] = [limit(rules, 'min'), limit(rules, 'max')];
  return {
    type: 'object',
    ...(Object.keys(keys).length > 0
      ? {
          properties: Object.fromEntries(
            Object.entries(keys).map(([key, of]) => [key, translate(of, parts)]),
          ),
        }
      : {}),
    ...(required.length > 0 ? { required } : {}),
    ...(named.length > 0 ? { patternProperties: Object.fromEntries(named) } : {}),
    ...(flags.unknown ? {} : { additionalProperties: false }),
    ...(least === undefined ? {} : { minProperties: least }),
    ...(most === undefined ? {} : { maxProperties: most }),
  };
}

function arraySchema({ items = [], rules = [] }: Described, parts: Parts): JsonSchema {
  const length = limit(rules, 'length');
  const [least, most] = [length ?? limit(rules, 'min'), length ?? limit(rules, 'max')];
  if (items.length > 1) throw new Error('A list of several kinds of items is said as one kind.');
  return {
    type: 'array',
    ...(items[0] ? { items: translate(items[0], parts) } : {}),
    ...(least === undefined ? {} : { minItems: least }),
    ...(most === undefined ? {} : { maxItems: most }),
  };
}

function shapesSchema({ matches = [] }: Described, parts: Parts): JsonSchema {
  const anyOf = matches.flatMap(({ schema, switch: cases }) =>
    schema ? [translate(schema, parts)] : (cases ?? []).map(({ then }) => translate(then, parts)),
  );
  return { anyOf };
}

function translate(of: Described, parts: Parts): JsonSchema {
  const named = of.metas?.find((meta) => meta.named)?.named;
  if (named === undefined) return unnamed(of, parts);
  parts[named] ??= unnamed(of, parts);
  return { $ref: `#/$defs/${named}` };
}

function unnamed(of: Described, parts: Parts): JsonSchema {
  const described = of.metas?.find((meta) => meta.described)?.described;
  if (described) return unnamed(described, parts);
  const { type, flags = {}, rules = [], allow = [] } = of;
  // Joi marks a list of allowed values that replaces what was there before with an override.
  const values = allow.filter((value) => typeof value !== 'object' || value === null);
  if (flags.only) return { enum: values };
  const base = (): JsonSchema => {
    switch (type) {
      case 'string':
        return textSchema(rules, values.includes(''));
      case 'number':
        return numberSchema(rules);
      case 'boolean':
        return { type: 'boolean' };
      case 'object':
        return objectSchema(of, parts);
      case 'array':
        return arraySchema(of, parts);
      case 'alternatives':
        return shapesSchema(of, parts);
      case 'any':
        return {};
      default:
        throw new Error(`No translation for ${type}.`);
    }
  };
  const schema = base();
  return values.includes(null) ? { anyOf: [schema, { type: 'null' }] } : schema;
}

/** The JSON Schema of a file whose shape a Joi schema gives. */
export function jsonSchemaOf(schema: Joi.Schema, id: string, title: string, description: string): JsonSchema {
  const parts: Parts = {};
  const whole = unnamed(schema.describe() as Described, parts);
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: id,
    title,
    description,
    ...whole,
    ...(Object.keys(parts).length > 0 ? { $defs: parts } : {}),
  };
}
