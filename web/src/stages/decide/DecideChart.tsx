import { safeStretch, type Pair, type SurfaceFigures } from '@vigilum/core/threshold';
import { formatNumber } from '@vigilum/core/quantity';
import { Chart, FONT, readingAxis, type ChartOption, type Series } from '../../ui/Chart.tsx';
import { spread } from '../../ui/scatter.ts';
import { role } from '../../ui/theme.ts';

const GRID = { left: 24, right: 24, top: 64, bottom: 56 };
/** Part of the height that belongs to the dots under the curves. */
const FOOT = 0.42;

const density = ({ mean, sd }: SurfaceFigures, x: number): number =>
  Math.exp(-0.5 * ((x - mean) / sd) ** 2) / sd;

function curve(surface: SurfaceFigures, peak: number): number[][] {
  const points: number[][] = [];
  for (let k = -48; k <= 48; k++) {
    const x = surface.mean + (k / 12) * surface.sd;
    points.push([x, density(surface, x) / peak]);
  }
  return points;
}

function option(pair: Pair, value: number, range: { min: number; max: number }): ChartOption {
  const [ink2, done] = [role('ink-2'), role('done')];
  const peak = Math.max(1 / pair.low.sd, 1 / pair.high.sd);
  const safe = safeStretch(pair);
  // Labels stand under their dots; they lean away from the rims, and from each other when the surfaces are close.
  const share = (x: number) => (x - range.min) / (range.max - range.min);
  const [lowAt, highAt] = [share(pair.low.mean), share(pair.high.mean)];
  const close = highAt - lowAt < 0.3;
  const anchors = {
    low: lowAt < 0.2 ? ('left' as const) : close || lowAt > 0.8 ? ('right' as const) : ('center' as const),
    high: highAt > 0.8 ? ('right' as const) : close || highAt < 0.2 ? ('left' as const) : ('center' as const),
  };
  const sides = [
    { surface: pair.low, colour: role('ink'), align: anchors.low },
    { surface: pair.high, colour: role('brass'), align: anchors.high },
  ];
  return {
    grid: GRID,
    xAxis: readingAxis(range, pair.unit),
    yAxis: { type: 'value', min: -FOOT, max: 1.04, show: false },
    series: [
      ...sides.flatMap(({ surface, colour, align }): Series[] => [
        {
          type: 'line' as const,
          data: curve(surface, peak),
          showSymbol: false,
          silent: true,
          lineStyle: { color: colour, width: 2.5 },
          areaStyle: { color: colour, opacity: 0.14, origin: 0 },
        },
        {
          type: 'scatter' as const,
          data: surface.sorted.map((v, i) => [v, -0.11 + spread(i) * 0.13]),
          symbolSize: 11,
          itemStyle: { color: colour, opacity: 0.55 },
          silent: true,
        },
        {
          type: 'scatter' as const,
          data: [[surface.mean, -0.29]],
          symbolSize: 0.01,
          itemStyle: { opacity: 1 },
          silent: true,
          label: {
            show: true,
            align,
            formatter: `{name|${surface.name}}\n${formatNumber(surface.mean)} ± ${formatNumber(surface.sd)}, n ${surface.n}`,
            color: ink2,
            fontSize: 16,
            lineHeight: 21,
            rich: { name: { color: colour, fontWeight: 'bold', fontSize: 17, fontFamily: FONT } },
          },
        },
      ]),
      ...(safe
        ? [
            {
              type: 'line' as const,
              data: [
                [safe[0], -FOOT + 0.012],
                [safe[1], -FOOT + 0.012],
              ],
              showSymbol: false,
              silent: true,
              lineStyle: { color: done, width: 6, cap: 'butt' as const },
            },
          ]
        : []),
      {
        type: 'line' as const,
        data: [
          [value, -FOOT],
          [value, 1.04],
        ],
        showSymbol: false,
        silent: true,
        lineStyle: { color: role('signal'), width: 3.5 },
      },
    ],
  };
}

/** Both sets as curves and dots, the threshold as a line between them, the safe stretch along the axis. */
export function DecideChart({
  pair,
  value,
  range,
  says,
}: {
  pair: Pair;
  value: number;
  range: { min: number; max: number };
  says: string;
}) {
  const share = (value - range.min) / (range.max - range.min);
  return (
    <div className="relative min-h-72 flex-1">
      <Chart
        className="absolute inset-0"
        redraw={[pair, value, range.min, range.max]}
        option={() => option(pair, value, range)}
        label={`Threshold ${formatNumber(value)} ${pair.unit} between the ${pair.low.name} at ${formatNumber(pair.low.mean)} and the ${pair.high.name} at ${formatNumber(pair.high.mean)}.`}
      />
      <div
        className={`pointer-events-none absolute top-2 whitespace-nowrap text-signal ${share > 0.55 ? '-translate-x-full pr-3' : 'pl-3'}`}
        style={{ left: `calc(${GRID.left}px + (100% - ${GRID.left + GRID.right}px) * ${share})` }}
      >
        <span className="font-mono text-2xl font-bold">{formatNumber(value)}</span>{' '}
        <span className="text-lg max-sm:hidden">{says}</span>
      </div>
    </div>
  );
}
