import { exp } from '../quantity/index.ts';
/**
 * Exact first-order lag over a time `dtS`: speed after it and distance covered meanwhile, when the
 * speed was `v` and `target` is commanded. Any speed unit; distance in that unit × s.
 * v′ = u + (v − u)e^(−h/τ), d = u·h − τ(u − v)(1 − e^(−h/τ)).
 */
export function lagStep(v: number, target: number, tauS: number, dtS: number): { v: number; d: number } {
  const fade = exp(-dtS / tauS);
  return { v: target + (v - target) * fade, d: target * dtS + (v - target) * tauS * (1 - fade) };
}
