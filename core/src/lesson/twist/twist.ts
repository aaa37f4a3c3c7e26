import type { Unit } from '../../quantity/index.ts';

/** A number that differs from team to team: one of from, from + step, … up to `to`. */
export interface NumberParameter {
  is: 'number';
  /** How texts and formulas call it: a letter, then letters, digits or _. */
  name: string;
  /** What it is, for people: “gap to the quay”. */
  says: string;
  unit: Unit | '';
  from: number;
  to: number;
  step: number;
  /** What the lesson uses when no twist is drawn. */
  usual: number;
}

/** A word that differs from team to team: a colour, a side. */
export interface WordParameter {
  is: 'word';
  name: string;
  says: string;
  words: string[];
  usual: string;
}

export type TwistParameter = NumberParameter | WordParameter;
export type TwistValues = Record<string, number | string>;

/** A number of the lesson that follows the parameters. */
export interface Binding {
  /** Where the number stands in the lesson, as a JSON Pointer (RFC 6901): “/expectations/0/gapMm”. */
  at: string;
  /** What it becomes: “10 * gap”. */
  value: string;
}

/** One level of a challenge: narrower or wider ranges than the twist's own. */
export interface Level {
  says: string;
  ranges: Record<string, { from: number; to: number }>;
}

/**
 * What differs from team to team. In every text of the lesson, scripts too, `{name}` stands for the parameter;
 * a course of a family is made anew from numbers that follow the parameters; further numbers are bound one by one.
 */
export interface Twist {
  parameters: TwistParameter[];
  /** What must hold between them: “gap + 5 < reach”. */
  constraints: string[];
  family?: { id: string; values: Record<string, string> };
  bindings: Binding[];
  levels?: Level[];
}

export const TWIST_LIMIT = { parameters: 12, constraints: 12, bindings: 60, words: 20, levels: 3 } as const;
export const PARAMETER_NAME = /^[A-Za-z][A-Za-z0-9_]{0,23}$/;

/** What every parameter is when no twist is drawn. */
export const usualValues = ({ parameters }: Twist): TwistValues =>
  Object.fromEntries(parameters.map(({ name, usual }) => [name, usual]));

/** Values as formulas take them: a word counts as its place among the parameter’s words, the first as 1. */
export const numbersOf = ({ parameters }: Twist, values: TwistValues): Record<string, number> =>
  Object.fromEntries(
    parameters.map((parameter) => {
      const value = values[parameter.name] ?? parameter.usual;
      if (typeof value === 'number') return [parameter.name, value];
      return [parameter.name, parameter.is === 'word' ? parameter.words.indexOf(value) + 1 : NaN];
    }),
  );

/** The names that formulas of a twist may use. */
export const namesOf = ({ parameters }: Twist): Set<string> => new Set(parameters.map(({ name }) => name));

/** How many of one length, time or share unit make another: what a formula multiplies by rather than adds. */
const FACTORS = [0.1, 10, 25.4, 100, 1000];

/** A formula that leaves a number as it is while the parameter is usual: “10 * gap” for 150 at 15, “gap + 2” for 17. */
export function formulaFor({ name, usual }: NumberParameter, value: number): string {
  const factor = FACTORS.find((times) => Math.abs(times * usual - value) < 1e-9 && value !== 0);
  if (factor !== undefined) return `${factor} * ${name}`;
  const more = Number((value - usual).toPrecision(9));
  if (more === 0) return name;
  return more > 0 ? `${name} + ${more}` : `${name} - ${-more}`;
}
