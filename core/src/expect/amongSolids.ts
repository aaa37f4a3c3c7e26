import type { Solid } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import type { Signal, Trace } from '../sim/index.ts';
import type { Asked } from './asked.ts';
import { poses, sampled, wayBetween, type Derive, type Poses, type Scene } from './columns.ts';
import { outlineGap, rayLength, swingOf, type OutlineSize, type Shapes } from './geometry.ts';
import { leastDistance } from './least.ts';
import { solidOver, type SolidOver } from './solidOver.ts';

/** Nothing is nearer than this: what a signal of room says when there is nothing, mm. */
export const FAR_MM = 100_000;

/** Nearer to a thing than this is touching it, mm. */
export const TOUCH_MM = 0.5;

/** A signal of where the robot stands among solid things; worked out once while neither it nor they move. */
function ofPose(
  trace: Trace,
  asked: Asked,
  { starts, shapes }: SolidOver,
  of: (shapes: Shapes, i: number, p: Poses, anew: boolean) => number,
): Signal | null {
  const p = poses(trace, asked);
  if (!p) return null;
  let [stretch, before, value] = [0, -1, 0];
  return sampled(trace, 'mm', asked, (i) => {
    while (starts[stretch + 1]! <= i) stretch++;
    const anew = stretch !== before;
    before = stretch;
    if (anew || p.x[i] !== p.x[i - 1] || p.y[i] !== p.y[i - 1] || p.s[i] !== p.s[i - 1])
      value = Math.min(FAR_MM, of(shapes(stretch), i, p, anew));
    return value;
  });
}

/** Room at every sample. */
function roomOver(trace: Trace, { outline }: Scene, asked: Asked, solid: SolidOver) {
  const swing = swingOf(outline);
  let room = 0;
  return ofPose(trace, asked, solid, (shapes, i, { x, y, s, c }, anew) => {
    // The room grows by no more than the robot's farthest point goes.
    const atMost = anew
      ? Infinity
      : room +
        1e-3 +
        wayBetween(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!) +
        swing * wayBetween(s[i]! - s[i - 1]!, c[i]! - c[i - 1]!);
    room = outlineGap(shapes, outline, x[i]!, y[i]!, s[i]!, c[i]!, atMost);
    return room;
  });
}

/**
 * The least room of an outline that goes with the robot, looked at anew wherever a thing comes, goes or is moved; or the least of
 * what `told` makes of a pose, which is nowhere less than that room.
 */
function leastRoom(
  trace: Trace,
  scene: Scene,
  outline: OutlineSize,
  { starts, shapes }: SolidOver,
  told?: (shapes: Shapes, x: number, y: number, s: number, c: number) => number,
): Signal | null {
  const { x, y, bearing } = trace.signals;
  if (!x || !y || !bearing) return null;
  let [s, c] = [0, 1];
  const room = (i: number, atMost: number, stretch: number): number => {
    const direction = radians(bearing.values[i]!);
    s = sin(direction);
    c = cos(direction);
    return Math.min(FAR_MM, outlineGap(shapes(stretch), outline, x.values[i]!, y.values[i]!, s, c, atMost));
  };
  // The direction is that of the pose whose room was looked at just before.
  const of = told && ((i: number, _: number, k: number) => told(shapes(k), x.values[i]!, y.values[i]!, s, c));
  return leastDistance(trace, swingOf(scene.outline), TOUCH_MM, starts, room, of);
}

/** Room between the robot and whatever solid things `which` chooses; all of them without it. */
export const roomTo =
  (which?: (solid: Solid) => boolean): Derive =>
  (trace, scene, asked) => {
    const solid = solidOver(trace, scene, which);
    return asked === 'least'
      ? leastRoom(trace, scene, scene.outline, solid)
      : roomOver(trace, scene, asked, solid);
  };

/** What lies straight ahead of the front, mm. */
export const gapAhead: Derive = (trace, scene, asked) => {
  const frontMm = scene.outline.axleFromFrontMm;
  const ahead = (shapes: Shapes, x: number, y: number, s: number, c: number): number =>
    Math.min(FAR_MM, rayLength(shapes, x + frontMm * s, y + frontMm * c, s, c));
  const solid = solidOver(trace, scene);
  // No ray from the middle of the front is shorter than the room that there is around it.
  const front = { ...scene.outline, lengthMm: 0, widthMm: 0 };
  return asked === 'least'
    ? leastRoom(trace, scene, front, solid, ahead)
    : ofPose(trace, asked, solid, (shapes, i, p) => ahead(shapes, p.x[i]!, p.y[i]!, p.s[i]!, p.c[i]!));
};
