import { useMemo } from 'react';
import type { Course, Landmark, Mark } from '@vigilum/core/course';
import { pointOnRobot, type Pose } from '@vigilum/core/motion';
import { formatNumber, radians } from '@vigilum/core/quantity';
import type { RobotBuild } from '@vigilum/core/sensing';

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
  /** Draw the trail up to this sample. */
  upTo?: number;
  watch?: { aheadMm: number; rightMm: number; radiusMm: number };
  /** Measured from a landmark to the watching sensor. */
  measure?: { landmark: Landmark; pastMm: number } | null;
  className?: string;
  label: string;
}

type Place = (x: number, y: number) => [number, number];

function MarkShape({ mark, place }: { mark: Mark; place: Place }) {
  // Marks are drawn as dark as they read.
  const fill = `color-mix(in srgb, var(--mat-dark) ${Math.round(100 * Math.min(1, Math.max(0, (0.95 - mark.surface.reflectance) / 0.75)))}%, var(--mat))`;
  switch (mark.kind) {
    case 'stripe': {
      const [x1, y1] = place(mark.from.xMm, mark.from.yMm);
      const [x2, y2] = place(mark.to.xMm, mark.to.yMm);
      return <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={fill} strokeWidth={mark.widthMm} />;
    }
    case 'path':
      return (
        <polyline
          points={mark.points.map((p) => place(p.xMm, p.yMm).join()).join(' ')}
          fill="none"
          stroke={fill}
          strokeWidth={mark.widthMm}
          strokeLinejoin="round"
          strokeLinecap="round"
        />
      );
    case 'rectangle': {
      const [x1, y1] = place(mark.corner.xMm, mark.corner.yMm);
      const [x2, y2] = place(mark.corner.xMm + mark.widthMm, mark.corner.yMm + mark.heightMm);
      return (
        <rect
          x={Math.min(x1, x2)}
          y={Math.min(y1, y2)}
          width={Math.abs(x2 - x1)}
          height={Math.abs(y2 - y1)}
          fill={fill}
        />
      );
    }
    case 'disc': {
      const [cx, cy] = place(mark.centre.xMm, mark.centre.yMm);
      return <circle cx={cx} cy={cy} r={mark.radiusMm} fill={fill} />;
    }
  }
}

function Robot({
  build,
  pose,
  place,
  sideways,
  watch,
}: {
  build: RobotBuild;
  pose: Pose;
  place: Place;
  sideways: boolean;
  watch: Props['watch'];
}) {
  const [x, y] = place(pose.xMm, pose.yMm);
  const { lengthMm, widthMm, axleFromFrontMm, trackMm, wheelDiameterMm } = build;
  const wheel = 20;
  return (
    <g transform={`translate(${x} ${y}) rotate(${sideways ? pose.bearingDeg : pose.bearingDeg - 90})`}>
      {[-1, 1].map((side) => (
        <rect
          key={side}
          x={-wheelDiameterMm / 2}
          y={(side * trackMm) / 2 - wheel / 2}
          width={wheelDiameterMm}
          height={wheel}
          rx="5"
          fill="var(--mat-dark)"
        />
      ))}
      <rect
        x={axleFromFrontMm - lengthMm}
        y={-widthMm / 2 + 22}
        width={lengthMm}
        height={widthMm - 44}
        rx="14"
        fill="#fcfaf5"
        fillOpacity="0.9"
        stroke="#17232d"
        strokeWidth="3.5"
      />
      <path
        d={`M${axleFromFrontMm - 16} -9 L${axleFromFrontMm - 5} 0 L${axleFromFrontMm - 16} 9`}
        fill="none"
        stroke="#17232d"
        strokeWidth="3"
      />
      {watch ? (
        <circle
          cx={watch.aheadMm}
          cy={watch.rightMm}
          r={Math.max(watch.radiusMm, 8)}
          fill="#c2341d"
          fillOpacity="0.25"
          stroke="#c2341d"
          strokeWidth="3"
        />
      ) : null}
    </g>
  );
}

/** A course to scale: marks at true width, the robot, its trail, and a dimension line as an engineer draws it. */
export function MatDrawing({
  course,
  build,
  pose,
  trail,
  upTo,
  watch,
  measure,
  className = '',
  label,
}: Props) {
  const sideways = course.heightMm > course.widthMm;
  const [w, h] = sideways ? [course.heightMm, course.widthMm] : [course.widthMm, course.heightMm];
  const place = useMemo<Place>(
    () => (sideways ? (x, y) => [y, x] : (x, y) => [x, course.heightMm - y]),
    [sideways, course.heightMm],
  );
  const text = { fontSize: w / 48, fill: '#17232d', fontFamily: 'var(--font-sans)' };
  const lines = useMemo(() => {
    if (!trail) return null;
    const points = (from: number, to: number) => {
      const list: string[] = [];
      for (let i = from; i <= to; i++) {
        const [x, y] = place(trail.x[i]!, trail.y[i]!);
        list.push(`${x.toFixed(1)},${y.toFixed(1)}`);
      }
      return list.join(' ');
    };
    const last = Math.min(upTo ?? trail.x.length - 1, trail.x.length - 1);
    const turn = Math.min(trail.turnsAt, last);
    return { before: points(0, turn), after: last > turn ? points(turn, last) : '' };
  }, [trail, upTo, place]);

  const dimension = useMemo(() => {
    if (!measure || !pose || !watch) return null;
    const spot = pointOnRobot(pose, watch.aheadMm, watch.rightMm);
    const b = radians(measure.landmark.bearingDeg);
    const foot = {
      xMm: spot.xMm - measure.pastMm * Math.sin(b),
      yMm: spot.yMm - measure.pastMm * Math.cos(b),
    };
    const [x1, y1] = place(foot.xMm, foot.yMm);
    const [x2, y2] = place(spot.xMm, spot.yMm);
    return { x1, y1, x2, y2 };
  }, [measure, pose, watch, place]);
  // Above the robot where there is room, else below it.
  const reach = (build?.widthMm ?? 120) / 2 + w / 90;
  const up = !dimension || Math.min(dimension.y1, dimension.y2) - reach > w / 22;
  const off = up ? -reach : reach;

  const cells = 100;
  return (
    <svg viewBox={`0 0 ${w} ${h}`} className={`mat ${className}`} role="img" aria-label={label}>
      <defs>
        <pattern id="mat-grid" width={cells} height={cells} patternUnits="userSpaceOnUse">
          <path d={`M${cells} 0H0V${cells}`} fill="none" stroke="var(--mat-grid)" strokeWidth="1.5" />
        </pattern>
        <clipPath id="mat-clip">
          <rect width={w} height={h} rx="12" />
        </clipPath>
      </defs>
      <g clipPath="url(#mat-clip)">
        <rect width={w} height={h} fill="var(--mat)" />
        <rect width={w} height={h} fill="url(#mat-grid)" />
        {course.marks.map((mark, i) => (
          <MarkShape key={i} mark={mark} place={place} />
        ))}
        {course.marks.map((mark, i) => {
          if (mark.kind !== 'stripe') return null;
          const [x, y] = place(mark.to.xMm, mark.to.yMm);
          return (
            <text key={i} x={x + mark.widthMm} y={y - 8} {...text}>
              {mark.surface.name}, {formatNumber(mark.widthMm, 0)} mm
            </text>
          );
        })}
        {course.starts.map((start) => {
          const [x, y] = place(start.xMm, start.yMm);
          return (
            <g key={start.name}>
              <circle cx={x} cy={y} r={w / 110} fill="#0d5560" />
              <text x={x - w / 60} y={y + w / 140} textAnchor="end" {...text} fill="#0d5560" fontWeight="700">
                start {start.name}
              </text>
            </g>
          );
        })}
        {build && pose ? (
          <Robot build={build} pose={pose} place={place} sideways={sideways} watch={watch} />
        ) : null}
        {lines ? (
          <g fill="none" strokeWidth={w / 190} strokeLinecap="round" strokeLinejoin="round">
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
              fontSize={w / 36}
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
        <g transform={`translate(${w * 0.03} ${h - w * 0.025})`} stroke="#17232d" strokeWidth={w / 350}>
          <path d="M0 -6V0H200V-6" fill="none" />
          <text x="100" y={-w / 110} textAnchor="middle" stroke="none" {...text}>
            200 mm
          </text>
        </g>
      </g>
    </svg>
  );
}
