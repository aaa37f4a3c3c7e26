import { formatNumber } from '../quantity/index.ts';

/** A number put into a line of working. */
export const show = (value: number | null | undefined, digits = 2): string => formatNumber(value, digits);

/** "5 + 8 + 45". */
export const fewOf = (...values: number[]): string => values.map((value) => show(value)).join(' + ');
