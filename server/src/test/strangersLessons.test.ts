import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { logHead, readRunLog } from '@vigilum/core/formats';
import { courseSchema } from '@vigilum/contract/files';
import { lessonSchema } from '@vigilum/contract/files';
import { harbourLessons } from '../starter/lessons/index.ts';

// Lessons, courses and logs come from strangers: whatever they hold, they are refused with words or taken whole.

const plain = (value: unknown) => JSON.parse(JSON.stringify(value)) as Record<string, unknown>;
const refusal = (schema: typeof lessonSchema | typeof courseSchema, value: unknown) =>
  schema.validate(value, { abortEarly: false, convert: false }).error;

/** Every place in a value, as a path. */
function* paths(value: unknown, at: (string | number)[] = []): Generator<(string | number)[]> {
  if (at.length > 0) yield at;
  if (Array.isArray(value))
    for (const [i, part] of value.slice(0, 3).entries()) yield* paths(part, [...at, i]);
  else if (value !== null && typeof value === 'object')
    for (const [key, part] of Object.entries(value)) yield* paths(part, [...at, key]);
}

function putAt(value: unknown, [key, ...rest]: (string | number)[], put: unknown): unknown {
  if (key === undefined) return put;
  if (Array.isArray(value))
    return value.map((part: unknown, i) => (i === key ? putAt(part, rest, put) : part));
  return Object.fromEntries(
    Object.entries(value as object).map(([name, part]) => [
      name,
      name === key ? putAt(part, rest, put) : (part as unknown),
    ]),
  );
}

describe('a lesson from a stranger', () => {
  const given = plain(harbourLessons[5]);

  it('is refused when any of its parts is of another kind, and names the part', () => {
    // A map from any name to any formula takes { not: 'this' }: what it means is told by the twist's own faults.
    const maps = ['twist.family.values', 'varies.family.values'];
    for (const path of [...paths(given)].filter((one) => !maps.includes(one.join('.')))) {
      const broken = putAt(given, path, { not: 'this' });
      const error = refusal(lessonSchema, broken);
      expect([path.join('.'), error === undefined]).toEqual([path.join('.'), false]);
      expect(error!.message.length).toBeGreaterThan(8);
    }
  });

  it('is refused when it holds anything that nobody knows', () => {
    for (const key of ['script', 'onload', '__proto__x', 'constructor'])
      expect(refusal(lessonSchema, { ...given, [key]: 1 })).toBeDefined();
    expect(
      refusal(lessonSchema, { ...given, course: { ...(given.course as object), html: '<b>' } }),
    ).toBeDefined();
  });

  it('cannot crash the check, whatever it is', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => refusal(lessonSchema, value) !== undefined),
      { numRuns: 200 },
    );
    fc.assert(
      fc.property(fc.jsonValue(), (value) => refusal(courseSchema, value) !== undefined),
      { numRuns: 200 },
    );
  });

  it('is bounded in every list', () => {
    const many = (n: number, item: unknown) => Array.from({ length: n }, () => item);
    const { expectations, faults, cautions } = given as {
      expectations: unknown[];
      faults: unknown[];
      cautions: unknown[];
    };
    for (const change of [
      { expectations: many(41, expectations[0]) },
      { faults: many(41, faults[0]) },
      { cautions: many(21, cautions[0]) },
      { modelScript: 'x'.repeat(200_001) },
      { timeLimitS: 100_000 },
    ])
      expect(refusal(lessonSchema, { ...given, ...change })).toBeDefined();
  });
});

describe('a log from a stranger', () => {
  it('is read or refused in one sentence, and never crashes', () => {
    const cell = fc.oneof(
      fc.constantFrom('', '1', '2.5', '1,5', 'none', '-3', 'x', '1e400', '"', "'=1"),
      fc.string({ maxLength: 8 }),
    );
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 4 }), { maxLength: 8 }), (rows) => {
        const text = `t,K3\n${rows.map((row) => row.join(',')).join('\n')}`;
        const head = logHead(text);
        const read = readRunLog(text, [
          { as: 'time', unit: 's' },
          { as: 'signal', signal: 'K3', unit: '%', target: '%' },
        ]);
        if (!read.ok) return read.says.length > 5 && read.mend.length > 3;
        const { timesS, signals } = read.value;
        return head.ok && timesS.length === signals.K3!.values.length && timesS[0] === 0;
      }),
      { numRuns: 300 },
    );
  });
});
