import { formatNumber } from '@vigilum/core/quantity';
import type { Reading } from '@vigilum/core/sensing';
import type { Plateau } from '@vigilum/core/threshold';
import { Chart, FONT, type ChartOption, type Series } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';

/** A record over time: the trace, its level stretches, and where it splits. */
export function SweepChart({
  values,
  periodMs,
  plateaus,
  split,
  range,
  unit,
  what,
}: {
  values: readonly Reading[];
  periodMs: number;
  plateaus: readonly Plateau[];
  split: number | null;
  range: { min: number; max: number };
  unit: string;
  what: string;
}) {
  const option = (): ChartOption => {
    const ink2 = role('ink-2');
    const seconds = (i: number) => (i * periodMs) / 1000;
    const longest = Math.ceil(Math.max(2, seconds(values.length - 1)));
    const axis = {
      nameLocation: 'middle' as const,
      nameTextStyle: { color: ink2, fontSize: 15 },
      axisLabel: { color: ink2, fontSize: 15 },
      splitLine: { lineStyle: { color: role('line-soft') } },
    };
    return {
      grid: { left: 58, right: 92, top: 18, bottom: 50 },
      xAxis: { type: 'value', min: 0, max: longest, name: 'time, s', nameGap: 29, ...axis },
      yAxis: {
        type: 'value',
        min: range.min,
        max: range.max,
        name: `${what}, ${unit}`,
        nameGap: 38,
        ...axis,
      },
      series: [
        {
          type: 'line' as const,
          data: values.map((v, i) => [seconds(i), v]),
          showSymbol: false,
          silent: true,
          lineStyle: { color: role('ink'), width: 2 },
        },
        ...plateaus.map((p): Series => ({
          type: 'line' as const,
          data: [
            [seconds(p.from), p.mean],
            [seconds(p.to), p.mean],
          ],
          showSymbol: false,
          silent: true,
          lineStyle: { color: role('brass'), width: 7, opacity: 0.6, cap: 'round' as const },
        })),
        ...(split === null
          ? []
          : [
              {
                type: 'line' as const,
                data: [
                  [0, split],
                  [longest, split],
                ],
                showSymbol: false,
                silent: true,
                lineStyle: { color: role('signal'), width: 3 },
                endLabel: {
                  show: true,
                  formatter: `split\n${formatNumber(split)} ${unit}`,
                  color: role('signal'),
                  fontSize: 16,
                  fontWeight: 'bold' as const,
                  fontFamily: FONT,
                  lineHeight: 20,
                },
              },
            ]),
      ],
    };
  };
  return (
    <Chart
      className="min-h-64 flex-1"
      label={`A record of ${values.length} looks${split === null ? '' : `, split at ${formatNumber(split)} ${unit}`}.`}
      option={option}
      redraw={[values, plateaus, split, range.min, range.max]}
    />
  );
}
