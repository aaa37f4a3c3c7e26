import { safeStretch, type Pair, type SurfaceFigures, type Wanted } from '@vigilum/core/threshold';
import { formatNumber } from '@vigilum/core/quantity';
import { Chart, FONT, readingAxis, type ChartOption, type Series } from '../../ui/Chart.tsx';
import { spread } from '../../ui/scatter.ts';
import { role } from '../../ui/theme.ts';

const GRID = { left: 24, right: 24, top: 44, bottom: 54 };
/** Part of the height that belongs to the dots under the curves. */
const FOOT = 0.6;

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

function option(
  pair: Pair,
  wanted: Wanted,
  levels: readonly number[],
  range: { min: number; max: number },
  others: readonly SurfaceFigures[],
  what: string,
): ChartOption {
  const [ink2, done] = [role('ink-2'), role('done')];
  const peak = Math.max(1 / pair.low.sd, 1 / pair.high.sd);
  const safe = safeStretch(pair, wanted);
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
    xAxis: {
      ...readingAxis(range, pair.unit),
      name: `${what}, ${pair.unit}${safe ? '   (green: less than 1 misread in 1000)' : ''}`,
    },
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
          data: surface.sorted.map((v, i) => [v, -0.12 + spread(i) * 0.13]),
          symbolSize: 10,
          itemStyle: { color: colour, opacity: 0.55 },
          silent: true,
        },
        {
          type: 'scatter' as const,
          data: [[surface.mean, -0.41]],
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
      // Other surfaces stand as marks along the foot, so that rivals between the two are seen.
      ...others.map((surface): Series => ({
        type: 'scatter' as const,
        symbol: 'diamond',
        symbolSize: 14,
        data: [[surface.mean, 0.1]],
        itemStyle: { color: ink2 },
        silent: true,
        label: {
          show: true,
          position: 'top',
          align: share(surface.mean) < 0.2 ? 'left' : share(surface.mean) > 0.8 ? 'right' : 'center',
          formatter: `${surface.name} ${formatNumber(surface.mean)}`,
          color: ink2,
          backgroundColor: role('sheet'),
          padding: [1, 3],
          fontSize: 15,
          fontFamily: FONT,
        },
      })),
      ...levels.map((value): Series => ({
        type: 'line' as const,
        data: [
          [value, -FOOT],
          [value, 1.04],
        ],
        showSymbol: false,
        silent: true,
        lineStyle: { color: role('signal'), width: 3.5 },
      })),
    ],
  };
}

/** Both sets as curves and dots, the levels as lines between them, the safe stretch along the axis. */
export function DecideChart({
  pair,
  wanted,
  levels,
  range,
  label,
  others,
  what,
}: {
  pair: Pair;
  wanted: Wanted;
  levels: readonly number[];
  range: { min: number; max: number };
  /** What stands at the line: the value with its unit. */
  label: string;
  others: readonly SurfaceFigures[];
  /** What the sensor measures. */
  what: string;
}) {
  const share = ((levels[0] ?? range.min) - range.min) / (range.max - range.min);
  return (
    <div className="relative min-h-52 flex-1 max-lg:min-h-96">
      <Chart
        className="absolute inset-0"
        redraw={[pair, wanted, levels.join(), range.min, range.max, others]}
        option={() => option(pair, wanted, levels, range, others, what)}
        label={`Threshold ${label} between the ${pair.low.name} at ${formatNumber(pair.low.mean)} and the ${pair.high.name} at ${formatNumber(pair.high.mean)}.`}
      />
      <div
        className={`pointer-events-none absolute top-2 text-2xl font-bold whitespace-nowrap text-signal ${share > 0.55 ? '-translate-x-full pr-3' : 'pl-3'}`}
        style={{ left: `calc(${GRID.left}px + (100% - ${GRID.left + GRID.right}px) * ${share})` }}
      >
        {label}
      </div>
    </div>
  );
}
