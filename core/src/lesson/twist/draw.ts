import { found, formatNumber, refused, type Outcome } from '../../quantity/index.ts';
import { Noise } from '../../sim/index.ts';
import { readArithmetic } from './arithmetic.ts';
import { namesOf, numbersOf, type NumberParameter, type Twist, type TwistValues } from './twist.ts';

/** So many draws are tried before the constraints count as impossible. */
const TRIES = 500;

/** A seed whose neighbours are far from its own, so that neighbouring teams do not begin alike (Murmur3's finaliser). */
function scattered(seed: number): number {
  let h = seed | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/** How many different numbers a parameter can be in a range, its ends included. */
const places = ({ step }: NumberParameter, from: number, to: number): number =>
  Math.max(1, Math.floor((to - from) / step + 1e-9) + 1);

function drawNumber(parameter: NumberParameter, range: { from: number; to: number }, dice: Noise): number {
  const from = Math.max(parameter.from, range.from);
  const to = Math.max(from, Math.min(parameter.to, range.to));
  const at = Math.floor(dice.uniform() * places(parameter, from, to));
  // Twelve figures: 0.1 + 2 × 0.1 is 0.3 for people.
  return Number((from + at * parameter.step).toPrecision(12));
}

/**
 * Values for one team: the same seed and level give the same values. `level` counts from 1; 0 takes the twist's
 * own ranges. Refused when a constraint cannot be read, or when no draw keeps them all.
 */
export function drawTwist(twist: Twist, seed: number, level = 0): Outcome<TwistValues> {
  const names = namesOf(twist);
  const rules = [];
  for (const constraint of twist.constraints) {
    const rule = readArithmetic(constraint, names);
    if (!rule.ok) return rule;
    rules.push(rule.value);
  }
  const ranges = level > 0 ? (twist.levels?.[level - 1]?.ranges ?? {}) : {};
  const dice = new Noise(scattered(seed));
  for (let i = 0; i < TRIES; i++) {
    const values: TwistValues = {};
    for (const parameter of twist.parameters) {
      const { name } = parameter;
      values[name] =
        parameter.is === 'number'
          ? drawNumber(parameter, Object.hasOwn(ranges, name) ? ranges[name]! : parameter, dice)
          : parameter.words[Math.floor(dice.uniform() * parameter.words.length)]!;
    }
    const numbers = numbersOf(twist, values);
    if (rules.every((rule) => rule(numbers) !== 0)) return found(values);
  }
  return refused(
    `No values were found that keep ${twist.constraints.map((text) => `“${text}”`).join(' and ')}.`,
    'Widen a range or loosen a constraint.',
  );
}

/** The same values in words: “gap 12 cm · colour green”. */
export const valuesInWords = ({ parameters }: Twist, values: TwistValues): string =>
  parameters
    .map(({ says, ...parameter }) => {
      const value = values[parameter.name] ?? parameter.usual;
      const told =
        typeof value === 'number'
          ? `${formatNumber(value)}${parameter.is === 'number' && parameter.unit ? ` ${parameter.unit}` : ''}`
          : value;
      return `${says} ${told}`;
    })
    .join(' · ');

/**
 * A draw for each of several teams, from one seed: different values for different teams as far as the ranges
 * allow it. Refused as for one.
 */
export function drawForTeams(twist: Twist, seed: number, teams: number, level = 0): Outcome<TwistValues[]> {
  const drawn: TwistValues[] = [];
  const taken = new Set<string>();
  for (let team = 0; team < teams; team++) {
    let kept: TwistValues | null = null;
    for (let again = 0; again < 20; again++) {
      const one = drawTwist(twist, (seed + team * 7919 + again * 104_729) | 0, level);
      if (!one.ok) return one;
      kept ??= one.value;
      if (taken.has(JSON.stringify(one.value))) continue;
      kept = one.value;
      break;
    }
    taken.add(JSON.stringify(kept));
    drawn.push(kept!);
  }
  return found(drawn);
}
