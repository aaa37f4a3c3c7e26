import { formatNumber } from '@vigilum/core/quantity';
import {
  columnsOf,
  knobAmount,
  placeOn,
  resultFacts,
  resultText,
  rowsOf,
  safeAt,
  safeBorder,
  valueAt,
  type HandWalk,
  type ResultKey,
  type Sweep,
} from '@vigilum/core/tuning';
import { FONT, type ChartOption, type Series } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';

/** Something that lies on the field: the model answer, a team's trials in order. */
export interface OnField {
  name: string;
  points: { x: number; y: number }[];
}

const short = (value: number): string =>
  formatNumber(value, Math.abs(value) < 1 ? 2 : Math.abs(value) < 10 ? 1 : 0);

/** Lowest and highest of a result over the field; of a pass rate always 0 and 100. */
export function endsOf(sweep: Sweep, result: ResultKey): [number, number] | null {
  if (result === 'pass rate') return [0, 100];
  const values = sweep.points.flatMap((point) => valueAt(point, result) ?? []);
  return values.length > 0 ? [Math.min(...values), Math.max(...values)] : null;
}

/** The field of a sweep: a cell a point, its number in it, dark for much; the safe region outlined; what lies on it. */
export function sweepOption(
  sweep: Sweep,
  result: ResultKey,
  fields: {
    model: { x: number; y: number } | null;
    answer: { x: number; y: number } | null;
    team: OnField | null;
    hand: HandWalk | null;
  },
): ChartOption {
  const [nx, ny] = [columnsOf(sweep), rowsOf(sweep)];
  const [ink, ink2, sheet, sea, brass, done, edge] = [
    'ink',
    'ink-2',
    'sheet',
    'sea',
    'brass',
    'done',
    'edge',
  ].map(role) as [string, string, string, string, string, string, string];
  const ends = endsOf(sweep, result);
  const shade = (value: number): number =>
    ends && ends[1] > ends[0] ? (value - ends[0]) / (ends[1] - ends[0]) : 0.5;
  const cells = sweep.points.flatMap((point, index) => {
    const value = valueAt(point, result);
    return value === null ? [] : [[index % nx, Math.floor(index / nx), value, index]];
  });
  const border = safeBorder(sweep);
  // A place of the grid as a category axis counts it.
  const at = (axis: Sweep['x'], value: number): number | null => placeOn(axis, value);
  const place = (point: { x: number; y: number }): [number, number] | null => {
    const x = at(sweep.x, point.x);
    const y = sweep.y ? at(sweep.y, point.y) : 0;
    return x === null || y === null ? null : [x, y];
  };
  const axis = (values: readonly number[], name: string, gap: number) => ({
    type: 'value' as const,
    min: -0.5,
    max: values.length - 0.5,
    interval: 1,
    name,
    nameLocation: 'middle' as const,
    nameGap: gap,
    nameTextStyle: { color: ink2, fontSize: 15 },
    axisTick: { show: false },
    splitLine: { show: false },
    axisLabel: { show: false },
    axisLine: { show: false },
  });
  const unitOf = (unit: string) => (unit === '' ? '' : `, ${unit === 'deg' ? '°' : unit}`);
  const labels = (values: readonly number[], along: 'x' | 'y'): Series => {
    const every = Math.ceil(values.length / (along === 'x' ? 11 : 12));
    return {
      type: 'custom' as const,
      silent: true,
      clip: false,
      data: values.flatMap((value, i) =>
        i % every === 0 || (i === values.length - 1 && i % every > every / 2) ? [[i, value]] : [],
      ),
      renderItem: (_, api) => {
        const i = api.value(0) as number;
        const [px, py] = api.coord(along === 'x' ? [i, -0.5] : [-0.5, i]) as [number, number];
        return {
          type: 'text',
          style: {
            text: short(api.value(1) as number),
            x: along === 'x' ? px : px - 8,
            y: along === 'x' ? py + 8 : py,
            align: along === 'x' ? 'center' : 'right',
            verticalAlign: along === 'x' ? 'top' : 'middle',
            fill: ink2,
            font: `15px ${FONT}`,
          },
        };
      },
    };
  };
  const line = (points: readonly [number, number][], colour: string, dashed: boolean): Series => ({
    type: 'line' as const,
    silent: true,
    symbol: 'none',
    z: 6,
    lineStyle: { color: colour, width: 3, type: dashed ? ('dashed' as const) : ('solid' as const) },
    data: points as [number, number][],
  });
  const model = fields.model && place(fields.model);
  const answer = fields.answer && place(fields.answer);
  const team = (fields.team?.points ?? []).flatMap((point) => {
    const found = place(point);
    return found ? [found] : [];
  });
  return {
    grid: { left: 74, right: 16, top: 10, bottom: 56 },
    tooltip: {
      trigger: 'item',
      confine: true,
      formatter: (given: unknown) => {
        const data = (given as { data?: number[] }).data;
        const point = data && data.length === 4 ? sweep.points[data[3]!] : null;
        if (!data || !point) return '';
        const x = knobAmount({ value: sweep.x.values[data[0]!]!, unit: sweep.x.unit });
        const y = sweep.y ? knobAmount({ value: sweep.y.values[data[1]!]!, unit: sweep.y.unit }) : '';
        const safe = safeAt(point, sweep.bar)!;
        return [
          `${sweep.x.knob} ${x}${sweep.y ? ` · ${sweep.y.knob} ${y}` : ''}`,
          `${point.passes} of ${point.runs} runs pass${safe.sure ? '' : ': not yet sure'}`,
          ...(result === 'pass rate' ? [] : [`${resultFacts[result].name} ${resultText(result, data[2]!)}`]),
        ]
          .map((text) => text.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`))
          .join('<br>');
      },
    },
    xAxis: axis(sweep.x.values, `${sweep.x.knob}${unitOf(sweep.x.unit)}`, 32),
    yAxis: {
      ...axis(sweep.y?.values ?? [0], sweep.y ? `${sweep.y.knob}${unitOf(sweep.y.unit)}` : '', 52),
    },
    series: [
      {
        type: 'custom' as const,
        z: 2,
        data: cells,
        renderItem: (_, api) => {
          const [i, j, value] = [api.value(0) as number, api.value(1) as number, api.value(2) as number];
          const [x0, y0] = api.coord([i - 0.5, j + 0.5]) as [number, number];
          const [x1, y1] = api.coord([i + 0.5, j - 0.5]) as [number, number];
          const much = shade(value);
          const [width, height] = [x1 - x0, y1 - y0];
          const text = short(value);
          const fits = width >= 9 * text.length && height >= 17;
          return {
            type: 'group',
            children: [
              {
                type: 'rect',
                shape: { x: x0, y: y0, width: Math.ceil(width), height: Math.ceil(height) },
                style: { fill: sea, opacity: 0.06 + 0.86 * much },
              },
              ...(fits
                ? [
                    {
                      type: 'text' as const,
                      style: {
                        text,
                        x: (x0 + x1) / 2,
                        y: (y0 + y1) / 2,
                        align: 'center' as const,
                        verticalAlign: 'middle' as const,
                        fill: much > 0.5 ? sheet : ink,
                        font: `14px ${FONT}`,
                      },
                    },
                  ]
                : []),
            ],
          };
        },
      },
      {
        type: 'custom' as const,
        silent: true,
        z: 4,
        data: border.map((one) => [...one]),
        encode: { x: [0, 2], y: [1, 3] },
        renderItem: (_, api) => {
          const [a, b] = [api.coord([api.value(0), api.value(1)]), api.coord([api.value(2), api.value(3)])];
          return {
            type: 'line',
            shape: { x1: a[0]!, y1: a[1]!, x2: b[0]!, y2: b[1]! },
            style: { stroke: done, lineWidth: 4, lineCap: 'round' },
          };
        },
      },
      labels(sweep.x.values, 'x'),
      ...(sweep.y ? [labels(sweep.y.values, 'y')] : []),
      ...(fields.hand ? [line(fields.hand.places, brass, true)] : []),
      ...(team.length > 0
        ? [
            line(team, ink, false),
            {
              type: 'scatter' as const,
              z: 7,
              silent: true,
              symbolSize: 13,
              itemStyle: { color: sheet, borderColor: ink, borderWidth: 3 },
              data: team,
            },
          ]
        : []),
      ...(model
        ? [
            {
              type: 'scatter' as const,
              z: 8,
              silent: true,
              symbol: 'diamond',
              symbolSize: 22,
              itemStyle: { color: brass, borderColor: sheet, borderWidth: 2 },
              data: [model],
            },
          ]
        : []),
      ...(answer
        ? [
            {
              type: 'scatter' as const,
              z: 8,
              silent: true,
              symbol: 'triangle',
              symbolSize: 20,
              itemStyle: { color: done, borderColor: sheet, borderWidth: 2 },
              data: [answer],
            },
          ]
        : []),
      // An empty field has its frame.
      {
        type: 'custom' as const,
        silent: true,
        z: 1,
        data: [[nx, ny]],
        encode: { x: -1, y: -1 },
        renderItem: (_, api) => {
          const [x0, y0] = api.coord([-0.5, ny - 0.5]) as [number, number];
          const [x1, y1] = api.coord([nx - 0.5, -0.5]) as [number, number];
          return {
            type: 'rect',
            shape: { x: x0, y: y0, width: x1 - x0, height: y1 - y0 },
            style: { fill: 'transparent', stroke: edge, lineWidth: 1 },
          };
        },
      },
    ],
  };
}
