import {
  knobAmount,
  resultFacts,
  resultText,
  stepSays,
  type Goal,
  type ResultKey,
  type WalkStep,
} from '@vigilum/core/tuning';
import { FONT, type ChartOption, type Series } from '../ui/Chart.tsx';
import { role } from '../ui/theme.ts';

/** A trial that has both numbers of a chart. */
export interface WalkPoint {
  step: WalkStep;
  x: number;
  y: number;
}

/** The trials that tell both what a knob was and what a result came to. */
export const walkPoints = (walk: readonly WalkStep[], knob: string, result: ResultKey): WalkPoint[] =>
  walk.flatMap((step) => {
    const x = step.trial.knobs.find(({ name }) => name === knob)?.value;
    const y = step.trial.results[result];
    return x === undefined || y === undefined ? [] : [{ step, x, y }];
  });

const padded = (values: readonly number[]): [number, number] => {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = high === low ? Math.max(1, Math.abs(high) * 0.2) : (high - low) * 0.12;
  return [low - room, high + room];
};

/** A round step and the ends on it, so that ticks are round too. */
function axisEnds([low, high]: [number, number]): { min: number; max: number; interval: number } {
  const raw = (high - low) / 5;
  const power = 10 ** Math.floor(Math.log10(raw));
  const interval = [1, 2, 5, 10].map((f) => f * power).find((step) => step >= raw) ?? raw;
  const tidy = (value: number) => Number(value.toPrecision(10));
  return {
    min: tidy(Math.floor(low / interval) * interval),
    max: tidy(Math.ceil(high / interval) * interval),
    interval: tidy(interval),
  };
}

/** Value against result, trial by trial: simulated ones round, driven ones square, the way between them, what is wanted as a band. */
export function walkOption(
  points: readonly WalkPoint[],
  knob: { name: string; unit: string },
  result: ResultKey,
  goal: Goal | undefined,
): ChartOption {
  const [ink, ink2, sea, brass, done] = ['ink', 'ink-2', 'sea', 'brass', 'done'].map(role) as [
    string,
    string,
    string,
    string,
    string,
  ];
  const facts = resultFacts[result];
  const ends = goal ? [goal.low, goal.high].filter(Number.isFinite) : [];
  const x = axisEnds(padded(points.map((point) => point.x)));
  const y = axisEnds(padded([...points.map((point) => point.y), ...ends]));
  // Nothing that comes out here is below zero but ways and turns.
  if (Math.min(...points.map((point) => point.y), ...ends) >= 0) y.min = Math.max(0, y.min);
  if (Math.min(...points.map((point) => point.x)) >= 0) x.min = Math.max(0, x.min);
  const unitOf = (unit: string) => (unit === '' ? '' : `, ${unit === 'deg' ? '°' : unit}`);
  const axis = {
    type: 'value' as const,
    nameLocation: 'middle' as const,
    nameTextStyle: { color: ink2, fontSize: 15 },
    axisLabel: { color: ink2, fontSize: 15 },
    axisLine: { onZero: false },
    splitLine: { lineStyle: { color: role('line-soft') } },
  };
  const marks = (floor: boolean): Series => ({
    type: 'scatter' as const,
    symbol: floor ? 'rect' : 'circle',
    symbolSize: 24,
    z: 5,
    itemStyle: floor
      ? { color: brass, borderColor: brass }
      : { color: role('sheet'), borderColor: sea, borderWidth: 2.5 },
    label: {
      show: true,
      formatter: ({ value }: { value: unknown }) => String((value as number[])[2]),
      color: floor ? role('sheet') : ink,
      fontSize: 14,
      fontWeight: 'bold' as const,
      fontFamily: FONT,
    },
    data: points
      .filter(({ step }) => (step.trial.source === 'floor') === floor)
      .map((point) => ({
        value: [point.x, point.y, point.step.nth],
        // The newest one is filled.
        ...(!floor && point === points.at(-1)
          ? { itemStyle: { color: sea }, label: { color: role('sheet') } }
          : {}),
      })),
  });
  const best = points.filter(({ step }) => step.best);
  const lastBest = [true, false].flatMap(
    (floor) => best.filter(({ step }) => (step.trial.source === 'floor') === floor).at(-1) ?? [],
  );
  return {
    grid: { left: 66, right: 22, top: 26, bottom: 54 },
    tooltip: {
      trigger: 'item',
      confine: true,
      formatter: (given: unknown) => {
        const nth = ((given as { value?: number[] }).value ?? [])[2];
        const point = points.find(({ step }) => step.nth === nth);
        if (!point) return '';
        const lines = [
          `trial ${point.step.nth}, ${point.step.trial.source === 'floor' ? 'on the floor' : 'simulated'}`,
          `${knob.name} ${knobAmount({ value: point.x, unit: knob.unit })} → ${resultText(result, point.y)}`,
          stepSays(point.step),
        ];
        const safe = (text: string) => text.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);
        return lines.filter(Boolean).map(safe).join('<br>');
      },
    },
    xAxis: { ...axis, ...x, name: `${knob.name}${unitOf(knob.unit)}`, nameGap: 30 },
    yAxis: { ...axis, ...y, name: `${facts.name}${unitOf(facts.unit)}`, nameGap: 44 },
    series: [
      ...(goal
        ? [
            {
              type: 'line' as const,
              data: [],
              silent: true,
              markArea: {
                silent: true,
                itemStyle: { color: role('done-soft') },
                label: {
                  show: true,
                  position: 'insideTopRight' as const,
                  formatter: 'wanted',
                  color: done,
                  fontSize: 15,
                  fontWeight: 'bold' as const,
                },
                data: [
                  [
                    { yAxis: Number.isFinite(goal.low) ? goal.low : y.min },
                    { yAxis: Number.isFinite(goal.high) ? goal.high : y.max },
                  ] as [{ yAxis: number }, { yAxis: number }],
                ],
              },
            },
          ]
        : []),
      {
        type: 'line' as const,
        data: points.map((point) => [point.x, point.y]),
        showSymbol: false,
        silent: true,
        lineStyle: { color: role('edge'), width: 2 },
      },
      ...[true, false].map((floor) => marks(floor)),
      {
        type: 'scatter' as const,
        symbol: 'circle',
        symbolSize: 38,
        silent: true,
        z: 4,
        itemStyle: { color: 'transparent', borderColor: done, borderWidth: 4 },
        data: lastBest.map((point) => [point.x, point.y]),
      },
    ],
  };
}
