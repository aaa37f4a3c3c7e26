import type { Pose } from '@vigilum/core/motion';
import type { RobotBuild } from '@vigilum/core/sensing';
import { CONE_DEG } from '@vigilum/core/sim';

/** The spot under the sensor that is watched, mm on the robot. */
export interface Watch {
  aheadMm: number;
  rightMm: number;
  radiusMm: number;
}

const facing = { ahead: 0, right: 90, back: 180, left: -90, down: null, up: null } as const;

/** Where a sensor that looks along the floor looks: its cone, as long as what it reads. */
function Cone({ x, y, turnDeg, reach }: { x: number; y: number; turnDeg: number; reach: number }) {
  const half = (CONE_DEG * Math.PI) / 180;
  const [dx, dy] = [reach * Math.cos(half), reach * Math.sin(half)];
  return (
    <path
      d={`M0 0L${dx} ${-dy}A${reach} ${reach} 0 0 1 ${dx} ${dy}Z`}
      transform={`translate(${x} ${y}) rotate(${turnDeg})`}
      fill="#c2341d"
      fillOpacity="0.1"
      stroke="#c2341d"
      strokeOpacity="0.5"
      strokeWidth="2"
    />
  );
}

/** The robot from above, nose along the drawing's x axis before it is turned. */
export function RobotShape({
  build,
  pose,
  place,
  angle,
  watch,
  turretDeg,
  reaches,
}: {
  build: RobotBuild;
  pose: Pose;
  place: (x: number, y: number) => [number, number];
  angle: (bearingDeg: number) => number;
  watch?: Watch | undefined;
  turretDeg: number;
  /** What each far-looking sensor reads, mm, by socket. */
  reaches: Readonly<Record<string, number>>;
}) {
  const [x, y] = place(pose.xMm, pose.yMm);
  const { lengthMm, widthMm, axleFromFrontMm, trackMm, wheelDiameterMm, fittings } = build;
  const wheel = 20;
  return (
    <g transform={`translate(${x} ${y}) rotate(${angle(pose.bearingDeg)})`}>
      {fittings.map((fitting) => {
        const reach = reaches[fitting.socket];
        const way = facing[fitting.facing ?? 'ahead'];
        return reach === undefined || way === null || !Number.isFinite(reach) ? null : (
          <Cone
            key={fitting.socket}
            x={fitting.aheadMm}
            y={fitting.rightMm}
            turnDeg={way + (fitting.turret ? turretDeg : 0)}
            reach={reach}
          />
        );
      })}
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
        y={-widthMm / 2}
        width={lengthMm}
        height={widthMm}
        rx="14"
        fill="#fcfaf5"
        fillOpacity="0.82"
        stroke="#17232d"
        strokeWidth="3.5"
      />
      <path
        d={`M${axleFromFrontMm - 18} -11 L${axleFromFrontMm - 5} 0 L${axleFromFrontMm - 18} 11`}
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
