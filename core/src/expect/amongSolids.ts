import { solidsAt, type BoxPlace, type Course, type Solid } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import { boxSignals, type Signal, type Trace } from '../sim/index.ts';
import type { Asked } from './asked.ts';
import {
  pointX,
  pointY,
  poses,
  sampled,
  wayBetween,
  type Derive,
  type Poses,
  type Scene,
} from './columns.ts';
import { leastDistance } from './least.ts';
import { outlineGap, rayLength, shapesOf, type OutlineSize, type Shapes } from './geometry.ts';

/** Nothing is nearer than this: what a signal of room says when there is nothing, mm. */
export const FAR_MM = 100_000;

/** Nearer to a thing than this is touching it, mm. */
export const TOUCH_MM = 0.5;

/** Where light boxes have been pushed to, by their index in the course; null for boxes of which the trace does not say. */
const pushedColumns = (trace: Trace, course: Course) =>
  (course.boxes ?? []).map(({ id, light }) => {
    const [x, y, turned] = boxSignals(id).map((name) => trace.signals[name]?.values);
    return light && x && y && turned ? { x, y, turned } : null;
  });

/** The same at each sample; nothing where the trace says it of no box. */
function pushedOver(trace: Trace, course: Course): ((i: number) => (box: number) => BoxPlace | null) | null {
  const columns = pushedColumns(trace, course);
  if (columns.every((one) => !one)) return null;
  return (i) => (box) => {
    const at = columns[box];
    return at ? { xMm: at.x[i]!, yMm: at.y[i]!, turnDeg: at.turned[i]! } : null;
  };
}

/** Whether a box has come, gone or been pushed since the sample that was asked for before. */
function changesOver(trace: Trace, { course, laterS }: Scene): ((i: number) => boolean) | null {
  const boxes = course.boxes ?? [];
  if (boxes.some(({ moves }) => moves)) return () => true;
  const moments = boxes
    .flatMap(({ stays }) => (stays ?? []).flatMap(({ fromS, toS }) => [fromS, toS ?? Infinity]))
    .map((atS) => atS + laterS)
    .sort((a, b) => a - b);
  const pushed = pushedColumns(trace, course).flatMap((at) => (at ? [at.x, at.y, at.turned] : []));
  if (moments.length === 0 && pushed.length === 0) return null;
  let [last, next] = [-1, 0];
  return (i) => {
    let changed = last < 0;
    // At a moment itself rounding decides: it is looked at on both sides.
    while (next < moments.length && moments[next]! <= trace.timesS[i]! + 1e-6) next++;
    if (last >= 0 && next > 0 && moments[next - 1]! >= trace.timesS[last]! - 1e-6) changed = true;
    for (let k = 0; k < pushed.length && !changed; k++) changed = pushed[k]![i] !== pushed[k]![last];
    last = i;
    return changed;
  };
}

/** What is solid at each sample, made anew only when a box comes, goes, moves or is pushed. Samples are asked for in their order. */
function shapesOver(
  trace: Trace,
  scene: Scene,
  which: (solid: Solid) => boolean = () => true,
): (i: number) => Shapes {
  const { course, laterS } = scene;
  const pushed = pushedOver(trace, course);
  const make = (i: number) =>
    shapesOf(solidsAt(course, trace.timesS[i]! - laterS, pushed?.(i)).filter(which));
  const changes = changesOver(trace, scene);
  let shapes: Shapes | null = null;
  return (i) => (shapes && !changes?.(i) ? shapes : (shapes = make(i)));
}

/** A signal of where the robot stands among solid things; worked out once while neither it nor they move. */
function ofPose(
  trace: Trace,
  asked: Asked,
  over: (i: number) => Shapes,
  of: (shapes: Shapes, i: number, p: Poses) => number,
): Signal | null {
  const p = poses(trace, asked);
  if (!p) return null;
  let [shapes, value]: [Shapes | null, number] = [null, 0];
  return sampled(trace, 'mm', asked, (i) => {
    const now = over(i);
    const stands = now === shapes && p.x[i] === p.x[i - 1] && p.y[i] === p.y[i - 1] && p.s[i] === p.s[i - 1];
    if (!stands) [shapes, value] = [now, Math.min(FAR_MM, of(now, i, p))];
    return value;
  });
}

/** Room at every sample. */
function roomOver(trace: Trace, { outline }: Scene, asked: Asked, over: (i: number) => Shapes) {
  const swing = swingOf(outline);
  let [before, room]: [Shapes | null, number] = [null, 0];
  return ofPose(trace, asked, over, (shapes, i, { x, y, s, c }) => {
    // The room grows by no more than the robot's farthest point goes.
    const atMost =
      shapes === before
        ? room +
          1e-3 +
          wayBetween(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!) +
          swing * wayBetween(s[i]! - s[i - 1]!, c[i]! - c[i - 1]!)
        : Infinity;
    before = shapes;
    room = outlineGap(shapes, outline, x[i]!, y[i]!, s[i]!, c[i]!, atMost);
    return room;
  });
}

/** The least room, looked at anew wherever a thing comes, goes or is moved. */
function leastRoom(trace: Trace, { outline }: Scene, over: (i: number) => Shapes): Signal | null {
  const { x, y, bearing } = trace.signals;
  if (!x || !y || !bearing) return null;
  const starts: number[] = [];
  const stretches: Shapes[] = [];
  for (let i = 0; i < trace.timesS.length; i++) {
    const shapes = over(i);
    if (shapes === stretches.at(-1)) continue;
    starts.push(i);
    stretches.push(shapes);
  }
  return leastDistance(trace, swingOf(outline), TOUCH_MM, starts, (i, atMost, stretch) => {
    const direction = radians(bearing.values[i]!);
    const [s, c] = [sin(direction), cos(direction)];
    const room = outlineGap(stretches[stretch]!, outline, x.values[i]!, y.values[i]!, s, c, atMost);
    return Math.min(FAR_MM, room);
  });
}

/** No point of the robot is farther from its axle, mm. */
const swingOf = ({ lengthMm, widthMm }: OutlineSize): number => Math.hypot(lengthMm, widthMm);

/** Room between the robot and whatever solid things `which` chooses. */
export const roomTo =
  (which: (solid: Solid) => boolean): Derive =>
  (trace, scene, asked) => {
    const over = shapesOver(trace, scene, which);
    return asked === 'least' ? leastRoom(trace, scene, over) : roomOver(trace, scene, asked, over);
  };

/** What lies straight ahead of the front, mm. */
export const gapAhead: Derive = (trace, scene, asked) => {
  const front = scene.outline.axleFromFrontMm;
  return ofPose(trace, asked, shapesOver(trace, scene), (shapes, i, p) =>
    rayLength(shapes, pointX(p, i, front, 0), pointY(p, i, front, 0), p.s[i]!, p.c[i]!),
  );
};
