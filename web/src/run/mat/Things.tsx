import {
  boxPlace,
  cornersOf,
  isThere,
  type Box,
  type BoxPlace,
  type Course,
  type Zone,
} from '@vigilum/core/course';
import type { Place } from './place.ts';

/** A named place, as a dashed outline. */
function ZoneShape({ zone, place, size, plain }: { zone: Zone; place: Place; size: number; plain: boolean }) {
  const line = {
    fill: 'none',
    stroke: '#0d5560',
    strokeWidth: size / 5,
    strokeDasharray: `${size * 0.7} ${size * 0.5}`,
  };
  if (zone.kind === 'disc') {
    const [cx, cy] = place(zone.centre.xMm, zone.centre.yMm);
    return <circle cx={cx} cy={cy} r={zone.radiusMm} {...line} />;
  }
  const [x1, y1] = place(zone.corner.xMm, zone.corner.yMm);
  const [x2, y2] = place(zone.corner.xMm + zone.widthMm, zone.corner.yMm + zone.heightMm);
  const [x, y] = [Math.min(x1, x2), Math.min(y1, y2)];
  // A name does not fit into a narrow place beside what else is there: it stands above, or below at the rim.
  const tall = Math.abs(y2 - y1);
  const narrow = tall < size * 4.5;
  const at = !narrow ? y + size * 1.5 : y > size * 1.5 ? y - size * 0.5 : y + tall + size * 1.2;
  return (
    <g>
      <rect x={x} y={y} width={Math.abs(x2 - x1)} height={Math.abs(y2 - y1)} {...line} />
      <text
        x={x + size * (narrow ? 0 : 1.2)}
        y={at}
        fontSize={size}
        fill="#0d5560"
        fontFamily="var(--font-sans)"
        stroke="var(--mat)"
        strokeWidth={size / 4}
        paintOrder="stroke"
      >
        {plain ? null : zone.name}
      </text>
    </g>
  );
}

/** A named place, filled. */
export function ZoneFill({ zone, place }: { zone: Zone; place: Place }) {
  if (zone.kind === 'disc') {
    const [cx, cy] = place(zone.centre.xMm, zone.centre.yMm);
    return <circle cx={cx} cy={cy} r={zone.radiusMm} fill="#25693f" />;
  }
  const [x1, y1] = place(zone.corner.xMm, zone.corner.yMm);
  const [x2, y2] = place(zone.corner.xMm + zone.widthMm, zone.corner.yMm + zone.heightMm);
  return (
    <rect
      x={Math.min(x1, x2)}
      y={Math.min(y1, y2)}
      width={Math.abs(x2 - x1)}
      height={Math.abs(y2 - y1)}
      fill="#25693f"
    />
  );
}

function BoxShape({
  box,
  pushed,
  place,
  atS,
  size,
  plain,
}: {
  box: Box;
  /** Where it has been pushed to. */
  pushed?: BoxPlace | undefined;
  place: Place;
  atS: number;
  size: number;
  plain: boolean;
}) {
  const here = isThere(box.stays, atS);
  const middle = pushed ?? boxPlace(box, atS);
  const [cx, cy] = place(middle.xMm, middle.yMm);
  const paint = {
    fill: !here ? 'none' : box.light ? '#b08d57' : '#55626c',
    stroke: '#17232d',
    strokeWidth: size / 6,
    strokeDasharray: here ? undefined : `${size / 2} ${size / 3}`,
  };
  return (
    <g>
      {box.round ? (
        <circle cx={cx} cy={cy} r={box.widthMm / 2} {...paint} />
      ) : (
        <polygon
          points={cornersOf(box, middle)
            .map((p) => place(p.xMm, p.yMm).join())
            .join(' ')}
          {...paint}
        />
      )}
      <text
        x={cx}
        y={cy + size * 0.35}
        textAnchor="middle"
        fontSize={size}
        fill={here && !box.light ? '#fcfaf5' : '#17232d'}
        fontFamily="var(--font-sans)"
      >
        {plain ? null : box.name}
        {here || plain ? null : ' (not there)'}
      </text>
    </g>
  );
}

/** A second robot as it is drawn: about as wide as robots are, mm. */
const SECOND = { name: 'second robot', radiusMm: 85 };

/** Walls, boxes as they are at a time, the rim, the beacon and the other robot. */
export function Things({
  course,
  place,
  size,
  atS,
  opponent,
  pushed = {},
  plain = false,
}: {
  plain?: boolean;
  course: Course;
  place: Place;
  /** Height of a letter, mm. */
  size: number;
  atS: number;
  opponent: { x: number; y: number } | null;
  pushed?: Readonly<Record<string, BoxPlace>>;
}) {
  const { rim, walls = [], boxes = [], zones = [], beacon } = course;
  const [x1, y1] = place(0, 0);
  const [x2, y2] = place(course.widthMm, course.heightMm);
  const outline = {
    x: Math.min(x1, x2),
    y: Math.min(y1, y2),
    width: Math.abs(x2 - x1),
    height: Math.abs(y2 - y1),
    fill: 'none',
  };
  // A second robot of a try is no part of the course: it is as wide as the first.
  const other = course.opponent ?? (opponent ? { ...SECOND, xMm: opponent.x, yMm: opponent.y } : undefined);
  const [ox, oy] = other ? place(opponent?.x ?? other.xMm, opponent?.y ?? other.yMm) : [0, 0];
  return (
    <g>
      {zones.map((zone) => (
        <ZoneShape key={zone.id} zone={zone} place={place} size={size} plain={plain} />
      ))}
      {rim === 'wall' ? <rect {...outline} stroke="#17232d" strokeWidth={size * 0.7} /> : null}
      {rim === 'drop' ? (
        <rect
          {...outline}
          stroke="#9f1f16"
          strokeWidth={size * 0.7}
          strokeDasharray={`${size * 1.4} ${size * 0.7}`}
        />
      ) : null}
      {walls.map(({ from, to }, i) => {
        const [ax, ay] = place(from.xMm, from.yMm);
        const [bx, by] = place(to.xMm, to.yMm);
        return (
          <line
            key={i}
            x1={ax}
            y1={ay}
            x2={bx}
            y2={by}
            stroke="#17232d"
            strokeWidth={size * 0.45}
            strokeLinecap="square"
          />
        );
      })}
      {boxes.map((box) => (
        <BoxShape
          key={box.id}
          box={box}
          pushed={pushed[box.id]}
          place={place}
          atS={atS}
          size={size}
          plain={plain}
        />
      ))}
      {beacon ? (
        <g transform={`translate(${place(beacon.xMm, beacon.yMm).join(' ')})`}>
          {[1, 1.8, 2.6].map((r) => (
            <circle key={r} r={r * size * 0.7} fill="none" stroke="#8a5f1a" strokeWidth={size / 6} />
          ))}
        </g>
      ) : null}
      {other ? (
        <g>
          <circle
            cx={ox}
            cy={oy}
            r={other.radiusMm}
            fill="#8a5f1a"
            fillOpacity="0.85"
            stroke="#17232d"
            strokeWidth={size / 6}
          />
          <text
            x={ox}
            y={oy - other.radiusMm - size * 0.4}
            textAnchor="middle"
            fontSize={size}
            fill="#17232d"
            fontFamily="var(--font-sans)"
          >
            {plain ? null : other.name}
          </text>
        </g>
      ) : null}
    </g>
  );
}
