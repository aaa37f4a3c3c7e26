import { solidsAt, type BoxPlace, type Course, type Solid } from '../course/index.ts';
import { boxSignals, type Trace } from '../sim/index.ts';
import type { Scene } from './columns.ts';
import { shapesOf, type Shapes } from './geometry.ts';

/** What is solid over a record, in stretches: each begins where a box comes, goes, moves or is pushed. */
export interface SolidOver {
  /** First samples of the stretches. */
  starts: readonly number[];
  /** What is solid in one of them. */
  shapes: (stretch: number) => Shapes;
}

/** Where light boxes have been pushed to, by their index in the course; null for boxes of which the trace does not say. */
const pushedColumns = (trace: Trace, course: Course) =>
  (course.boxes ?? []).map(({ id, light }) => {
    const [x, y, turned] = boxSignals(id).map((name) => trace.signals[name]?.values);
    return light && x && y && turned ? { x, y, turned } : null;
  });

type Pushed = ReturnType<typeof pushedColumns>;

/** Samples at which a box may have come, gone or been moved since the one before; the first in any case. */
function changesIn({ timesS }: Trace, { course, laterS }: Scene, pushed: Pushed): number[] {
  const n = timesS.length;
  const boxes = course.boxes ?? [];
  if (boxes.some(({ moves }) => moves)) return Array.from({ length: n }, (_, i) => i);
  const moments = boxes
    .flatMap(({ stays }) => (stays ?? []).flatMap(({ fromS, toS }) => [fromS, toS ?? Infinity]))
    .map((atS) => atS + laterS)
    .sort((a, b) => a - b);
  const columns = pushed.flatMap((at) => (at ? [at.x, at.y, at.turned] : []));
  const starts = [0];
  let next = 0;
  for (let i = 1; i < n && (next < moments.length || columns.length > 0); i++) {
    const before = timesS[i - 1]! - 1e-6;
    const now = timesS[i]! + 1e-6;
    while (next < moments.length && moments[next]! < before) next++;
    // At a moment itself rounding decides: it is looked at on both sides.
    let changed = next < moments.length && moments[next]! <= now;
    for (let k = 0; k < columns.length && !changed; k++) changed = columns[k]![i] !== columns[k]![i - 1];
    if (changed) starts.push(i);
  }
  return starts;
}

/** What never changes, by its course: several signals look at the same walls. */
const standing = new WeakMap<Course, Shapes>();

/** What is solid over a record of all that `which` chooses. */
export function solidOver(trace: Trace, scene: Scene, which?: (solid: Solid) => boolean): SolidOver {
  const { course, laterS } = scene;
  if ((course.boxes ?? []).length === 0 && !which) {
    let shapes = standing.get(course);
    if (!shapes) standing.set(course, (shapes = shapesOf(solidsAt(course, 0))));
    return { starts: [0], shapes: () => shapes };
  }
  const pushed = pushedColumns(trace, course);
  const places =
    (i: number) =>
    (box: number): BoxPlace | null => {
      const at = pushed[box];
      return at ? { xMm: at.x[i]!, yMm: at.y[i]!, turnDeg: at.turned[i]! } : null;
    };
  const starts = changesIn(trace, scene, pushed);
  let [made, shapes]: [number, Shapes | null] = [-1, null];
  return {
    starts,
    shapes(stretch) {
      if (shapes && made === stretch) return shapes;
      const i = starts[stretch]!;
      const solids = solidsAt(course, trace.timesS[i]! - laterS, places(i));
      made = stretch;
      return (shapes = shapesOf(which ? solids.filter(which) : solids));
    },
  };
}
