import { formatNumber } from '@vigilum/core/quantity';
import type { Trace } from '@vigilum/core/sim';
import { Chart, type ChartOption } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';
import type { Playback } from './usePlayback.ts';

const GRID = { left: 58, right: 18, top: 12, bottom: 44 };

interface Band {
  line: number;
  fromS: number;
  toS: number;
}

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
  return list;
}

function option(trace: Trace, socket: string, threshold: number | null): ChartOption {
  const ink2 = role('ink-2');
  const values = trace.signals[socket]?.values;
  const end = trace.timesS.at(-1) ?? 1;
  const points: number[][] = [];
  if (values) for (let i = 0; i < values.length; i++) points.push([trace.timesS[i]!, values[i]!]);
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
      axisLabel: {
        color: ink2,
        fontSize: 14,
        showMaxLabel: false,
        formatter: (v: number) => formatNumber(v, 2),
      },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      min: 0,
      max: 100,
      interval: 50,
      name: 'light, %',
      nameLocation: 'middle',
      nameGap: 36,
      nameTextStyle: { color: ink2, fontSize: 15 },
      axisLabel: { color: ink2, fontSize: 14 },
      splitLine: { lineStyle: { color: role('line-soft') } },
    },
    series: [
      {
        type: 'line',
        step: 'end',
        data: points,
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
  socket,
  threshold,
  playback,
  lines,
  className = '',
}: {
  trace: Trace;
  socket: string;
  threshold: number | null;
  playback: Playback;
  lines: readonly string[];
  className?: string;
}) {
  const end = playback.endS || 1;
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
          redraw={[trace, socket, threshold]}
          option={() => option(trace, socket, threshold)}
          label={`Reading of ${socket} over ${formatNumber(end)} s${threshold === null ? '' : `, with the threshold at ${formatNumber(threshold)} %`}.`}
        />
        {threshold === null ? null : (
          <span
            aria-hidden="true"
            className="pointer-events-none absolute translate-y-1 rounded bg-sheet/85 px-1 text-sm font-bold text-signal"
            style={{
              left: GRID.left + 6,
              top: `calc(${GRID.top}px + (100% - ${GRID.top + GRID.bottom}px) * ${1 - threshold / 100})`,
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
