import type { StoredTrial } from '@vigilum/core/classroom';
import { formatNumber } from '@vigilum/core/quantity';
import { spread } from '../../ui/scatter.ts';

interface Props {
  withinMm: number;
  predicted: readonly number[];
  trials: readonly StoredTrial[];
}

/** Where the robot stopped, predicted and measured, on one scale in mm past the edge. */
export function FloorLine({ withinMm, predicted, trials }: Props) {
  const all = [...predicted, ...trials.map((t) => t.pastMm)];
  const low = Math.max(-200, Math.min(-10, ...all) - 6);
  const high = Math.min(400, Math.max(withinMm + 10, ...all) + 6);
  const x = (mm: number) => 60 + ((Math.min(high, Math.max(low, mm)) - low) / (high - low)) * 880;
  const step = [5, 10, 20, 50, 100].find((s) => (high - low) / s <= 12) ?? 100;
  const ticks: number[] = [];
  for (let t = Math.ceil(low / step) * step; t <= high; t += step) ticks.push(t);
  const jitter = (i: number) => spread(i) * 44;
  return (
    <svg
      viewBox="0 0 1000 330"
      className="w-full"
      role="img"
      aria-label={`Stopping places in millimetres past the edge: ${predicted.length} predicted, ${trials.length} measured.`}
    >
      <g fontFamily="var(--font-sans)" fontSize="20" fill="var(--ink-2)">
        <rect x={x(0)} width={x(withinMm) - x(0)} y="38" height="212" fill="var(--done-soft)" />
        <text x={(x(0) + x(withinMm)) / 2} y="28" textAnchor="middle" fill="var(--done)" fontWeight="700">
          kept: 0 to {withinMm} mm past
        </text>
        {ticks.map((t) => (
          <g key={t}>
            <path d={`M${x(t)} 250V258`} stroke="var(--edge)" strokeWidth="2" />
            <text x={x(t)} y="282" textAnchor="middle">
              {formatNumber(t, 0)}
            </text>
          </g>
        ))}
        <path d="M60 250H940" stroke="var(--edge)" strokeWidth="2" />
        <text x="500" y="318" textAnchor="middle">
          stopped past the near edge, mm
        </text>
        <path d={`M${x(0)} 38V250`} stroke="var(--signal)" strokeWidth="3.5" />
        <text x="66" y="62" fontWeight="700" fill="var(--sea)">
          predicted
        </text>
        <text x="66" y="166" fontWeight="700" fill="var(--ink)">
          floor
        </text>
        {predicted.map((mm, i) => (
          <circle
            key={i}
            cx={x(mm)}
            cy={96 + jitter(i)}
            r="8"
            fill="var(--sea)"
            fillOpacity="0.4"
            stroke="var(--sea)"
            strokeWidth="2"
          />
        ))}
        {trials.map((trial, i) => (
          <g key={trial.id} transform={`translate(${x(trial.pastMm)} ${168 + (i % 3) * 31})`}>
            <rect x="-15" y="-15" width="30" height="30" rx="4" fill="var(--ink)" />
            <text y="7" textAnchor="middle" fill="var(--sheet)" fontWeight="700">
              {i + 1}
            </text>
          </g>
        ))}
      </g>
    </svg>
  );
}
