import { useMemo } from 'react';
import { formatNumber } from '@vigilum/core/quantity';
import type { Trace } from '@vigilum/core/sim';
import { Chart, type ChartOption } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';
import type { ChartSignal } from './signals.ts';
import type { Playback } from './usePlayback.ts';

const GRID = { left: 64, right: 18, top: 12, bottom: 44 };

interface Band {
  line: number;
  fromS: number;
  toS: number;
}

/** More bands than this are too narrow to be seen: then the commonest line of each stretch stands for it. */
const MOST_BANDS = 60;
const STRETCHES = 90;

/** Stretches of the run during which one script line was being done; line 0 is after the program. */
export function bands(trace: Trace): Band[] {
  const line = trace.signals.line?.values ?? new Float32Array();
  const list: Band[] = [];
  for (let i = 0; i < line.length; i++) {
    const last = list.at(-1);
    const t = trace.timesS[i]!;
    if (last && last.line === line[i]) last.toS = t;
    else {
      if (last) last.toS = t;
      list.push({ line: line[i]!, fromS: t, toS: t });
    }
  }
  return list.length <= MOST_BANDS ? list : coarse(trace, line);
}

/** The same for a run that changes its line all the time, as in a loop. */
function coarse(trace: Trace, line: Float32Array): Band[] {
  const list: Band[] = [];
  const n = line.length;
  for (let k = 0; k < STRETCHES; k++) {
    const [from, to] = [Math.floor((k * n) / STRETCHES), Math.floor(((k + 1) * n) / STRETCHES)];
    const counts = new Map<number, number>();
    for (let i = from; i < to; i++) counts.set(line[i]!, (counts.get(line[i]!) ?? 0) + 1);
    const commonest = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
    if (commonest === undefined) continue;
    const [fromS, toS] = [trace.timesS[from]!, trace.timesS[Math.min(to, n - 1)]!];
    const last = list.at(-1);
    if (last?.line === commonest) last.toS = toS;
    else list.push({ line: commonest, fromS, toS });
  }
  return list;
}

const pointsOf = (trace: Trace, id: string): (number | null)[][] => {
  const values = trace.signals[id]?.values;
  const points: (number | null)[][] = [];
  // No reading leaves a gap in the line.
  if (values)
    for (let i = 0; i < values.length; i++)
      points.push([trace.timesS[i]!, Number.isNaN(values[i]!) ? null : values[i]!]);
  return points;
};

/** The ends of the upright axis: the signal's own, or those of what was measured. */
export function endsOf(signal: ChartSignal, traces: readonly Trace[]): [number, number] {
  let [low, high] = [signal.min ?? Infinity, signal.max ?? -Infinity];
  for (const trace of traces) {
    for (const value of trace.signals[signal.id]?.values ?? []) {
      if (!Number.isFinite(value) || Math.abs(value) > 50_000) continue;
      if (signal.min === null && value < low) low = value;
      if (signal.max === null && value > high) high = value;
    }
  }
  if (!(low < high)) return Number.isFinite(low) ? [low - 1, low + 1] : [0, 1];
  const room = (high - low) * 0.06;
  return [signal.min ?? low - room, signal.max ?? high + room];
}

function option(
  trace: Trace,
  other: Trace | null,
  signal: ChartSignal,
  threshold: number | null,
): ChartOption {
  const ink2 = role('ink-2');
  const end = Math.max(trace.timesS.at(-1) ?? 1, 0.01);
  const [min, max] = endsOf(signal, other ? [trace, other] : [trace]);
  const axis = { color: ink2, fontSize: 14 };
  return {
    grid: GRID,
    xAxis: {
      type: 'value',
      min: 0,
      max: end,
      name: 'time, s',
      nameLocation: 'middle',
      nameGap: 26,
      nameTextStyle: { color: ink2, fontSize: 15 },
      axisLabel: { ...axis, showMaxLabel: false, formatter: (v: number) => formatNumber(v, 2) },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      min,
      max,
      splitNumber: 2,
      name: `${signal.name.replace(/ \(.*/, '')}${signal.unit ? `, ${signal.unit}` : ''}`,
      nameLocation: 'middle',
      nameGap: 40,
      nameTextStyle: { color: ink2, fontSize: 15 },
      axisLabel: {
        ...axis,
        showMinLabel: signal.min !== null,
        showMaxLabel: signal.max !== null,
        formatter: (v: number) => formatNumber(v, 1),
      },
      splitLine: { lineStyle: { color: role('line-soft') } },
    },
    series: [
      ...(other
        ? [
            {
              type: 'line' as const,
              step: 'end' as const,
              data: pointsOf(other, signal.id),
              showSymbol: false,
              silent: true,
              lineStyle: { color: role('brass'), width: 2, type: 'dashed' as const },
            },
          ]
        : []),
      {
        type: 'line',
        step: 'end',
        data: pointsOf(trace, signal.id),
        showSymbol: false,
        silent: true,
        lineStyle: { color: role('ink'), width: 2 },
      },
      ...(threshold === null
        ? []
        : [
            {
              type: 'line' as const,
              silent: true,
              showSymbol: false,
              data: [
                [0, threshold],
                [end, threshold],
              ],
              lineStyle: { color: role('signal'), width: 2.5 },
            },
          ]),
    ],
  };
}

/** The sensor's reading over time with the threshold, the steps above it, and a cursor at the playback's time. */
export function TraceChart({
  trace,
  other = null,
  signal,
  threshold,
  playback,
  lines,
  className = '',
}: {
  trace: Trace;
  /** Another run to compare with: drawn dashed. */
  other?: Trace | null;
  signal: ChartSignal;
  /** In the signal's own unit. */
  threshold: number | null;
  playback: Playback;
  lines: readonly string[];
  className?: string;
}) {
  const end = playback.endS || 1;
  const [bottom, top] = useMemo(
    () => endsOf(signal, other ? [trace, other] : [trace]),
    [signal, trace, other],
  );
  const at = (t: number) =>
    `calc(${GRID.left}px + (100% - ${GRID.left + GRID.right}px) * ${Math.min(1, t / end)})`;
  const seekTo = (clientX: number, box: HTMLElement) => {
    const { left, width } = box.getBoundingClientRect();
    playback.seek(((clientX - left - GRID.left) / (width - GRID.left - GRID.right)) * end);
  };
  return (
    <div
      className={`relative flex flex-col ${className}`}
      onPointerDown={(event) => seekTo(event.clientX, event.currentTarget)}
      onPointerMove={(event) =>
        event.buttons === 1 ? seekTo(event.clientX, event.currentTarget) : undefined
      }
    >
      <div className="relative h-7 shrink-0" aria-hidden="true">
        {bands(trace).map((band) => {
          const here = playback.timeS >= band.fromS && playback.timeS < band.toS;
          const share = (band.toS - band.fromS) / end;
          return (
            <div
              key={band.fromS}
              className={`absolute inset-y-0 overflow-hidden rounded px-1.5 text-sm leading-7 whitespace-nowrap ${band.line === 0 ? 'bg-line-soft text-ink-2' : here ? 'bg-sea text-sheet' : 'bg-sea-soft text-sea'}`}
              style={{
                left: at(band.fromS),
                width: `calc((100% - ${GRID.left + GRID.right}px) * ${share} - 2px)`,
                padding: share < 0.04 ? 0 : undefined,
              }}
            >
              {share < 0.04
                ? ''
                : band.line === 0
                  ? 'program over'
                  : `${band.line} ${lines[band.line - 1]?.trim() ?? ''}`}
            </div>
          );
        })}
      </div>
      <div className="relative min-h-0 flex-1">
        <Chart
          className="absolute inset-0"
          redraw={[trace, other, signal, threshold]}
          option={() => option(trace, other, signal, threshold)}
          label={`${signal.name} over ${formatNumber(end)} s${threshold === null ? '' : `, with the threshold at ${formatNumber(threshold)} ${signal.unit}`}${other ? '; the other run is dashed' : ''}.`}
        />
        {threshold === null ? null : (
          <span
            aria-hidden="true"
            className="pointer-events-none absolute translate-y-1 rounded bg-sheet/85 px-1 text-sm font-bold text-signal"
            style={{
              left: GRID.left + 6,
              top: `calc(${GRID.top}px + (100% - ${GRID.top + GRID.bottom}px) * ${Math.min(0.8, Math.max(0, (top - threshold) / (top - bottom)))})`,
            }}
          >
            threshold {formatNumber(threshold)}
          </span>
        )}
      </div>
      <div
        aria-hidden="true"
        className="pointer-events-none absolute top-0 w-0.5 bg-ink"
        style={{ left: at(playback.timeS), bottom: GRID.bottom }}
      />
    </div>
  );
}
