import type { Critical } from '../motion/index.ts';
import { exp, log } from '../quantity/index.ts';

export type Controller = 'P' | 'PD' | 'PI' | 'PID';

/** A controller’s numbers: steering = gain × (off + sum ÷ resetS + change × rateS). Null: it has no such part. */
export interface ControllerGains {
  gain: number;
  /** How long the sum takes to do as much as the gain at once, s. */
  resetS: number | null;
  /** How far ahead the rate of change looks, s. */
  rateS: number | null;
  /** Line by line, with the numbers in it. */
  working: string[];
  source: string;
}

const ZN = 'Ziegler and Nichols 1942, table of the ultimate sensitivity method';
/** Their table has no controller with a rate and no sum. */
const LATER =
  'later handbooks, in the manner of Ziegler and Nichols 1942 (their own table has no such controller)';

const told = (value: number): string => String(Number(value.toPrecision(3)));

/** What the rule tables propose from the critical gain and its period. */
export function ruleGains(controller: Controller, { gain, periodS }: Critical): ControllerGains {
  const part = (share: number) => `gain = ${share} × ${told(gain)} = ${told(share * gain)}`;
  const time = (what: string, of: number, share: string) =>
    `${what} = ${told(periodS)} s ${share} = ${told(of)} s`;
  switch (controller) {
    case 'P':
      return { gain: 0.5 * gain, resetS: null, rateS: null, working: [part(0.5)], source: ZN };
    case 'PI': {
      const resetS = periodS / 1.2;
      return {
        gain: 0.45 * gain,
        resetS,
        rateS: null,
        working: [part(0.45), time('reset time', resetS, '÷ 1.2')],
        source: ZN,
      };
    }
    case 'PD': {
      const rateS = periodS / 8;
      return {
        gain: 0.8 * gain,
        resetS: null,
        rateS,
        working: [part(0.8), time('rate time', rateS, '÷ 8')],
        source: LATER,
      };
    }
    case 'PID': {
      const [resetS, rateS] = [periodS / 2, periodS / 8];
      return {
        gain: 0.6 * gain,
        resetS,
        rateS,
        working: [part(0.6), time('reset time', resetS, '÷ 2'), time('rate time', rateS, '÷ 8')],
        source: ZN,
      };
    }
  }
}

/** A swing in a record: how long one takes, and by what factor it grows from one to the next. */
export interface Swing {
  periodS: number;
  growth: number;
  /** Largest distance from the middle in the part that was looked at. */
  amplitude: number;
  /** Swings that it rests on. */
  swings: number;
}

/**
 * The swing in evenly spaced values about a middle: the peaks between its crossings, their mean distance, and the factor by which
 * they grow (least squares of their logarithms). Null with fewer than four peaks.
 */
export function swingOf(values: ArrayLike<number>, everyS: number, middle = 0): Swing | null {
  const peaks: { at: number; height: number }[] = [];
  let [at, height] = [0, 0];
  let sign = 0;
  for (let i = 0; i < values.length; i++) {
    const off = values[i]! - middle;
    if (Number.isNaN(off)) return null;
    const now = Math.sign(off);
    if (now !== 0 && now !== sign) {
      if (sign !== 0) peaks.push({ at, height });
      [sign, height] = [now, 0];
    }
    if (Math.abs(off) > height) [at, height] = [i, Math.abs(off)];
  }
  // The first peak began before the record, the last one did not end in it.
  const whole = peaks.slice(1);
  if (whole.length < 4) return null;
  const n = whole.length;
  const half = ((whole.at(-1)!.at - whole[0]!.at) * everyS) / (n - 1);
  const logs = whole.map((peak) => log(peak.height));
  const mean = logs.reduce((a, b) => a + b, 0) / n;
  const centre = (n - 1) / 2;
  const slope =
    logs.reduce((sum, one, i) => sum + (i - centre) * (one - mean), 0) /
    logs.reduce((sum, _, i) => sum + (i - centre) ** 2, 0);
  return {
    periodS: 2 * half,
    growth: exp(2 * slope),
    amplitude: Math.max(...whole.map((peak) => peak.height)),
    swings: n / 2,
  };
}

/**
 * The gain at which a swing neither grows nor dies, by halving between one at which it dies and one at which it grows; `swingAt` runs
 * the loop. Null where none of the gains up to `most` swings.
 */
export function criticalBySweep(
  swingAt: (gain: number) => Swing | null,
  first: number,
  most: number,
): Critical | null {
  const grows = (gain: number) => {
    const swing = swingAt(gain);
    return swing !== null && swing.growth >= 1 ? swing : null;
  };
  let low = 0;
  let high = first;
  while (!grows(high)) {
    if (high >= most) return null;
    [low, high] = [high, Math.min(most, high * 1.5)];
  }
  let best = grows(high)!;
  for (let i = 0; i < 12; i++) {
    const middle = (low + high) / 2;
    const swing = grows(middle);
    if (swing) [high, best] = [middle, swing];
    else low = middle;
  }
  return { gain: (low + high) / 2, periodS: best.periodS };
}
