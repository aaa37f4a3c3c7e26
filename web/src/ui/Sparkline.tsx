import type { Reading } from '@vigilum/core/sensing';

/** The last looks of a sensor as a small line; gaps where there was no reading. */
export function Sparkline({
  values,
  min,
  max,
  className = '',
}: {
  values: readonly Reading[];
  min: number;
  max: number;
  className?: string;
}) {
  const width = 300;
  const height = 60;
  const step = width / 119;
  const y = (v: number) => height - 2 - ((v - min) / (max - min)) * (height - 4);
  let path = '';
  let pen = false;
  values.forEach((value, i) => {
    if (value === null) {
      pen = false;
      return;
    }
    const x = width - (values.length - 1 - i) * step;
    path += `${pen ? 'L' : 'M'}${x.toFixed(1)} ${y(value).toFixed(1)}`;
    pen = true;
  });
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      className={className}
      aria-hidden="true"
    >
      <path d={`M0 ${height - 1}H${width}`} stroke="var(--line)" strokeWidth="1" />
      <path
        d={path}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
        strokeLinejoin="round"
      />
    </svg>
  );
}
