import { sin, cos, log } from '../quantity/index.ts';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import type { RandomGenerator } from 'pure-rand/types/RandomGenerator';

/** z0 and z1 of two uniform numbers in (0, 1] and [0, 1) (Box and Muller 1958). */
export function boxMuller(u1: number, u2: number): [number, number] {
  const r = Math.sqrt(-2 * log(u1));
  return [r * cos(2 * Math.PI * u2), r * sin(2 * Math.PI * u2)];
}

/** A seeded source of noise: the same seed gives the same numbers everywhere. */
export class Noise {
  private readonly source: RandomGenerator;
  private spare = NaN;

  constructor(seed: number) {
    this.source = xoroshiro128plus(seed | 0);
    // Neighbouring seeds start alike; a few draws part them.
    for (let i = 0; i < 8; i++) this.source.next();
  }

  /** Uniform in [0, 1). */
  uniform(): number {
    return (this.source.next() >>> 0) / 4294967296;
  }

  /** Uniform between two ends. */
  between(low: number, high: number): number {
    return low + (high - low) * this.uniform();
  }

  /** Standard normal. */
  normal(): number {
    if (!Number.isNaN(this.spare)) {
      const z = this.spare;
      this.spare = NaN;
      return z;
    }
    const [z0, z1] = boxMuller(1 - this.uniform(), this.uniform());
    this.spare = z1;
    return z0;
  }
}
