import {
  converter,
  differenceCiede2000,
  modeLab65,
  modeRgb,
  modeXyz65,
  useMode as addMode,
  type Lab65,
} from 'culori/fn';
import type { Rgb } from '../sensing/index.ts';
import { leaveOneOut, type Confusion } from '../threshold/index.ts';

addMode(modeRgb);
addMode(modeXyz65);
addMode(modeLab65);

/** CIE L*a*b*, white D65. */
export type Lab = readonly [number, number, number];

const toLab = converter('lab65');
const ciede2000 = differenceCiede2000();
const asCulori = ([l, a, b]: Lab): Lab65 => ({ mode: 'lab65', l, a, b });

/** CIE L*a*b* (D65) of a look whose full scale is `full`, taken as sRGB (IEC 61966-2-1). */
export function labOf([r, g, b]: Rgb, full: number): Lab {
  const lab = toLab({ mode: 'rgb', r: r / full, g: g / full, b: b / full });
  return [lab.l, lab.a, lab.b];
}

/** Colour difference ΔE00 (CIE 142-2001; Sharma, Wu and Dalal 2005), kL = kC = kH = 1. About 1 is just seen. */
export const deltaE00 = (a: Lab, b: Lab): number => ciede2000(asCulori(a), asCulori(b));

const averageLab = (samples: readonly Lab[]): Lab => {
  const sum = [0, 0, 0];
  for (const lab of samples) lab.forEach((v, i) => (sum[i]! += v));
  return [sum[0]! / samples.length, sum[1]! / samples.length, sum[2]! / samples.length];
};

/** A colour that was read, as it is told apart from the others. */
export interface ColourFigures {
  name: string;
  n: number;
  /** Mean look, in the sensor's own range. */
  mean: Rgb;
  lab: Lab;
  /** Largest ΔE00 of a sample from the mean. */
  spread: number;
  rival: { name: string; deltaE: number } | null;
  /** The limit to set: farther than this from the mean it is some other colour. Half way to the nearest rival. */
  limit: number | null;
}

export interface ColourStudy {
  colours: ColourFigures[];
  confusion: Confusion;
}

/** What rgb looks at several colours tell: their nearest rivals, the limits to set, and what is mixed up. */
export function studyColours(
  sets: readonly { name: string; samples: readonly Rgb[] }[],
  full: number,
): ColourStudy {
  const groups = sets
    .filter(({ samples }) => samples.length > 0)
    .map(({ name, samples }) => ({
      name,
      rgb: samples,
      samples: samples.slice(0, 200).map((rgb) => labOf(rgb, full)),
    }));
  const means = groups.map(({ samples }) => averageLab(samples));
  const colours = groups.map(({ name, rgb, samples }, i): ColourFigures => {
    let rival: ColourFigures['rival'] = null;
    groups.forEach((other, j) => {
      if (j === i) return;
      const deltaE = deltaE00(means[i]!, means[j]!);
      if (!rival || deltaE < rival.deltaE) rival = { name: other.name, deltaE };
    });
    const nearest = rival as ColourFigures['rival'];
    const channel = (c: 0 | 1 | 2) => rgb.reduce((sum, one) => sum + one[c], 0) / rgb.length;
    return {
      name,
      n: rgb.length,
      mean: [channel(0), channel(1), channel(2)],
      lab: means[i]!,
      spread: Math.max(...samples.map((lab) => deltaE00(lab, means[i]!))),
      rival: nearest,
      limit: nearest ? nearest.deltaE / 2 : null,
    };
  });
  return { colours, confusion: leaveOneOut(groups, averageLab, deltaE00) };
}

/** The nearest of several reference colours, and how far the next is; null when there is none. */
export function nearestColour(
  rgb: Rgb,
  full: number,
  references: readonly { name: string; lab: Lab; limit?: number | null }[],
): { name: string; deltaE: number; within: boolean; second: { name: string; deltaE: number } | null } | null {
  const lab = labOf(rgb, full);
  const ranked = references
    .map((reference) => ({ reference, deltaE: deltaE00(lab, reference.lab) }))
    .sort((a, b) => a.deltaE - b.deltaE);
  const [first, next] = ranked;
  if (!first) return null;
  return {
    name: first.reference.name,
    deltaE: first.deltaE,
    within:
      first.reference.limit === undefined ||
      first.reference.limit === null ||
      first.deltaE <= first.reference.limit,
    second: next ? { name: next.reference.name, deltaE: next.deltaE } : null,
  };
}
