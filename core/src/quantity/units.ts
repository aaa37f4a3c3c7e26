/** Units that a script, a reading or a course may carry, and the kind of quantity each one measures. */
export type Unit = 'mm' | 'cm' | 'in' | 'deg' | 'turns' | 's' | 'ms' | '%' | 'Hz';

/** Kinds of quantity. Two quantities can be compared or added only when their kinds are equal. */
export type QuantityKind = 'length' | 'angle' | 'time' | 'percent' | 'frequency' | 'number';

interface UnitFacts {
  kind: QuantityKind;
  /** How many base units (mm, deg, s, %, Hz) one of this unit is. */
  inBase: number;
  word: string;
}

/**
 * Base units are mm, deg, s, % and Hz. The inch is 25.4 mm exactly
 * (international yard and pound agreement, 1959).
 */
export const units: Record<Unit, UnitFacts> = {
  mm: { kind: 'length', inBase: 1, word: 'millimetres' },
  cm: { kind: 'length', inBase: 10, word: 'centimetres' },
  in: { kind: 'length', inBase: 25.4, word: 'inches' },
  deg: { kind: 'angle', inBase: 1, word: 'degrees' },
  turns: { kind: 'angle', inBase: 360, word: 'turns' },
  s: { kind: 'time', inBase: 1, word: 'seconds' },
  ms: { kind: 'time', inBase: 0.001, word: 'milliseconds' },
  '%': { kind: 'percent', inBase: 1, word: 'percent' },
  Hz: { kind: 'frequency', inBase: 1, word: 'hertz' },
};

/** What a kind of quantity is called in a sentence: "a length", "a percentage". */
export const kindWords: Record<QuantityKind, string> = {
  length: 'a length',
  angle: 'an angle',
  time: 'a time',
  percent: 'a percentage',
  frequency: 'a pitch',
  number: 'a plain number',
};

/** Turns `value` of `unit` into the unit's base (mm, deg, s, %, Hz). */
export function toBase(value: number, unit: Unit): number {
  return value * units[unit].inBase;
}

/** Turns a value in base units into `unit`. */
export function fromBase(value: number, unit: Unit): number {
  return value / units[unit].inBase;
}

/** Converts between two units of one kind; throws a RangeError when the kinds differ. */
export function convert(value: number, from: Unit, to: Unit): number {
  if (units[from].kind !== units[to].kind) {
    throw new RangeError(`Cannot turn ${units[from].word} into ${units[to].word}.`);
  }
  return fromBase(toBase(value, from), to);
}
