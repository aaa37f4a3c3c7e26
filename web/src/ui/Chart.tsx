import { CustomChart, LineChart, ScatterChart } from 'echarts/charts';
import {
  AriaComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components';
import { init, use as register, type ComposeOption, type EChartsType } from 'echarts/core';
import type { CustomSeriesOption, LineSeriesOption, ScatterSeriesOption } from 'echarts/charts';
import type { AriaComponentOption, GridComponentOption, TooltipComponentOption } from 'echarts/components';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { role, useTheme } from './theme.ts';

register([
  CustomChart,
  LineChart,
  ScatterChart,
  GridComponent,
  MarkLineComponent,
  MarkAreaComponent,
  TooltipComponent,
  AriaComponent,
  CanvasRenderer,
]);

export type ChartOption = ComposeOption<
  | CustomSeriesOption
  | LineSeriesOption
  | ScatterSeriesOption
  | GridComponentOption
  | TooltipComponentOption
  | AriaComponentOption
>;

/** One series of a chart. */
export type Series = CustomSeriesOption | LineSeriesOption | ScatterSeriesOption;

/** Font of chart texts; styled parts of a label must name it again. */
export const FONT = "'Atkinson Hyperlegible Next Variable', sans-serif";

/** A horizontal axis of readings over a sensor's whole range. */
export function readingAxis(range: { min: number; max: number }, unit: string, what = 'reflected light') {
  const colour = role('ink-2');
  return {
    type: 'value' as const,
    min: range.min,
    max: range.max,
    name: unit ? `${what}, ${unit}` : what,
    nameLocation: 'middle' as const,
    nameGap: 31,
    nameTextStyle: { color: colour, fontSize: 15 },
    axisLabel: { color: colour, fontSize: 15 },
    axisLine: { onZero: false },
    splitLine: { lineStyle: { color: role('line-soft') } },
  };
}

/**
 * A chart. `option` is a function, so that colours are read from the theme in force; `label` says in a
 * sentence what it shows, for those who do not see it.
 */
export function Chart({
  option,
  label,
  className = '',
  redraw,
}: {
  option: () => ChartOption;
  label: string;
  className?: string;
  redraw: readonly unknown[];
}) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType | null>(null);
  const theme = useTheme();
  useEffect(() => {
    const made = init(box.current);
    chart.current = made;
    const watch = new ResizeObserver(() => made.resize());
    watch.observe(box.current!);
    return () => {
      watch.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(() => {
    let stale = false;
    const draw = () => {
      if (stale) return;
      chart.current?.setOption(
        { animation: false, textStyle: { fontFamily: FONT, fontSize: 14 }, ...option() },
        { notMerge: true },
      );
    };
    draw();
    // Canvas text drawn before the font has come would keep the fallback.
    void document.fonts.load(`14px ${FONT}`).then(draw);
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the caller lists what the option depends on
  }, [theme, ...redraw]);
  return <div ref={box} role="img" aria-label={label} className={className} />;
}
