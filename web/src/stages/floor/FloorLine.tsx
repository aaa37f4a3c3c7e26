import { measureFacts, type FloorMeasure } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { spread } from '../../ui/scatter.ts';

interface Props {
  measure: FloorMeasure;
  /** What the expectations allow, in the measure's unit. */
  band: [number, number] | null;
  predicted: readonly number[];
  trials: readonly { id: number; value: number }[];
}

const steps = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000];

/** What was predicted and what was measured, on one scale. */
export function FloorLine({ measure, band, predicted, trials }: Props) {
  const { name, unit } = measureFacts[measure];
  const all = [...predicted, ...trials.map(({ value }) => value), ...(band ?? [])];
  const spanned = all.length > 0 ? [Math.min(...all), Math.max(...all)] : [0, 1];
  const room = Math.max(1, (spanned[1]! - spanned[0]!) * 0.15);
  const [low, high] = [spanned[0]! - room, spanned[1]! + room];
  const x = (value: number) => 60 + ((Math.min(high, Math.max(low, value)) - low) / (high - low)) * 880;
  const step = steps.find((s) => (high - low) / s <= 12) ?? 2000;
  const ticks: number[] = [];
  for (let t = Math.ceil(low / step) * step; t <= high; t += step) ticks.push(t);
  const told = unit === 'deg' ? '°' : unit;
  return (
    <svg
      viewBox="0 0 1000 330"
      className="max-h-52 w-full"
      role="img"
      aria-label={`${name} in ${unit || 'whole numbers'}: ${predicted.length} predicted, ${trials.length} measured.`}
    >
      <g fontFamily="var(--font-sans)" fontSize="20" fill="var(--ink-2)">
        {band ? (
          <>
            <rect
              x={x(band[0])}
              width={Math.max(4, x(band[1]) - x(band[0]))}
              y="38"
              height="212"
              fill="var(--done-soft)"
            />
            <text
              x={(x(band[0]) + x(band[1])) / 2}
              y="28"
              textAnchor="middle"
              fill="var(--done)"
              fontWeight="700"
            >
              kept: {formatNumber(band[0])} to {formatNumber(band[1])} {told}
            </text>
          </>
        ) : null}
        {ticks.map((t) => (
          <g key={t}>
            <path d={`M${x(t)} 250V258`} stroke="var(--edge)" strokeWidth="2" />
            <text x={x(t)} y="282" textAnchor="middle">
              {formatNumber(t)}
            </text>
          </g>
        ))}
        <path d="M60 250H940" stroke="var(--edge)" strokeWidth="2" />
        <text x="500" y="318" textAnchor="middle">
          {name}
          {told ? `, ${told}` : ''}
        </text>
        {measure === 'past' ? <path d={`M${x(0)} 38V250`} stroke="var(--signal)" strokeWidth="3.5" /> : null}
        <text x="66" y="62" fontWeight="700" fill="var(--sea)">
          predicted
        </text>
        <text x="66" y="166" fontWeight="700" fill="var(--ink)">
          floor
        </text>
        {predicted.map((value, i) => (
          <circle
            key={i}
            cx={x(value)}
            cy={96 + spread(i) * 44}
            r="8"
            fill="var(--sea)"
            fillOpacity="0.4"
            stroke="var(--sea)"
            strokeWidth="2"
          />
        ))}
        {trials.map((trial, i) => (
          <g key={trial.id} transform={`translate(${x(trial.value)} ${168 + (i % 3) * 31})`}>
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
