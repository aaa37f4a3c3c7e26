import { formatNumber } from '@vigilum/core/quantity';
import type { Calibration, CalibrationPoint } from '@vigilum/core/sensing';
import { Chart, FONT, type ChartOption, type Series } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';

/** Readings against the ruler, their line, and how far each stands off it; all in one unit. */
export function CalibrationChart({
  points,
  line,
  unit,
  tolerance,
}: {
  points: readonly CalibrationPoint[];
  line: Calibration | null;
  unit: string;
  tolerance: number;
}) {
  const option = (): ChartOption => {
    const [ink, ink2, sea, brass, fault] = [
      role('ink'),
      role('ink-2'),
      role('sea'),
      role('brass'),
      role('fault'),
    ];
    const largest = Math.max(10, ...points.flatMap(({ truth, reading }) => [truth, reading])) * 1.04;
    const grid = largest > 1000 ? 500 : largest > 300 ? 100 : largest > 100 ? 50 : largest > 40 ? 10 : 5;
    const most = Math.ceil(largest / grid) * grid;
    const axis = {
      type: 'value' as const,
      min: 0,
      max: most,
      interval: most / grid > 8 ? 2 * grid : grid,
      nameLocation: 'middle' as const,
      nameTextStyle: { color: ink2, fontSize: 15 },
      axisLabel: { color: ink2, fontSize: 15 },
      splitLine: { lineStyle: { color: role('line-soft') } },
    };
    const straight = (slope: number, intercept: number, extra: object): Series => ({
      type: 'line' as const,
      data: [
        [0, intercept],
        [most, intercept + slope * most],
      ],
      showSymbol: false,
      silent: true,
      clip: true,
      ...extra,
    });
    return {
      grid: { left: 62, right: 30, top: 16, bottom: 52 },
      xAxis: { ...axis, name: `ruler, ${unit}`, nameGap: 30 },
      yAxis: { ...axis, name: `reading, ${unit}`, nameGap: 40 },
      series: [
        straight(1, 0, { lineStyle: { color: ink2, width: 1.5, type: 'dashed' as const } }),
        ...(line ? [straight(line.slope, line.intercept, { lineStyle: { color: sea, width: 2.5 } })] : []),
        ...(line?.usable
          ? [
              {
                type: 'line' as const,
                data: [
                  [line.usable[0], most * 0.012],
                  [line.usable[1], most * 0.012],
                ],
                showSymbol: false,
                silent: true,
                lineStyle: { color: role('done'), width: 7, cap: 'butt' as const },
              },
            ]
          : []),
        {
          type: 'scatter' as const,
          data: points.map(({ truth, reading }, i) => {
            const off = line?.residuals[i] ?? 0;
            const wide = Math.abs(off) > tolerance;
            return {
              value: [truth, reading],
              symbol: wide ? 'diamond' : 'circle',
              itemStyle: { color: wide ? fault : brass },
              label: {
                show: line !== null,
                position: 'right' as const,
                formatter: `${off > 0 ? '+' : ''}${formatNumber(off, 1)}`,
                color: wide ? fault : ink,
                fontSize: 15,
                fontFamily: FONT,
              },
            };
          }),
          symbolSize: 13,
          silent: true,
        },
      ],
    };
  };
  return (
    <Chart
      className="min-h-64 flex-1"
      label={
        line
          ? `Readings against the ruler: slope ${formatNumber(line.slope, 3)}, offset ${formatNumber(line.intercept, 2)} ${unit}.`
          : 'Readings against the ruler.'
      }
      option={option}
      redraw={[points, line, unit, tolerance]}
    />
  );
}
