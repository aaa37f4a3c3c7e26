import type { Kit, RobotBuild } from '@vigilum/core/sensing';

/** The robot from above, to scale: wheels, outline, and where each sensor sits with its socket. */
export function RobotPlan({ build, kit, watch }: { build: RobotBuild; kit: Kit; watch: string }) {
  const { lengthMm, widthMm, axleFromFrontMm, trackMm, wheelDiameterMm } = build;
  const margin = 34;
  const w = Math.max(widthMm, trackMm + 30) + 2 * margin;
  const h = lengthMm + 2 * margin;
  const x = (right: number) => w / 2 + right;
  const y = (ahead: number) => margin + axleFromFrontMm - ahead;
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      className="h-full max-h-80 w-full"
      role="img"
      aria-label="The robot from above with its sensors"
    >
      <g fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2.5">
        <rect x={x(-widthMm / 2 + 14)} y={margin} width={widthMm - 28} height={lengthMm} rx="12" />
        {[-1, 1].map((side) => (
          <rect
            key={side}
            x={x((side * trackMm) / 2 - 9)}
            y={y(wheelDiameterMm / 2)}
            width="18"
            height={wheelDiameterMm}
            rx="5"
            fill="var(--ink)"
          />
        ))}
      </g>
      <path
        d={`M${x(-10)} ${margin - 10} L${x(0)} ${margin - 24} L${x(10)} ${margin - 10}`}
        fill="none"
        stroke="var(--ink-2)"
        strokeWidth="2.5"
      />
      {build.fittings.map((fitting) => {
        const here = fitting.socket === watch;
        const name = kit.sensors.find((s) => s.id === fitting.sensorId)?.name ?? fitting.sensorId;
        const below = fitting.mode === 'light';
        const cy = y(fitting.aheadMm);
        return (
          <g key={fitting.socket}>
            <circle
              cx={x(fitting.rightMm)}
              cy={cy}
              r={below ? 10 : 7}
              fill={here ? 'var(--sea)' : 'var(--sheet)'}
              stroke={here ? 'var(--sea)' : 'var(--ink)'}
              strokeWidth="2.5"
            />
            <text
              x={x(fitting.rightMm) + (below ? 0 : 14)}
              y={below ? cy + 30 : margin - 9}
              textAnchor={below ? 'middle' : 'start'}
              fontSize="15"
              fontWeight="700"
              fill="var(--ink)"
            >
              {fitting.socket} {name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
