import { useId, useMemo, useRef } from 'react';
import type { BoxPlace, Course, Landmark, Point, Start, Zone } from '@vigilum/core/course';
import { pointOnRobot, type Pose } from '@vigilum/core/motion';
import { formatNumber, radians } from '@vigilum/core/quantity';
import type { RobotBuild } from '@vigilum/core/sensing';
import { MarkShape } from './mat/Marks.tsx';
import { layOut, type Place } from './mat/place.ts';
import { RobotShape, type Watch } from './mat/RobotShape.tsx';
import { Things, ZoneFill } from './mat/Things.tsx';

export interface Trail {
  /** Positions of the watching sensor, mm. */
  x: Float32Array;
  y: Float32Array;
  /** From this sample on the trail is drawn in the signal colour. */
  turnsAt: number;
}

interface Props {
  course: Course;
  build?: RobotBuild;
  pose?: Pose | null;
  trail?: Trail | null;
  /** Another run's trail, to be compared with: drawn dashed. */
  other?: Trail | null;
  /** Draw the trail up to this sample. */
  upTo?: number;
  watch?: Watch;
  /** Measured from a landmark to the watching sensor. */
  measure?: { landmark: Landmark; pastMm: number } | null;
  /** Seconds from the start: boxes come and go. */
  atS?: number;
  opponent?: { x: number; y: number } | null;
  /** Where light boxes have been pushed to, by their id. */
  pushed?: Readonly<Record<string, BoxPlace>>;
  turretDeg?: number;
  reaches?: Readonly<Record<string, number>>;
  /** Somebody points at the trail: at which sample; null when no longer. */
  onPoint?: (sample: number | null) => void;
  onPick?: (sample: number) => void;
  /** What an expectation speaks of, shaded. */
  shades?: { zones: readonly Zone[]; bands: readonly { points: readonly Point[]; widthMm: number }[] };
  /** Without letters and scale: for drawings too small to be read. */
  plain?: boolean;
  className?: string;
  label: string;
}

function pointsOf(trail: Trail, place: Place, from: number, to: number): string {
  const list: string[] = [];
  for (let i = from; i <= to; i++) {
    const [x, y] = place(trail.x[i]!, trail.y[i]!);
    list.push(`${x.toFixed(1)},${y.toFixed(1)}`);
  }
  return list.join(' ');
}

/** The sample of a trail nearest to a place on the drawing; null when none is within `reach`. */
function nearestSample(
  trail: Trail,
  place: Place,
  x: number,
  y: number,
  upTo: number,
  reach: number,
): number | null {
  let [best, at] = [reach * reach, -1];
  for (let i = 0; i <= upTo; i++) {
    const [px, py] = place(trail.x[i]!, trail.y[i]!);
    const far = (px - x) ** 2 + (py - y) ** 2;
    if (far < best) [best, at] = [far, i];
  }
  return at < 0 ? null : at;
}

/** Starts that stand close together share one label; the others of such a group have none. */
function labelsOf(starts: readonly Start[], near: number): (string | null)[] {
  const first = starts.map((a) => starts.findIndex((b) => Math.hypot(a.xMm - b.xMm, a.yMm - b.yMm) < near));
  return starts.map((_, i) => {
    if (first[i] !== i) return null;
    const names = starts.filter((__, j) => first[j] === i).map(({ name }) => name);
    return `start ${names.join(' ')}`;
  });
}

/** A round number of mm, at most a quarter of a width, for the scale bar. */
const barLength = (w: number): number => [1000, 500, 200, 100].find((mm) => mm <= w / 4) ?? 50;

/** A course to scale: everything on it at true size, the robot, its trail, and a dimension as an engineer draws it. */
export function MatDrawing({
  course,
  build,
  pose,
  trail,
  other,
  upTo,
  watch,
  measure,
  atS = 0,
  opponent = null,
  pushed = {},
  turretDeg = 0,
  reaches = {},
  onPoint,
  onPick,
  shades,
  plain = false,
  className = '',
  label,
}: Props) {
  const { w, h, place, angle } = useMemo(() => layOut(course), [course]);
  const svg = useRef<SVGSVGElement>(null);
  const id = useId();
  // Letters as large as the drawing is long, so that they can be read however large the course is.
  const size = Math.max(w, h * 1.6) / 46;
  const text = { fontSize: size, fill: '#17232d', fontFamily: 'var(--font-sans)' };
  const last = trail ? Math.min(upTo ?? trail.x.length - 1, trail.x.length - 1) : -1;
  const lines = useMemo(() => {
    if (!trail) return null;
    const turn = Math.min(trail.turnsAt, last);
    return {
      before: pointsOf(trail, place, 0, turn),
      after: last > turn ? pointsOf(trail, place, turn, last) : '',
    };
  }, [trail, last, place]);
  const dashed = useMemo(() => (other ? pointsOf(other, place, 0, other.x.length - 1) : ''), [other, place]);
  const dimension = useMemo(() => {
    if (!measure || !pose || !watch) return null;
    const spot = pointOnRobot(pose, watch.aheadMm, watch.rightMm);
    const b = radians(measure.landmark.bearingDeg);
    const [x1, y1] = place(spot.xMm - measure.pastMm * Math.sin(b), spot.yMm - measure.pastMm * Math.cos(b));
    const [x2, y2] = place(spot.xMm, spot.yMm);
    return { x1, y1, x2, y2 };
  }, [measure, pose, watch, place]);
  // Above the robot where there is room, else below it.
  const reach = (build?.widthMm ?? 120) / 2 + w / 90;
  const up = !dimension || Math.min(dimension.y1, dimension.y2) - reach > w / 22;
  const off = up ? -reach : reach;
  const at = (event: React.PointerEvent): number | null => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    if (!matrix || !trail) return null;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return nearestSample(trail, place, x, y, last, size * 2.5);
  };
  const bar = barLength(w);
  const startLabels = labelsOf(course.starts, size * 1.25);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${w} ${h}`}
      className={`mat ${className}`}
      role="img"
      aria-label={label}
      onPointerMove={onPoint ? (event) => onPoint(at(event)) : undefined}
      onPointerLeave={onPoint ? () => onPoint(null) : undefined}
      onPointerDown={
        onPick
          ? (event) => {
              const sample = at(event);
              if (sample !== null) onPick(sample);
            }
          : undefined
      }
    >
      <defs>
        <pattern id={`${id}grid`} width="100" height="100" patternUnits="userSpaceOnUse">
          <path d="M100 0H0V100" fill="none" stroke="var(--mat-grid)" strokeWidth="1.5" />
        </pattern>
        <clipPath id={`${id}clip`}>
          <rect width={w} height={h} rx="12" />
        </clipPath>
      </defs>
      <g clipPath={`url(#${id}clip)`}>
        <rect width={w} height={h} fill="var(--mat)" />
        <rect width={w} height={h} fill={`url(#${id}grid)`} />
        {course.marks.map((mark, i) => (
          <MarkShape key={i} mark={mark} place={place} />
        ))}
        {course.marks.length === 1 && !plain
          ? course.marks.map((mark, i) => {
              if (mark.kind !== 'stripe') return null;
              const [x, y] = place(mark.to.xMm, mark.to.yMm);
              return (
                <text
                  key={i}
                  x={Math.min(x + mark.widthMm, w * 0.8)}
                  y={Math.max(y - 8, size * 1.2)}
                  {...text}
                >
                  {mark.surface.name}, {formatNumber(mark.widthMm, 0)} mm
                </text>
              );
            })
          : null}
        <Things
          course={course}
          place={place}
          size={size}
          atS={atS}
          opponent={opponent}
          pushed={pushed}
          plain={plain}
        />
        {shades ? (
          <g opacity="0.4">
            {shades.bands.map(({ points, widthMm }, i) => (
              <polyline
                key={i}
                points={points.map((p) => place(p.xMm, p.yMm).join()).join(' ')}
                fill="none"
                stroke="#25693f"
                strokeWidth={widthMm}
              />
            ))}
            {shades.zones.map((zone) => (
              <ZoneFill key={zone.id} zone={zone} place={place} />
            ))}
          </g>
        ) : null}
        {course.starts.map((start, i) => {
          const [x, y] = place(start.xMm, start.yMm);
          const label = startLabels[i];
          const beside = x > size * (0.62 * (label?.length ?? 0) + 1.2);
          return (
            <g key={start.name}>
              <g transform={`translate(${x} ${y}) rotate(${angle(start.bearingDeg)})`}>
                <circle r={size * 0.42} fill="#0d5560" />
                <path d={`M0 0H${size * 1.3}`} stroke="#0d5560" strokeWidth={size / 5} />
              </g>
              {label && !plain ? (
                <text
                  // Beside the start where there is room for it, else below.
                  x={x - size * (beside ? 0.7 : 0.4)}
                  y={y + size * (beside ? 0.35 : 1.6)}
                  textAnchor={beside ? 'end' : 'start'}
                  {...text}
                  fill="#0d5560"
                  fontWeight="700"
                  stroke="var(--mat)"
                  strokeWidth={size / 4}
                  paintOrder="stroke"
                >
                  {label}
                </text>
              ) : null}
            </g>
          );
        })}
        {build && pose ? (
          <RobotShape
            build={build}
            pose={pose}
            place={place}
            angle={angle}
            watch={watch}
            turretDeg={turretDeg}
            reaches={reaches}
          />
        ) : null}
        {dashed ? (
          <polyline
            points={dashed}
            fill="none"
            stroke="#8a5f1a"
            strokeWidth={size / 5}
            strokeDasharray={`${size * 0.6} ${size * 0.5}`}
          />
        ) : null}
        {lines ? (
          <g fill="none" strokeWidth={size / 4} strokeLinecap="round" strokeLinejoin="round">
            <polyline points={lines.before} stroke="#0d5560" />
            <polyline points={lines.after} stroke="#c2341d" />
          </g>
        ) : null}
        {dimension && measure ? (
          <g stroke="#c2341d" strokeWidth={w / 350} fill="none">
            <path
              d={`M${dimension.x1} ${dimension.y1}V${dimension.y1 + off * 1.06} M${dimension.x2} ${dimension.y2}V${dimension.y1 + off * 1.06}`}
              strokeDasharray="5 5"
            />
            <path d={`M${dimension.x1} ${dimension.y1 + off}H${dimension.x2}`} />
            <text
              x={Math.min(Math.max(dimension.x2 + 12, 8), w * 0.8)}
              y={dimension.y1 + off + (up ? -w / 90 : w / 30)}
              {...text}
              fontSize={size * 1.3}
              fill="#a62813"
              stroke="var(--mat)"
              strokeWidth="6"
              paintOrder="stroke"
              fontWeight="700"
            >
              {formatNumber(Math.abs(measure.pastMm), 0)} mm {measure.pastMm < 0 ? 'short' : 'past'}
            </text>
          </g>
        ) : null}
        <g
          display={plain ? 'none' : undefined}
          transform={`translate(${w * 0.03} ${h - size * 1.1})`}
          stroke="#17232d"
          strokeWidth={size / 8}
        >
          <path d={`M0 ${-size * 0.3}V0H${bar}V${-size * 0.3}`} fill="none" />
          <text
            x={bar / 2}
            y={-size * 0.45}
            textAnchor="middle"
            {...text}
            stroke="var(--mat)"
            strokeWidth={size / 4}
            paintOrder="stroke"
          >
            {bar >= 1000 ? '1 m' : `${bar} mm`}
          </text>
        </g>
      </g>
    </svg>
  );
}
