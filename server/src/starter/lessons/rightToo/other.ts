import type { TypicalFault } from '@vigilum/core/lesson';

/** An answer that is right as well, with why: whole, or as the model answer with some texts in place of others. */
export type OtherRight = { name: string } & (
  { script: string } | { change: readonly (readonly [from: string, to: string])[] }
);

/** The answer as a script. Throws where the model answer does not hold what is to be changed: a slip of the programmer. */
export function written(other: OtherRight, model: string): TypicalFault {
  if ('script' in other) return other;
  const script = other.change.reduce((text, [from, to]) => {
    if (!text.includes(from)) throw new RangeError(`“${other.name}” changes “${from}”, which is not there.`);
    return text.replace(from, () => to);
  }, model);
  return { name: other.name, script };
}
