import type { Reading } from './sampleSet.ts';

/** What a colour sensor called a surface, the most frequent name first. */
export interface NamedSurface {
  surface: string;
  samples: number;
  names: { name: string; times: number }[];
}

/**
 * What a sensor that names colours by code called each surface (`colours` by code; no reading is “no colour”),
 * and the first two surfaces that it calls the same.
 */
export function studyNames(
  sets: readonly { surface: string; values: readonly Reading[] }[],
  colours: readonly string[],
): { surfaces: NamedSurface[]; alike: { one: string; other: string; name: string } | null } {
  const word = (code: Reading) => (code === null ? 'no colour' : (colours[Math.round(code)] ?? String(code)));
  const surfaces = sets
    .filter(({ values }) => values.length > 0)
    .map(({ surface, values }): NamedSurface => {
      const counts = new Map<string, number>();
      for (const value of values) counts.set(word(value), (counts.get(word(value)) ?? 0) + 1);
      const names = [...counts].map(([name, times]) => ({ name, times })).sort((a, b) => b.times - a.times);
      return { surface, samples: values.length, names };
    });
  const first = new Map<string, string>();
  for (const { surface, names } of surfaces) {
    const { name } = names[0]!;
    const one = first.get(name);
    if (one !== undefined) return { surfaces, alike: { one, other: surface, name } };
    first.set(name, surface);
  }
  return { surfaces, alike: null };
}
