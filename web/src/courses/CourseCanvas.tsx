import { useEffect, useRef, useState, type RefObject } from 'react';
import {
  courseLists,
  itemName,
  itemsOf,
  moveItem,
  removeItem,
  type Course,
  type ItemRef,
} from '@vigilum/core/course';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { ItemOutline } from './ItemOutline.tsx';
import { layOut } from '../run/mat/place.ts';

export const GRID_MM = 10;
/** Whatever is smaller on the screen is made as large to press. */
const FINGER_PX = 26;
const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** How many mm of the drawing one pixel of the screen is, as large as it is just now. */
function useScale(svg: RefObject<SVGSVGElement | null>, w: number, h: number): number {
  const [size, setSize] = useState({ width: 600, height: 600 });
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      if (width > 0 && height > 0) setSize({ width, height });
    });
    watch.observe(svg.current!);
    return () => watch.disconnect();
  }, [svg]);
  return Math.max(w / size.width, h / size.height);
}

interface Props {
  course: Course;
  chosen: ItemRef | null;
  choose: (ref: ItemRef | null) => void;
  /** A change that is a step of its own. */
  change: (course: Course) => void;
  /** A change on the way, as while dragging. */
  amend: (course: Course) => void;
  snapping: boolean;
}

/**
 * The course to be edited by hand: press a thing to choose it, drag it, or move it with the arrow keys (10 mm, with
 * Shift 1 mm); Delete takes it out. Tab goes from thing to thing.
 */
export function CourseCanvas({ course, chosen, choose, change, amend, snapping }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<{ from: Course; x: number; y: number; begun: boolean } | null>(null);
  const { w, h, place, sideways } = layOut(course);
  const mmPerPx = useScale(svg, w, h);
  const at = (event: React.PointerEvent): [number, number] => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    if (!matrix) return [0, 0];
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return sideways ? [y, x] : [x, course.heightMm - y];
  };
  const press = (ref: ItemRef, event: React.PointerEvent) => {
    event.stopPropagation();
    choose(ref);
    const [x, y] = at(event);
    drag.current = { from: course, x, y, begun: false };
    svg.current?.setPointerCapture(event.pointerId);
  };
  const move = (event: React.PointerEvent) => {
    const { current } = drag;
    if (!current || !chosen) return;
    const [x, y] = at(event);
    const next = moveItem(current.from, chosen, x - current.x, y - current.y, snapping ? GRID_MM : 0);
    // The first move is a step that can be undone; what follows belongs to it.
    if (current.begun) amend(next);
    else if (Math.hypot(x - current.x, y - current.y) > 2) {
      current.begun = true;
      change(next);
    }
  };
  const key = (ref: ItemRef, event: React.KeyboardEvent) => {
    const arrow = arrows[event.key];
    if (arrow) {
      event.preventDefault();
      const far = event.shiftKey ? 1 : GRID_MM;
      // On a drawing that lies on its side the keys follow the drawing.
      const [dx, dy] = sideways ? [-arrow[1], arrow[0]] : arrow;
      change(moveItem(course, ref, dx * far, dy * far));
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      choose(null);
      change(removeItem(course, ref));
    } else if (event.key === 'Escape') choose(null);
  };
  return (
    <div className="relative min-h-0 flex-1">
      <MatDrawing
        course={course}
        className="absolute inset-0 h-full w-full"
        label={`The course ${course.name}, to scale.`}
      />
      <svg
        ref={svg}
        viewBox={`0 0 ${w} ${h}`}
        className="absolute inset-0 h-full w-full touch-none"
        role="group"
        aria-label="Things on the course"
        onPointerDown={() => choose(null)}
        onPointerMove={move}
        onPointerUp={() => (drag.current = null)}
      >
        {courseLists.flatMap((list) =>
          itemsOf(course, list).map((item, index) => {
            const ref = { list, index };
            const here = chosen?.list === list && chosen.index === index;
            return (
              <ItemOutline
                key={`${list}${index}`}
                item={item}
                place={place}
                least={FINGER_PX * mmPerPx}
                outline={w / 280}
                here={here}
                name={itemName(course, ref)}
                press={(event) => press(ref, event)}
                focus={() => choose(ref)}
                keyDown={(event) => key(ref, event)}
              />
            );
          }),
        )}
      </svg>
    </div>
  );
}
