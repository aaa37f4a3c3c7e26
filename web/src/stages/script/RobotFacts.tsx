import { narrowestLine } from '@vigilum/core/lesson';
import { reactionOf, stoppingDistance, surelySeenSpeed, topSpeedMmPerS } from '@vigilum/core/motion';
import { formatNumber } from '@vigilum/core/quantity';
import type { StageContext } from '../../workspace/context.ts';

/** Numbers a writer needs, computed from this robot and its readings. */
export function RobotFacts({ context }: { context: StageContext }) {
  const { record, pair, fitted } = context;
  const { kit, build, lesson } = record;
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  const width = narrowestLine(lesson);
  const periodS = (fitted?.spec.samplePeriodMs ?? 0) / 1000;
  const reaction = reactionOf(kit, fitted?.spec.samplePeriodMs ?? 0);
  const stop = (percent: number) => formatNumber(stoppingDistance((top * percent) / 100, reaction).meanMm, 0);
  const rows: [string, string][] = [
    ...(pair
      ? ([
          [
            `${pair.low.name} · ${pair.high.name}`,
            `${formatNumber(pair.low.mean, 0)} · ${formatNumber(pair.high.mean, 0)} %`,
          ],
        ] as [string, string][])
      : []),
    ['threshold', record.threshold ? `${formatNumber(record.threshold.value)} %` : 'not decided'],
    ['drive 100 % is', `${formatNumber(top, 0)} mm/s`],
    ...(width !== null && periodS > 0
      ? ([
          [
            `a ${formatNumber(width, 0)} mm line is surely seen up to`,
            `drive ${Math.min(100, Math.floor((100 * surelySeenSpeed(width, periodS)) / top))} %`,
          ],
        ] as [string, string][])
      : []),
    ...(periodS > 0
      ? ([['from seeing to standing, at 30 · 60 %', `${stop(30)} · ${stop(60)} mm`]] as [string, string][])
      : []),
  ];
  return (
    <section className="mt-4 border-t border-line-soft pt-3">
      <h3 className="font-bold">This robot</h3>
      <dl className="mt-1 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 gap-y-1">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-2">{name}</dt>
            <dd className="text-right font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
