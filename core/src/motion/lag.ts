import { exp } from '../quantity/index.ts';

/**
 * Exact lag over a time `dtS`: speed after it and distance covered meanwhile, when the speed was `v` and `target` is commanded.
 * Any speed unit; distance in that unit × s. First order, v′ = u + (v − u)e^(−h/τ), d = u·h − τ(u − v)(1 − e^(−h/τ)); as long as
 * that would change the speed faster than `accelLimit` (speed unit per s), it changes by the limit: a straight ramp.
 */
export function lagStep(
  v: number,
  target: number,
  tauS: number,
  dtS: number,
  accelLimit = Infinity,
): { v: number; d: number } {
  const off = v - target;
  const over = Math.abs(off) - accelLimit * tauS;
  if (over > 0) {
    const ramp = Math.min(dtS, over / accelLimit);
    const then = v - Math.sign(off) * accelLimit * ramp;
    const d = ((v + then) / 2) * ramp;
    if (ramp === dtS) return { v: then, d };
    const rest = lagStep(then, target, tauS, dtS - ramp);
    return { v: rest.v, d: d + rest.d };
  }
  const fade = exp(-dtS / tauS);
  return { v: target + off * fade, d: target * dtS + off * tauS * (1 - fade) };
}

/**
 * The way from a speed to a standstill: v·τ of a first-order lag (integral of v·e^(−t/τ)); above a·τ a straight ramp first,
 * (v² − (aτ)²)/2a + aτ². A run-up to the same speed falls short of driving at it at once by as much.
 */
export function lagWay(speed: number, tauS: number, accelLimit = Infinity): number {
  const gentle = accelLimit === Infinity ? Infinity : accelLimit * tauS;
  return speed <= gentle
    ? speed * tauS
    : (speed * speed - gentle * gentle) / (2 * accelLimit) + gentle * tauS;
}
