import type { Solid } from '../course/index.ts';
import type { Signal, Trace } from '../sim/index.ts';
import type { Asked } from './asked.ts';
import { pointX, pointY, poses, sampled, stays, type Derive, type Poses, type Scene } from './columns.ts';
import { outlineGap, pointGap, rayLength, swingOf, type OutlineSize } from './geometry.ts';
import { leastDistance } from './least.ts';
import { Looked, type Look } from './looked.ts';
import { solidOver, type SolidOver } from './solidOver.ts';
import { wayUpTo } from './way.ts';

/** Nothing is nearer than this: what a signal of room says when there is nothing, mm. */
export const FAR_MM = 100_000;

/** Nearer to a thing than this is touching it, mm. */
export const TOUCH_MM = 0.5;

/** How far the robot's farthest point may have gone; null where its poses are not known. */
const wayOf = (trace: Trace, { outline }: Scene): Float64Array | null => wayUpTo(trace, swingOf(outline));

/** Room of an outline that goes with the robot. */
const roomOf =
  ({ x, y, to }: Poses, outline: OutlineSize, { shapes }: SolidOver): Look =>
  (i, atMost, stretch) => {
    to.look(i);
    return Math.min(FAR_MM, outlineGap(shapes(stretch), outline, x[i]!, y[i]!, to.s[i]!, to.c[i]!, atMost));
  };

/** Room between the robot and whatever solid things `which` chooses; all of them without it. */
export const roomTo =
  (which?: (solid: Solid) => boolean): Derive =>
  (trace, scene, asked) => {
    const [p, way] = [poses(trace), wayOf(trace, scene)];
    if (!p || !way) return null;
    const solid = solidOver(trace, scene, which);
    const { starts } = solid;
    const look = roomOf(p, scene.outline, solid);
    if (asked === 'end') return sampled(trace, 'mm', asked, (i) => look(i, Infinity, starts.length - 1));
    if (asked === 'least') return leastDistance(way, TOUCH_MM, starts, look);
    const room = new Looked(way, starts, look);
    return asked === 'some' ? room : { unit: 'mm', values: room.values };
  };

/** What lies straight ahead of the front, mm. */
export const gapAhead: Derive = (trace, scene, asked) => {
  const p = poses(trace);
  const way = asked === 'least' ? wayOf(trace, scene) : null;
  if (!p) return null;
  const solid = solidOver(trace, scene);
  const frontMm = scene.outline.axleFromFrontMm;
  const { s, c } = p.to;
  const ahead = (i: number, stretch: number): number => {
    p.to.look(i);
    const [x, y] = [pointX(p, i, frontMm, 0), pointY(p, i, frontMm, 0)];
    return Math.min(FAR_MM, rayLength(solid.shapes(stretch), x, y, s[i]!, c[i]!));
  };
  if (!way) return gapOver(trace, asked, p, solid, ahead);
  // No ray from the middle of the front is shorter than the room that there is around it.
  const around: Look = (i, _, stretch) => {
    p.to.look(i);
    return pointGap(solid.shapes(stretch), pointX(p, i, frontMm, 0), pointY(p, i, frontMm, 0));
  };
  return leastDistance(way, TOUCH_MM, solid.starts, around, ahead);
};

/** The gap at every sample; worked out once while neither the robot nor anything else moves. */
function gapOver(
  trace: Trace,
  asked: Asked,
  p: Poses,
  { starts }: SolidOver,
  ahead: (i: number, stretch: number) => number,
): Signal {
  let [stretch, before, gap] = [0, -1, 0];
  return sampled(trace, 'mm', asked, (i) => {
    while (starts[stretch + 1]! <= i) stretch++;
    if (stretch !== before || !stays(p, i)) gap = ahead(i, stretch);
    before = stretch;
    return gap;
  });
}
