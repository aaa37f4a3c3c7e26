/** The normal distribution's 97.5 % point. */
const Z = 1.959964;

/**
 * Half width of a 95 % interval in standard errors, for so many degrees of freedom: Student's t at 97.5 %, by the expansion of
 * Abramowitz & Stegun (1964) 26.7.5; one and two degrees exactly.
 */
export function studentHalf(degrees: number): number {
  if (degrees < 1) return Infinity;
  if (degrees === 1) return 12.7062;
  if (degrees === 2) return 4.30265;
  const z2 = Z * Z;
  const g1 = (z2 + 1) / 4;
  const g2 = (5 * z2 ** 2 + 16 * z2 + 3) / 96;
  const g3 = (3 * z2 ** 3 + 19 * z2 ** 2 + 17 * z2 - 15) / 384;
  const g4 = (79 * z2 ** 4 + 776 * z2 ** 3 + 1482 * z2 ** 2 - 1920 * z2 - 945) / 92160;
  return Z * (1 + g1 / degrees + g2 / degrees ** 2 + g3 / degrees ** 3 + g4 / degrees ** 4);
}
