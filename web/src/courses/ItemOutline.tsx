import { cornersOf, middleLine, type Course, type CourseList, type Point } from '@vigilum/core/course';
import type { Place } from '../run/mat/place.ts';

type Item = NonNullable<Course[CourseList]>[number];

interface Props {
  item: Item;
  place: Place;
  /** Least width that a finger can meet, and the width of an outline, mm. */
  least: number;
  outline: number;
  here: boolean;
  name: string;
  press: (event: React.PointerEvent) => void;
  focus: () => void;
  keyDown: (event: React.KeyboardEvent) => void;
}

/** What of a thing can be pressed: a line of a width, or an area. */
function shapeOf(
  item: Item,
): { line: Point[]; widthMm: number } | { area: Point[] } | { centre: Point; radiusMm: number } {
  if ('kind' in item) {
    const line = 'surface' in item ? middleLine(item) : null;
    if (line && 'widthMm' in item) return { line, widthMm: item.widthMm };
    if (item.kind === 'disc') return { centre: item.centre, radiusMm: item.radiusMm };
    if (item.kind === 'rectangle') {
      const { corner, widthMm, heightMm } = item;
      const at = (dx: number, dy: number) => ({ xMm: corner.xMm + dx, yMm: corner.yMm + dy });
      return { area: [at(0, 0), at(widthMm, 0), at(widthMm, heightMm), at(0, heightMm)] };
    }
  }
  if ('depthMm' in item) {
    const box = item;
    return box.round ? { centre: box, radiusMm: box.widthMm / 2 } : { area: cornersOf(box) };
  }
  if ('from' in item) return { line: [item.from, item.to], widthMm: 3 };
  return { centre: item as Point, radiusMm: 14 };
}

/** The shorter side of a rectangle given by its corners, mm. */
const thinnest = ([a, b, c]: readonly Point[]): number => {
  const apart = (p: Point, q: Point) => Math.hypot(p.xMm - q.xMm, p.yMm - q.yMm);
  return Math.min(apart(a!, b!), apart(b!, c!));
};

/** One thing of the course as a place to press, with its outline when it is chosen. */
export function ItemOutline({ item, place, least, outline, here, name, press, focus, keyDown }: Props) {
  const shape = shapeOf(item);
  const paint = {
    fill: 'transparent',
    stroke: here ? '#c2341d' : 'transparent',
    strokeWidth: outline,
    strokeDasharray: here ? `${4 * outline} ${2 * outline}` : undefined,
  };
  const put = (points: readonly Point[]) => points.map((p) => place(p.xMm, p.yMm).join()).join(' ');
  const draw = () => {
    if ('line' in shape) {
      return (
        <polyline
          points={put(shape.line)}
          fill="none"
          stroke={here ? '#c2341d' : 'transparent'}
          strokeOpacity="0.35"
          strokeWidth={Math.max(least, shape.widthMm)}
          strokeLinecap="square"
          strokeLinejoin="round"
        />
      );
    }
    if ('area' in shape) {
      const points = put(shape.area);
      // A thing thinner than a finger is met beside its rim too.
      const rim = Math.max(0, least - thinnest(shape.area));
      return (
        <>
          {rim > 0 ? (
            <polygon points={points} fill="transparent" stroke="transparent" strokeWidth={rim} />
          ) : null}
          <polygon points={points} {...paint} />
        </>
      );
    }
    const [cx, cy] = place(shape.centre.xMm, shape.centre.yMm);
    return <circle cx={cx} cy={cy} r={Math.max(least / 2, shape.radiusMm)} {...paint} />;
  };
  return (
    <g
      tabIndex={0}
      role="button"
      aria-pressed={here}
      aria-label={name}
      className="cursor-move outline-none"
      pointerEvents="all"
      onPointerDown={press}
      onFocus={focus}
      onKeyDown={keyDown}
    >
      {draw()}
    </g>
  );
}
