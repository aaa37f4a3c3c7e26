import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { formatNumber } from '@vigilum/core/quantity';
import { warnAboutLight, warnAboutPair } from '@vigilum/core/sensing';
import { gradeSeparation, separation } from '@vigilum/core/threshold';
import { stageAt } from '@vigilum/core/classroom';
import { pictureOf } from '../../reading/ColourViews.tsx';
import { SurfaceStudy } from '../../reading/SurfaceStudy.tsx';
import type { Reader } from '../../reading/reader.ts';
import { SurfaceBoard } from '../../reading/SurfaceBoard.tsx';
import { FindingCard } from '../../ui/Finding.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStep } from '../../workspace/NextStage.tsx';
import { FromBefore } from './FromBefore.tsx';

const separationWords = {
  sound: 'Far apart: any value well between them works.',
  usable: 'Apart, but not by much: choose the threshold with care.',
  poor: 'Too close: the robot will often take one for the other.',
};

function Remarks({ context, silent }: { context: StageContext; silent: boolean }) {
  const { record, sets, pair } = context;
  const { tasks } = record.lesson.read;
  const own = tasks.flatMap((task) => sets.find((s) => s.surface === task.surface) ?? []);
  const [a, b] = own;
  const dPrime = pair && separation(pair);
  const light = warnAboutLight(own);
  const grade = dPrime === null ? null : gradeSeparation(dPrime);
  return (
    <div className="mt-4 flex flex-col gap-3">
      {a && b
        ? warnAboutPair(a, b).map((w) => (
            <FindingCard key={w.says} tone={w.grade} says={w.says} more={w.mend} />
          ))
        : null}
      {grade ? (
        <FindingCard
          tone={({ sound: 'done', usable: 'risk', poor: 'fault' } as const)[grade]}
          says={separationWords[grade]}
          more={`The means differ by ${formatNumber(pair!.high.mean - pair!.low.mean)} points, ${formatNumber(dPrime)} times their scatter.`}
        />
      ) : null}
      {light ? <FindingCard tone={light.grade} says={light.says} more={light.mend} /> : null}
      {silent ? (
        <FindingCard
          tone="fault"
          says={`${record.lesson.need.socket} gives no reading.`}
          more="Go back to Wire and check the plug."
        />
      ) : null}
    </div>
  );
}

/** The lesson's surfaces, and as many more as the team wants. */
export function SurfacesView({ reader }: { reader: Reader }) {
  const context = useStage();
  const [params] = useSearchParams();
  const { pair, sets, step, record } = context;
  const { tasks, burst } = record.lesson.read;
  const picture = pictureOf(reader.sensor);
  const state = step && stageAt(record, step)?.state;
  const done = pair !== null || state === 'done' || state === 'risk';
  const asked = useMemo(
    () =>
      tasks.map(({ surface, how, role }) => ({
        surface,
        how,
        colour: role === 'light' ? ('brass' as const) : ('ink' as const),
      })),
    [tasks],
  );
  return (
    <SurfaceBoard
      reader={reader}
      sets={sets}
      tasks={asked}
      burst={burst}
      more={params.has('more')}
      {...(picture ? { picture } : {})}
      offers={(hand) => <FromBefore reader={reader} tasks={tasks} {...hand} />}
      remarks={(silent) =>
        tasks.length === 2 || silent ? (
          <Remarks context={context} silent={silent} />
        ) : picture ? null : (
          <SurfaceStudy sets={sets} sensor={reader.sensor} />
        )
      }
      next={done ? <NextStep /> : null}
    />
  );
}
