import { isThere, solidsAt, type BoxPlace, type Course, type Solid } from '../course/index.ts';
import { boxSignals, type Signal, type Trace } from '../sim/index.ts';
import { column, pointX, pointY, poses, type Derive, type Poses, type Scene } from './columns.ts';
import { outlineGap, rayLength, shapesOf, type Shapes } from './geometry.ts';

/** Nothing is nearer than this: what a signal of room says when there is nothing, mm. */
export const FAR_MM = 100_000;

/** Where light boxes have been pushed to at each sample, by their index in the course; none where the trace does not say. */
function pushedOver(trace: Trace, course: Course): ((i: number) => (box: number) => BoxPlace | null) | null {
  const columns = (course.boxes ?? []).map(({ id, light }) => {
    const [x, y, turned] = boxSignals(id).map((name) => trace.signals[name]?.values);
    return light && x && y && turned ? { x, y, turned } : null;
  });
  if (columns.every((one) => !one)) return null;
  return (i) => (box) => {
    const at = columns[box];
    return at ? { xMm: at.x[i]!, yMm: at.y[i]!, turnDeg: at.turned[i]! } : null;
  };
}

/** What is solid at each sample, made anew only when a box comes, goes, moves or is pushed. */
function shapesOver(
  trace: Trace,
  scene: Scene,
  which: (solid: Solid) => boolean = () => true,
): (i: number) => Shapes {
  const { course, laterS } = scene;
  const boxes = course.boxes ?? [];
  const pushed = pushedOver(trace, course);
  const make = (i: number) =>
    shapesOf(solidsAt(course, trace.timesS[i]! - laterS, pushed?.(i)).filter(which));
  if (boxes.some(({ moves }) => moves)) return make;
  const changing = boxes.some(({ stays }) => stays) || pushed;
  let key: string | null = null;
  let shapes: Shapes = make(0);
  if (!changing) return () => shapes;
  return (i) => {
    const atS = trace.timesS[i]! - laterS;
    const now = boxes
      .map(({ stays }, box) => {
        const at = pushed?.(i)(box);
        return `${isThere(stays, atS) ? 1 : 0}${at ? `${at.xMm} ${at.yMm} ${at.turnDeg}` : ''}`;
      })
      .join();
    if (now !== key) [key, shapes] = [now, make(i)];
    return shapes;
  };
}

/** A signal of where the robot stands among solid things; worked out once while neither it nor they move. */
function ofPose(
  trace: Trace,
  over: (i: number) => Shapes,
  of: (shapes: Shapes, i: number, p: Poses) => number,
): Signal | null {
  const p = poses(trace);
  if (!p) return null;
  let [shapes, value]: [Shapes | null, number] = [null, 0];
  return column(trace, 'mm', (i) => {
    const now = over(i);
    const stands = now === shapes && p.x[i] === p.x[i - 1] && p.y[i] === p.y[i - 1] && p.s[i] === p.s[i - 1];
    if (!stands) [shapes, value] = [now, Math.min(FAR_MM, of(now, i, p))];
    return value;
  });
}

/** Room between the robot and whatever solid things `which` chooses. */
export const roomTo =
  (which: (solid: Solid) => boolean): Derive =>
  (trace, scene) => {
    const { outline } = scene;
    const swing = Math.hypot(outline.lengthMm, outline.widthMm);
    let [before, room]: [Shapes | null, number] = [null, 0];
    return ofPose(trace, shapesOver(trace, scene, which), (shapes, i, { x, y, s, c }) => {
      // The room grows by no more than the robot's farthest point goes.
      const atMost =
        shapes === before
          ? room +
            1e-3 +
            Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!) +
            swing * Math.hypot(s[i]! - s[i - 1]!, c[i]! - c[i - 1]!)
          : Infinity;
      before = shapes;
      room = outlineGap(shapes, outline, x[i]!, y[i]!, s[i]!, c[i]!, atMost);
      return room;
    });
  };

/** What lies straight ahead of the front, mm. */
export const gapAhead: Derive = (trace, scene) => {
  const front = scene.outline.axleFromFrontMm;
  return ofPose(trace, shapesOver(trace, scene), (shapes, i, p) =>
    rayLength(shapes, pointX(p, i, front, 0), pointY(p, i, front, 0), p.s[i]!, p.c[i]!),
  );
};
