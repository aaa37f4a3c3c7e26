import type { Reading } from '../sensing/index.ts';

/** How a set of named groups is mixed up when each sample goes to the group with the nearest mean. */
export interface Confusion {
  names: string[];
  /** counts[i][j]: samples of group i taken for group j. Each was judged with its own group's mean made without it. */
  counts: number[][];
  /** Samples that could be judged. */
  total: number;
  right: number;
  /** Pairs that were taken for each other, most often first. */
  mixed: { name: string; takenFor: string; times: number; of: number }[];
}

/**
 * Nearest-mean classification judged by leaving one out (Lachenbruch and Mickey 1968): over any samples, given
 * how to average them and how far apart two are. Groups of one cannot be judged and are left out of the counts.
 */
export function leaveOneOut<S>(
  groups: readonly { name: string; samples: readonly S[] }[],
  average: (samples: readonly S[]) => S,
  distance: (a: S, b: S) => number,
): Confusion {
  const names = groups.map(({ name }) => name);
  const means = groups.map(({ samples }) => (samples.length > 0 ? average(samples) : null));
  const counts = groups.map(() => groups.map(() => 0));
  let [total, right] = [0, 0];
  groups.forEach(({ samples }, i) => {
    if (samples.length < 2) return;
    samples.forEach((sample, k) => {
      const own = average(samples.filter((_, other) => other !== k));
      let best = { at: i, d: distance(sample, own) };
      means.forEach((mean, j) => {
        if (j === i || mean === null) return;
        const d = distance(sample, mean);
        if (d < best.d) best = { at: j, d };
      });
      counts[i]![best.at]!++;
      total++;
      if (best.at === i) right++;
    });
  });
  const mixed = groups
    .flatMap(({ name, samples }, i) =>
      counts[i]!.map((times, j) => ({ name, takenFor: names[j]!, times, of: samples.length, same: i === j })),
    )
    .filter(({ times, same }) => times > 0 && !same)
    .sort((a, b) => b.times / b.of - a.times / a.of)
    .map(({ name, takenFor, times, of }) => ({ name, takenFor, times, of }));
  return { names, counts, total, right, mixed };
}

/** Which surfaces a single-number sensor mixes up, in reading points. At most 200 samples of each are judged. */
export function confusedSurfaces(
  surfaces: readonly { name: string; values: readonly Reading[] }[],
): Confusion {
  return leaveOneOut(
    surfaces.map(({ name, values }) => ({
      name,
      samples: values.filter((v): v is number => v !== null && Number.isFinite(v)).slice(0, 200),
    })),
    (samples) => samples.reduce((a, b) => a + b, 0) / samples.length,
    (a, b) => Math.abs(a - b),
  );
}
