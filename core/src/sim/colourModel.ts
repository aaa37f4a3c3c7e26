import { power } from '../quantity/index.ts';
import type { Surface } from '../course/index.ts';
import type { Rgb } from '../sensing/index.ts';
import { labOf, nearestColour, type Lab } from '../colour/index.ts';
import { heightFactor } from './lightModel.ts';

/** The look of a surface, each channel 0–1 as sRGB; a surface without a colour is grey by its reflectance. */
export function surfaceColour({ colour, reflectance }: Surface): Rgb {
  if (colour) return colour;
  const grey = reflectance <= 0.0031308 ? 12.92 * reflectance : 1.055 * power(reflectance, 1 / 2.4) - 0.055;
  return [grey, grey, grey];
}

/** What an rgb sensor reads of a look, `full` being its largest reading, at a height and with noise per channel. */
export function readRgb(look: Rgb, heightMm: number, full: number, noise: Rgb): Rgb {
  const light = power(Math.min(1, heightFactor(heightMm) + 0.02), 1 / 2.2);
  const channel = (i: 0 | 1 | 2) =>
    Math.min(full, Math.max(0, Math.round(full * look[i] * light + noise[i])));
  return [channel(0), channel(1), channel(2)];
}

/** The looks that stand for the usual names of colours, sRGB 0–1 (house choice). */
const namedLooks: Record<string, Rgb> = {
  black: [0.13, 0.13, 0.14],
  white: [0.95, 0.95, 0.93],
  grey: [0.5, 0.5, 0.5],
  red: [0.72, 0.16, 0.15],
  green: [0.13, 0.5, 0.24],
  blue: [0.12, 0.28, 0.62],
  yellow: [0.93, 0.79, 0.2],
  orange: [0.91, 0.49, 0.13],
  brown: [0.44, 0.28, 0.16],
  purple: [0.42, 0.2, 0.52],
};

/** How far a look may be from a named colour and still be called by it (ΔE00). */
const NAME_LIMIT = 22;

/** What the names of a list look like, and what looks were named before, worked out once for each list. */
interface Naming {
  references: { name: string; lab: Lab; limit: number }[];
  /** By largest reading and the three channels. */
  named: Map<string, number | null>;
}
const NAMED_KEPT = 50_000;

const namings = new WeakMap<readonly string[], Naming>();
function namingOf(colours: readonly string[]): Naming {
  let found = namings.get(colours);
  if (!found) {
    const references = colours.flatMap((name, code) => {
      const known = namedLooks[name.toLowerCase()];
      return known ? [{ name: String(code), lab: labOf(known, 1), limit: NAME_LIMIT }] : [];
    });
    namings.set(colours, (found = { references, named: new Map() }));
  }
  return found;
}

/**
 * The code number of the colour that a colour sensor names: the nearest of its list within a limit, else
 * nothing (null). Names that the list has and nobody knows a look for are never given.
 */
export function nameColour(look: Rgb, full: number, colours: readonly string[]): number | null {
  const { references, named } = namingOf(colours);
  const key = `${full}:${look[0]}:${look[1]}:${look[2]}`;
  let code = named.get(key);
  if (code === undefined) {
    const nearest = nearestColour(look, full, references);
    code = nearest?.within ? Number(nearest.name) : null;
    if (named.size >= NAMED_KEPT) named.clear();
    named.set(key, code);
  }
  return code;
}
