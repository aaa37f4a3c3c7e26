import { typedNumber, type Unit } from '../quantity/index.ts';

/** One number that a person puts into a calculation. */
export interface Input {
  key: string;
  label: string;
  unit: Unit | 'mm/s' | 'mm/s²' | 'deg/s' | '°C' | '';
  /** What stands there before anything is typed. */
  usual: number;
  min: number;
  max: number;
}

/** A number that comes out; null where there is none, with `says` telling why. */
export interface Result {
  label: string;
  value: number | null;
  unit: string;
  digits: number;
}

export interface Answer {
  /** The one that was asked for comes first. */
  results: Result[];
  /** The calculation with the numbers put in, line by line. */
  lines: string[];
  /** A remark that follows from the numbers; empty when there is none. */
  remark: string;
}

/** A calculation as it is done on the board: formula, numbers put in, results with units, and where it comes from. */
export interface Worksheet {
  id: string;
  title: string;
  /** The question it answers, in the second person. */
  asks: string;
  formula: string;
  source: string;
  inputs: Input[];
  answer: (values: Readonly<Record<string, number>>) => Answer;
}

/** Numbers typed or linked in, read against a worksheet: each missing, wrong or outside value says so. */
export function readInputs(
  sheet: Worksheet,
  given: Readonly<Record<string, string | undefined>>,
): { values: Record<string, number>; faults: Record<string, string> } {
  const values: Record<string, number> = {};
  const faults: Record<string, string> = {};
  for (const { key, label, unit, usual, min, max } of sheet.inputs) {
    const text = given[key];
    if (text === undefined) {
      values[key] = usual;
      continue;
    }
    const value = typedNumber(text);
    if (!Number.isFinite(value)) faults[key] = `${label}: type a number.`;
    else if (value < min || value > max)
      faults[key] = `${label}: from ${min} to ${max}${unit ? ` ${unit}` : ''}.`;
    else values[key] = value;
  }
  return { values, faults };
}
