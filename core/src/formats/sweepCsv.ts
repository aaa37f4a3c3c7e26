import { wilson } from '../statistics/index.ts';
import { knobsAt, resultFacts, resultKeys, safeAt, valueAt, type Sweep } from '../tuning/index.ts';
import { writeCsv } from './csv.ts';

const round = (value: number): number => Number(value.toFixed(4));

/** A sweep as a table: a row a point with its knobs, runs, pass rate with its 95 % interval, and the means of what came out. */
export function sweepCsv(sweep: Sweep): string {
  const { x, y } = sweep;
  const named = (axis: { knob: string; unit: string }) =>
    axis.unit === '' ? axis.knob : `${axis.knob}, ${axis.unit}`;
  const told = resultKeys.filter(
    (key) => key !== 'pass rate' && sweep.points.some((point) => valueAt(point, key) !== null),
  );
  const head = [
    named(x),
    ...(y ? [named(y)] : []),
    'runs',
    'runs that pass',
    'pass rate, %',
    'at least, %',
    'at most, %',
    'safe',
    ...told.map(
      (key) => `${resultFacts[key].name}${resultFacts[key].unit ? `, ${resultFacts[key].unit}` : ''}`,
    ),
  ];
  const rows = sweep.points.flatMap((point, index) => {
    if (!point || point.runs === 0) return [];
    const { low, high } = wilson(point.passes, point.runs);
    const safe = safeAt(point, sweep.bar)!;
    return [
      [
        ...Object.values(knobsAt(sweep, index)),
        point.runs,
        point.passes,
        round((100 * point.passes) / point.runs),
        round(100 * low),
        round(100 * high),
        `${safe.safe ? 'yes' : 'no'}${safe.sure ? '' : ', not yet sure'}`,
        ...told.map((key) => {
          const value = valueAt(point, key);
          return value === null ? '' : round(value);
        }),
      ],
    ];
  });
  return writeCsv([head, ...rows]);
}
