import { formatNumber } from '@vigilum/core/quantity';
import { summarise, type Reading } from '@vigilum/core/sensing';
import { Chart, FONT, readingAxis, type ChartOption, type Series } from '../ui/Chart.tsx';
import { spread } from '../ui/scatter.ts';
import { role } from '../ui/theme.ts';

export const GRID = { left: 28, right: 28, top: 30, bottom: 52 };

export interface ShownSet {
  surface: string;
  values: readonly Reading[];
  colour: 'ink' | 'brass';
}

/** At most this many dots of a set are drawn, evenly picked; its figures are of all readings. */
const MOST_DOTS = 300;

function thinned(values: readonly Reading[]): Reading[] {
  const every = Math.ceil(values.length / MOST_DOTS);
  return every > 1 ? values.filter((_, i) => i % every === 0) : [...values];
}

function option(
  sets: readonly ShownSet[],
  range: { min: number; max: number },
  unit: string,
  what: string,
): ChartOption {
  const ink2 = role('ink-2');
  const anchor = (x: number) => {
    const share = (x - range.min) / (range.max - range.min);
    return share > 0.66 ? ('right' as const) : share < 0.34 ? ('left' as const) : ('center' as const);
  };
  return {
    grid: GRID,
    xAxis: readingAxis(range, unit, what),
    yAxis: { type: 'value', min: -0.6, max: sets.length - 0.4, show: false, inverse: true },
    series: sets.flatMap((set, row): Series[] => {
      const s = summarise(set.values);
      const colour = role(set.colour);
      if (s.mean === null) {
        return [
          {
            type: 'scatter' as const,
            symbolSize: 0.01,
            data: [[(range.min + range.max) / 2, row]],
            label: { show: true, formatter: `${set.surface}: not read yet`, color: ink2, fontSize: 16 },
            silent: true,
          },
        ];
      }
      const text = `{name|${set.surface}}\u2003\u2002mean ${formatNumber(s.mean)} ${unit}, sd ${formatNumber(s.sd, 2)}, ${formatNumber(s.min, 0)}–${formatNumber(s.max, 0)}, n ${s.n}`;
      return [
        {
          type: 'scatter' as const,
          symbolSize: sets.length > 3 ? 9 : 13,
          itemStyle: { color: colour, opacity: 0.55 },
          data: thinned(set.values).flatMap((v, i) =>
            v === null ? [] : [[v, row + 0.16 + spread(i) * 0.34]],
          ),
          silent: true,
        },
        {
          type: 'scatter' as const,
          symbol: 'rect',
          symbolSize: [3, sets.length > 3 ? 30 : 56],
          itemStyle: { color: colour },
          data: [[s.mean, row + 0.16]],
          silent: true,
        },
        {
          type: 'scatter' as const,
          symbolSize: 0.01,
          itemStyle: { opacity: 1 },
          data: [[s.mean, row + 0.16]],
          silent: true,
          label: {
            show: true,
            offset: [0, sets.length > 3 ? -26 : -46],
            align: anchor(s.mean),
            formatter: text,
            color: ink2,
            fontSize: 16,
            rich: { name: { color: colour, fontWeight: 'bold', fontSize: 17, fontFamily: FONT } },
          },
        },
      ];
    }),
  };
}

/** Every reading of each surface as a dot, its mean as a bar; the live reading as a line over both. */
export function SetsChart({
  sets,
  range,
  unit,
  what = 'reflected light',
  live,
}: {
  sets: readonly ShownSet[];
  range: { min: number; max: number };
  unit: string;
  what?: string;
  live: Reading | undefined;
}) {
  const share = typeof live === 'number' ? (live - range.min) / (range.max - range.min) : null;
  const said = sets
    .map((set) => {
      const s = summarise(set.values);
      return s.mean === null
        ? `${set.surface} not read yet`
        : `${set.surface} ${formatNumber(s.mean)} ${unit}`;
    })
    .join(', ');
  return (
    <div className="relative min-h-72 flex-1">
      <Chart
        className="absolute inset-0"
        label={`Readings by surface: ${said}.`}
        option={() => option(sets, range, unit, what)}
        redraw={[sets, range.min, range.max, unit, what]}
      />
      {share === null ? null : (
        <div
          aria-hidden="true"
          className="pointer-events-none absolute w-0.5 bg-sea"
          style={{
            top: GRID.top - 6,
            bottom: GRID.bottom,
            left: `calc(${GRID.left}px + (100% - ${GRID.left + GRID.right}px) * ${share})`,
          }}
        >
          <span
            className={`absolute -top-6 font-bold whitespace-nowrap text-sea ${share > 0.85 ? 'right-1' : 'left-1'}`}
          >
            now {formatNumber(live, 0)}
          </span>
        </div>
      )}
    </div>
  );
}
