import type { ClassReport } from '@vigilum/core/year';
import { FONT, type ChartOption } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';

/** How many skills of all teams had been seen, and shown, day by day. */
export function growthOption({ growth, teams, skills }: ClassReport): ChartOption {
  const ink = role('ink-2');
  const most = teams.length * skills.length;
  const line = (name: string, color: string, values: number[]) => ({
    type: 'line' as const,
    name,
    step: 'end' as const,
    symbolSize: 8,
    data: growth.map(({ at }, i) => [at, values[i]!]),
    lineStyle: { color, width: 3 },
    itemStyle: { color },
    endLabel: {
      show: true,
      formatter: `${name} ${values.at(-1)}`,
      color,
      fontFamily: FONT,
      fontSize: 15,
      fontWeight: 'bold' as const,
    },
  });
  return {
    animation: false,
    textStyle: { fontFamily: FONT, fontSize: 14 },
    aria: { enabled: true },
    grid: { left: 64, right: 130, top: 16, bottom: 48 },
    xAxis: {
      type: 'time',
      name: 'day',
      nameLocation: 'middle',
      nameGap: 30,
      axisLabel: { color: ink, fontSize: 14, hideOverlap: true, formatter: '{d} {MMM}' },
      nameTextStyle: { color: ink, fontSize: 14 },
    },
    yAxis: {
      type: 'value',
      name: `team-skills of ${most}`,
      nameLocation: 'middle',
      nameGap: 42,
      minInterval: 1,
      axisLabel: { color: ink, fontSize: 14 },
      nameTextStyle: { color: ink, fontSize: 14 },
      splitLine: { lineStyle: { color: role('line-soft') } },
    },
    series: [
      line(
        'seen',
        role('brass'),
        growth.map(({ seen }) => seen),
      ),
      line(
        'shown',
        role('sea'),
        growth.map(({ shown }) => shown),
      ),
    ],
  };
}
