import { describe, expect, it } from '@jest/globals';
import Joi from 'joi';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { byField, samples, pair, slug, verbatim, words, wordsOrNone } from './basics.ts';
import { jsonSchemaOf } from './jsonSchema.ts';

/** What Joi and its JSON Schema say of values: they must say the same. */
function both(schema: Joi.Schema, values: readonly unknown[]): (boolean | 'differ')[] {
  const published = new Ajv2020().compile(jsonSchemaOf(schema, 'x', 'x', 'x'));
  return values.map((value) => {
    const ours = schema.validate(value, { convert: false }).error === undefined;
    return ours === published(value) ? ours : 'differ';
  });
}

describe('a JSON Schema made from the contract', () => {
  it('takes blanks off before it measures text', () => {
    expect(both(words(3), ['abc', ' abc ', 'abcd', ' ', '', 'a c', '\tab\n'])).toEqual([
      true,
      true,
      false,
      false,
      false,
      true,
      true,
    ]);
    expect(both(words(1), ['a', ' a ', 'ab', ''])).toEqual([true, true, false, false]);
    expect(both(wordsOrNone(2), ['', '   ', ' ab', 'abc'])).toEqual([true, true, true, false]);
    expect(both(slug(), ['tide-line', ' tide-line ', 'Tide', 'tide line', ''])).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
    expect(both(slug().allow(''), ['', '  ', 'x'])).toEqual([true, true, true]);
    // Scripts are kept to the last blank.
    expect(both(verbatim(3), ['', '   ', 'abcd'])).toEqual([true, true, false]);
  });

  it('tells shapes apart by their field, and says where a field is missing or too many', () => {
    const shape = byField(
      'kind',
      { disc: { r: Joi.number().required() }, none: {} },
      { name: words(5).required() },
    );
    expect(
      both(shape, [
        { kind: 'disc', name: 'a', r: 1 },
        { kind: 'none', name: 'a' },
        { kind: 'none', name: 'a', r: 1 },
        { kind: 'disc', name: 'a' },
        { kind: 'spiral', name: 'a' },
        { name: 'a' },
        'disc',
        null,
      ]),
    ).toEqual([true, true, false, false, false, false, false, false]);
  });

  it('knows pairs, lists of looks, nulls and numbers in bounds', () => {
    expect(both(pair(0, 10), [[1, 2], [1], [1, 2, 3], [1, 11], [1, null], {}])).toEqual([
      true,
      false,
      false,
      false,
      false,
      false,
    ]);
    expect(both(samples(3), [[1, null, [1, 2, 3]], [], [1, 2, 3, 4], ['1'], [[1, 2]], [1e9]])).toEqual([
      true,
      false,
      false,
      false,
      false,
      false,
    ]);
    expect(both(Joi.number().integer().min(1).allow(null), [1, null, 0, 1.5, '1'])).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
  });

  it('says a part that has a name once', () => {
    const point = Joi.object({ x: Joi.number().required() }).meta({ named: 'point' });
    const line = jsonSchemaOf(Joi.object({ from: point, to: point }), 'line', 'Line', 'From here to there.');
    expect(line).toMatchObject({
      properties: { from: { $ref: '#/$defs/point' }, to: { $ref: '#/$defs/point' } },
      $defs: { point: { type: 'object', required: ['x'] } },
    });
  });

  it('refuses what it cannot say, instead of losing it', () => {
    expect(() => jsonSchemaOf(Joi.date(), 'x', 'x', 'x')).toThrow('No translation for date.');
    expect(() => jsonSchemaOf(Joi.array().items(Joi.number(), Joi.string()), 'x', 'x', 'x')).toThrow(
      /several kinds/,
    );
  });
});
