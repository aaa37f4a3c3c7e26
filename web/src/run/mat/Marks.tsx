import { middleLine, type Mark } from '@vigilum/core/course';
import { surfaceFill, type Place } from './place.ts';

/** A mark at its true size. */
export function MarkShape({
  mark,
  place,
  ...more
}: { mark: Mark; place: Place } & React.SVGProps<SVGGElement>) {
  const fill = surfaceFill(mark.surface);
  const line = middleLine(mark);
  if (line && 'widthMm' in mark) {
    return (
      <g {...more}>
        <polyline
          points={line.map((p) => place(p.xMm, p.yMm).join()).join(' ')}
          fill="none"
          stroke={fill}
          strokeWidth={mark.widthMm}
          strokeLinejoin="round"
          strokeLinecap={mark.kind === 'stripe' ? 'butt' : 'round'}
        />
      </g>
    );
  }
  if (mark.kind === 'rectangle') {
    const [x1, y1] = place(mark.corner.xMm, mark.corner.yMm);
    const [x2, y2] = place(mark.corner.xMm + mark.widthMm, mark.corner.yMm + mark.heightMm);
    return (
      <g {...more}>
        <rect
          x={Math.min(x1, x2)}
          y={Math.min(y1, y2)}
          width={Math.abs(x2 - x1)}
          height={Math.abs(y2 - y1)}
          fill={fill}
        />
      </g>
    );
  }
  if (mark.kind !== 'disc') return null;
  const [cx, cy] = place(mark.centre.xMm, mark.centre.yMm);
  return (
    <g {...more}>
      <circle cx={cx} cy={cy} r={mark.radiusMm} fill={fill} />
    </g>
  );
}
