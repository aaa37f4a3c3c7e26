/**
 * Writes a number for people: at most `digits` decimals, no trailing zeros, a true minus sign,
 * and a dash for what is not a finite number, so that no NaN ever reaches a screen.
 */
export function formatNumber(value: number | null | undefined, digits = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–';
  const rounded = roundedTo(value, digits);
  return rounded < 0 ? `−${-rounded}` : String(rounded === 0 ? 0 : rounded);
}

const POWERS = [1, 10, 100, 1000];

/** As `toFixed` rounds; a proof writes thousands of numbers, and most are far from where two of them meet. */
function roundedTo(value: number, digits: number): number {
  const power = POWERS[digits];
  const scaled = power === undefined ? NaN : Math.abs(value * power);
  const toHalf = Math.abs(scaled - Math.floor(scaled) - 0.5);
  if (!(scaled < 1e9 && toHalf > 1e-6)) return Number(value.toFixed(digits));
  return (Math.sign(value) * Math.round(scaled)) / power!;
}

/** Like `formatNumber`, but always with exactly `digits` decimals: for columns of figures. */
export function formatFixed(value: number | null | undefined, digits = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–';
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? (0).toFixed(digits) : text).replace('-', '−');
}

/** A number with its unit: "58 %", "−12 mm". */
export function formatQuantity(value: number | null | undefined, unit: string, digits = 1): string {
  const number = formatNumber(value, digits);
  return unit === '' || number === '–' ? number : `${number} ${unit}`;
}

/** "1 step", "3 steps". */
export function countOf(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}

/** A number as people type it: with a decimal comma or a true minus, spaces around it; NaN for anything else. */
export function typedNumber(text: string): number {
  const plain = text.trim().replace(',', '.').replace('−', '-');
  return plain === '' ? NaN : Number(plain);
}
