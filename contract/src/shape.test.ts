import { describe, expect, it } from '@jest/globals';
import Joi from 'joi';
import { either, list, maybe, more, oneOf, optional, record, shape, shapeOf, type Typed } from './shape.ts';

/** Compiles only where two types are the same. */
type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;
const same = <_A, _B>(_: Same<_A, _B>): void => undefined;

const text = Joi.string().allow('');
const number = Joi.number();
const reading = shape({
  id: number,
  says: maybe(text),
  kind: oneOf('light', 'touch'),
  at: list(shape({ x: number })),
  note: optional(text),
  by: record(number),
  what: either(shape({ hour: number }), shape({ lesson: text })),
});
const good = { id: 1, says: null, kind: 'light', at: [{ x: 1 }], by: { a: 2 }, what: { hour: 3 } };

describe('a shape', () => {
  it('is the type of what it lets through', () => {
    same<
      Typed<typeof reading>,
      {
        id: number;
        says: string | null;
        kind: 'light' | 'touch';
        at: { x: number }[];
        by: Record<string, number>;
        what: { hour: number } | { lesson: string };
        note?: string;
      }
    >(true);
    same<Typed<ReturnType<typeof withMore>>, { x: number; y?: string }>(true);
    expect(reading.validate(good).error).toBeUndefined();
    expect(reading.validate({ ...good, note: '' }).error).toBeUndefined();
  });

  it.each([
    ['id', undefined],
    ['says', undefined],
    ['kind', 'sound'],
    ['at', [{ x: 1, y: 2 }]],
    ['at', [{}]],
    ['by', { a: 'b' }],
    ['what', {}],
    ['note', null],
    ['other', 1],
  ])('lets nothing else through: %s as %j', (key, value) => {
    expect(reading.validate({ ...good, [key]: value }).error).toBeDefined();
  });

  it('of a type from elsewhere has all its fields and no others', () => {
    interface Wanted {
      a: number;
      b?: string;
      c: readonly number[];
    }
    expect(
      shapeOf<Wanted>()({ a: number, b: optional(text), c: list(number) }).validate({ a: 1, c: [] }).error,
    ).toBeUndefined();
    // @ts-expect-error: c is missing.
    shapeOf<Wanted>()({ a: number, b: optional(text) });
    // @ts-expect-error: d is nowhere.
    shapeOf<Wanted>()({ a: number, b: optional(text), c: list(number), d: text });
    // @ts-expect-error: a is a number.
    shapeOf<Wanted>()({ a: text, b: optional(text), c: list(number) });
    // @ts-expect-error: b may be missing.
    shapeOf<Wanted>()({ a: number, b: text, c: list(number) });
    // @ts-expect-error: a must be there.
    shapeOf<Wanted>()({ a: optional(number), b: optional(text), c: list(number) });
  });
});

const withMore = () => more(shape({ x: number }), { y: optional(text) });
it('takes more fields', () => {
  expect(withMore().validate({ x: 1, y: '' }).error).toBeUndefined();
  expect(withMore().validate({ y: '' }).error).toBeDefined();
});
