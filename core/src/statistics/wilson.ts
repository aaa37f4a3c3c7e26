/** The 97.5 % point of the standard normal. */
const Z95 = 1.959963984540054;

/**
 * Wilson score interval for a pass rate, two-sided 95 % (Wilson 1927; Newcombe 1998, method 3).
 * Throws a RangeError unless 0 ≤ passes ≤ runs and runs ≥ 1.
 */
export function wilson(passes: number, runs: number, z = Z95): { low: number; high: number } {
  if (!(runs >= 1) || passes < 0 || passes > runs) {
    throw new RangeError(`No interval for ${passes} of ${runs}.`);
  }
  const p = passes / runs;
  const zz = z * z;
  const middle = p + zz / (2 * runs);
  const spread = z * Math.sqrt((p * (1 - p)) / runs + zz / (4 * runs * runs));
  const scale = 1 + zz / runs;
  return {
    low: passes === 0 ? 0 : (middle - spread) / scale,
    high: passes === runs ? 1 : (middle + spread) / scale,
  };
}

/**
 * The fewest runs, all of them passed, whose interval lies above a bar: n/(n + z²) > bar, the lower end of `wilson(n, n)`.
 * Throws a RangeError unless 0 ≤ bar < 1.
 */
export function runsToReach(bar: number, z = Z95): number {
  if (!(bar >= 0 && bar < 1)) throw new RangeError(`No number of runs reaches ${bar}.`);
  return Math.max(1, Math.floor((bar * z * z) / (1 - bar)) + 1);
}

/**
 * The fewest runs, so many of them failed, whose interval lies above a bar. Throws a RangeError unless 0 ≤ bar < 1 and failures is a
 * whole number from 0.
 */
export function runsToReachWith(bar: number, failures: number): number {
  if (!(bar >= 0 && bar < 1) || !(failures >= 0) || !Number.isInteger(failures))
    throw new RangeError(`No number of runs reaches ${bar} with ${failures} failures.`);
  let [low, high] = [failures, Math.max(runsToReach(bar), failures + 1)];
  const reached = (n: number) => n > failures && wilson(n - failures, n).low > bar;
  while (!reached(high)) [low, high] = [high, 2 * high];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (reached(middle)) high = middle;
    else low = middle;
  }
  return high;
}
