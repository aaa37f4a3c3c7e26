import { partName, type Kit, type RobotBuild } from '@vigilum/core/sensing';

const TEXT = 15;
const APART = 24;

/** The robot from above, to scale: wheels, outline, and where each sensor sits, named beside it. */
export function RobotPlan({ build, kit, watch }: { build: RobotBuild; kit: Kit; watch: string }) {
  const { lengthMm, widthMm, axleFromFrontMm, trackMm, wheelDiameterMm } = build;
  const margin = 34;
  const half = Math.max(widthMm / 2, trackMm / 2 + 15) + 14;
  const labels = 122;
  const [w, h] = [2 * half + labels, lengthMm + 2 * margin];
  const x = (right: number) => half + right;
  const y = (ahead: number) => margin + axleFromFrontMm - ahead;
  // Names stand one below the other at the right, each as near to its sensor as the others leave room.
  let free = TEXT;
  const named = [...build.fittings]
    .sort((a, b) => b.aheadMm - a.aheadMm)
    .map((fitting) => {
      const at = Math.max(free, y(fitting.aheadMm) + 5);
      free = at + APART;
      return { fitting, at };
    });
  return (
    <svg
      viewBox={`0 0 ${w} ${Math.max(h, free)}`}
      className="h-full max-h-80 w-full"
      role="img"
      aria-label="The robot from above with its sensors"
    >
      <g fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2.5">
        <rect
          x={x(-widthMm / 2 + 14)}
          y={margin}
          width={Math.max(1, widthMm - 28)}
          height={lengthMm}
          rx="12"
        />
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
      {named.map(({ fitting, at }) => {
        const here = fitting.socket === watch;
        const [cx, cy] = [x(fitting.rightMm), y(fitting.aheadMm)];
        const edge = 2 * half + 2;
        return (
          <g key={fitting.socket}>
            <path
              d={`M${cx} ${cy}L${edge - 6} ${at - 5}H${edge}`}
              fill="none"
              stroke={here ? 'var(--sea)' : 'var(--edge)'}
              strokeWidth="1.5"
            />
            <circle
              cx={cx}
              cy={cy}
              r="7.5"
              fill={here ? 'var(--sea)' : 'var(--sheet)'}
              stroke={here ? 'var(--sea)' : 'var(--ink)'}
              strokeWidth="2.5"
            />
            <text
              x={edge + 4}
              y={at}
              fontSize={TEXT}
              fontWeight={here ? 800 : 600}
              fill={here ? 'var(--sea)' : 'var(--ink)'}
            >
              {fitting.socket} {partName(kit, fitting.sensorId)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
