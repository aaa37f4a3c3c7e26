import type { Expectation } from '../../expect/index.ts';
import type { Lesson } from '../lesson.ts';
import type { Binding } from './twist.ts';
import { variantOf } from './variant.ts';

type Change = Partial<Pick<Lesson, 'expectations' | 'conditions' | 'proof'>>;

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const isObject = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

/** What was not changed stays as it was written, parameters and all; the rest is taken as it is now. */
function merged(now: unknown, usual: unknown, written: unknown): unknown {
  if (same(now, usual)) return written;
  if (isObject(now) && isObject(usual) && isObject(written))
    return Object.fromEntries(
      Object.entries(now).map(([key, value]) => [key, merged(value, usual[key], written[key])]),
    );
  return now;
}

/** Which of the old ones each new one goes on from: the same one, else the next of its kind; −1 for none. */
function goesOnFrom(now: readonly Expectation[], before: readonly Expectation[]): number[] {
  const taken = new Set<number>();
  const from = now.map(() => -1);
  const match = (fits: (a: Expectation, b: Expectation) => boolean) =>
    now.forEach((expectation, i) => {
      if (from[i] !== -1) return;
      const free = (j: number) => !taken.has(j) && before[j] !== undefined && fits(expectation, before[j]);
      const j = free(i) ? i : before.findIndex((_, other) => free(other));
      if (j < 0) return;
      taken.add(j);
      from[i] = j;
    });
  match(same);
  match((a, b) => a.kind === b.kind);
  return from;
}

const numberAtPath = (value: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>(
    (inside, key) => (isObject(inside) || Array.isArray(inside) ? (inside as never)[key] : undefined),
    value,
  );

/**
 * Bindings after a change: to what was left alone they hold, at its new place too; a number that was changed is the same for
 * everybody from now on.
 */
function keptBindings(
  bindings: readonly Binding[],
  change: Change,
  usual: Lesson,
  from: readonly number[] | null,
): { bindings: Binding[]; freed: number } {
  let freed = 0;
  const kept = bindings.flatMap((binding) => {
    const [, part, ...path] = binding.at.split('/');
    if (part === 'conditions' && change.conditions) {
      if (same(numberAtPath(change.conditions, path), numberAtPath(usual.conditions, path))) return [binding];
      freed++;
      return [];
    }
    if (part !== 'expectations' || !from) return [binding];
    const [place, ...field] = path;
    const i = from.indexOf(Number(place));
    if (i < 0) return [];
    if (
      same(
        numberAtPath(change.expectations![i], field),
        numberAtPath(usual.expectations[Number(place)], field),
      )
    )
      return [{ ...binding, at: ['', 'expectations', i, ...field].join('/') }];
    freed++;
    return [];
  });
  return { bindings: kept, freed };
}

/**
 * A change that was made to the usual variant of a lesson, written back into the lesson with its twist and what varies from run to
 * run. What was left alone follows them as before, at its new place too; a number that was changed is the same for every team, or
 * in every run, from now on. `freed` counts those of the twist.
 */
export function writtenBack(lesson: Lesson, change: Change): { lesson: Lesson; freed: number } {
  const { twist, varies } = lesson;
  const usual = variantOf(lesson);
  const from = change.expectations ? goesOnFrom(change.expectations, usual.expectations) : null;
  const still = varies && keptBindings(varies.bindings, change, usual, from);
  const next: Lesson = {
    ...lesson,
    ...change,
    ...(varies && still ? { varies: { ...varies, bindings: still.bindings } } : {}),
  };
  if (!twist) return { lesson: next, freed: 0 };
  const { bindings, freed } = keptBindings(twist.bindings, change, usual, from);
  return {
    lesson: {
      ...next,
      ...(change.conditions
        ? {
            conditions: merged(
              change.conditions,
              usual.conditions,
              lesson.conditions,
            ) as Lesson['conditions'],
          }
        : {}),
      ...(from
        ? {
            expectations: change.expectations!.map((now, i) =>
              from[i] === -1
                ? now
                : (merged(now, usual.expectations[from[i]!], lesson.expectations[from[i]!]) as Expectation),
            ),
          }
        : {}),
      twist: { ...twist, bindings },
    },
    freed,
  };
}
