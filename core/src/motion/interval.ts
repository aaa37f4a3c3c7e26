import { studentHalf } from '../statistics/index.ts';

/** A number with its 95 % interval. */
export interface Estimate {
  value: number;
  low: number;
  high: number;
  trials: number;
}

export const estimate = (value: number, standardError: number, degrees: number, trials: number): Estimate => {
  const half = standardError === 0 ? 0 : studentHalf(degrees) * standardError;
  return { value, low: value - half, high: value + half, trials };
};

/** Slope of y = slope × x by least squares through the origin, with its standard error (as NIST StRD NoInt1); scatter is `leastSd` at least. */
export function throughOrigin(points: readonly (readonly [x: number, y: number])[], leastSd = 0): Estimate {
  const xx = points.reduce((sum, [x]) => sum + x * x, 0);
  const slope = points.reduce((sum, [x, y]) => sum + x * y, 0) / xx;
  const rest = points.reduce((sum, [x, y]) => sum + (y - slope * x) ** 2, 0);
  const degrees = points.length - 1;
  return estimate(
    slope,
    Math.max(leastSd, Math.sqrt(rest / Math.max(1, degrees))) / Math.sqrt(xx),
    degrees,
    points.length,
  );
}

/** a and b of y = a·p + b·q by least squares; null where p and q cannot be told apart. */
export function twoTerms(
  points: readonly { p: number; q: number; y: number }[],
  leastSd = 0,
): { a: Estimate; b: Estimate } | null {
  const sum = (of: (point: { p: number; q: number; y: number }) => number) =>
    points.reduce((total, point) => total + of(point), 0);
  const [pp, pq, qq] = [sum(({ p }) => p * p), sum(({ p, q }) => p * q), sum(({ q }) => q * q)];
  const det = pp * qq - pq * pq;
  if (!(det > 1e-9 * pp * qq)) return null;
  const [py, qy] = [sum(({ p, y }) => p * y), sum(({ q, y }) => q * y)];
  const [a, b] = [(qq * py - pq * qy) / det, (pp * qy - pq * py) / det];
  const degrees = points.length - 2;
  const variance = Math.max(
    leastSd ** 2,
    sum(({ p, q, y }) => (y - a * p - b * q) ** 2) / Math.max(1, degrees),
  );
  return {
    a: estimate(a, Math.sqrt((variance * qq) / det), degrees, points.length),
    b: estimate(b, Math.sqrt((variance * pp) / det), degrees, points.length),
  };
}
