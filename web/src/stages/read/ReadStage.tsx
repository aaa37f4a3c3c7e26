import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { readAtTruths, stageAt, staleVerdicts } from '@vigilum/core/classroom';
import { decideWayOf, readWayOf, truthsAt } from '@vigilum/core/lesson';
import { RulerBoard } from '../../reading/RulerBoard.tsx';
import { SweepBoard } from '../../reading/SweepBoard.tsx';
import { TouchBoard } from '../../reading/TouchBoard.tsx';
import { TurnBoard } from '../../reading/TurnBoard.tsx';
import type { Reader } from '../../reading/reader.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Empty, Loading } from '../../ui/states.tsx';
import { useStage } from '../../workspace/context.ts';
import { NextStage, NextStep } from '../../workspace/NextStage.tsx';
import { StaleView } from './StaleView.tsx';
import { SurfacesView } from './SurfacesView.tsx';

const FileBoard = lazy(() => import('../../reading/FileBoard.tsx'));

type View = 'surfaces' | 'ruler' | 'turns' | 'presses' | 'sweep' | 'check' | 'file';

/** A bumper, a ruler or a protractor: what the lesson asks for, and the way on once it is read. */
function AtTruths({ reader, view }: { reader: Reader; view: View }) {
  const { record, lesson, step, sets, touch } = useStage();
  const truths = step ? truthsAt(lesson, step) : [];
  const read = readAtTruths(record, truths);
  const asked = truths.map((truth, i) => ({ truth, read: read[i]! }));
  const state = step && stageAt(record, step)?.state;
  const next = state === 'done' || state === 'risk' ? <NextStep /> : undefined;
  if (view === 'presses') return <TouchBoard reader={reader} recording={touch ?? null} next={next} />;
  return view === 'turns' ? (
    <TurnBoard reader={reader} kit={record.kit} sets={sets} asked={asked} next={next} />
  ) : (
    <RulerBoard reader={reader} sets={sets} asked={asked} next={next} />
  );
}

/** Stage 2: what the robot sees before anything is programmed. */
export default function ReadStage() {
  const { robot, record, reader, sweep } = useStage();
  const [params, setParams] = useSearchParams();
  const { need, read } = record.lesson;
  const way = readWayOf(need.kind) ?? 'surfaces';
  const scale = decideWayOf(need.kind) === 'two surfaces';
  const views: View[] = [way, ...(scale ? (['sweep', 'check'] as const) : []), 'file'];
  const asked = params.get('view');
  const view = views.find((v) => v === asked) ?? way;
  const go = (to: View) => setParams(to === way ? {} : { view: to }, { replace: true });
  const stale = staleVerdicts(record).some(({ verdict }) => verdict === 'read again');
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <Choice
        label="How to read"
        options={views}
        value={view}
        choose={go}
        words={{
          surfaces: scale ? 'Surface by surface' : 'One after the other',
          ruler: 'Against the ruler',
          turns: 'Known turns',
          presses: 'Presses',
          sweep: 'One slow sweep',
          check: stale ? '△ Still true?' : 'Still true?',
          file: 'Files',
        }}
      />
      {view === 'file' ? (
        <Suspense fallback={<Loading what="the files" />}>
          <FileBoard
            robot={robot}
            kit={record.kit}
            usual={{ socket: need.socket, kind: need.kind, surface: read.tasks[0]?.surface ?? '' }}
          />
        </Suspense>
      ) : !reader ? (
        <Panel className="flex-1">
          <Empty title={`Nothing on ${need.socket} can be read.`}>
            <p>Check what is plugged in where.</p>
            <NextStage to="wire">Back to Wire</NextStage>
          </Empty>
        </Panel>
      ) : view === 'surfaces' ? (
        <SurfacesView reader={reader} />
      ) : view === 'sweep' ? (
        <SweepBoard reader={reader} sweep={sweep} />
      ) : view === 'check' ? (
        <StaleView reader={reader} readAgain={() => go('surfaces')} />
      ) : (
        <AtTruths reader={reader} view={view} />
      )}
    </div>
  );
}
