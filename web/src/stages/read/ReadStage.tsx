import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { staleVerdicts } from '@vigilum/core/classroom';
import { SweepBoard } from '../../reading/SweepBoard.tsx';
import { StandInHand } from '../../reading/StandInHand.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Empty, Loading } from '../../ui/states.tsx';
import { useStage } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { StaleView } from './StaleView.tsx';
import { SurfacesView } from './SurfacesView.tsx';

const FileBoard = lazy(() => import('../../reading/FileBoard.tsx'));

const views = ['surfaces', 'sweep', 'check', 'file'] as const;
type View = (typeof views)[number];

function SweepView() {
  const { robot, record, fitted, sweep, skew } = useStage();
  if (!fitted)
    return (
      <Panel className="flex-1">
        <Empty title={`Nothing on ${record.lesson.need.socket} can be read.`}>
          <NextStage to="wire">Back to Wire</NextStage>
        </Empty>
      </Panel>
    );
  return (
    <SweepBoard
      robotId={robot.id}
      fitting={fitted.fitting}
      sensor={fitted.spec}
      epoch={JSON.stringify(record.build.fittings)}
      sweep={sweep}
      course={record.lesson.course}
      standIn={robot.standIn}
      skew={skew}
    >
      {robot.standIn ? (
        <StandInHand robotId={robot.id} surfaces={record.lesson.read.tasks.map((task) => task.surface)} />
      ) : null}
    </SweepBoard>
  );
}

/** Stage 2: what the robot sees before anything is programmed. */
export default function ReadStage() {
  const { robot, record } = useStage();
  const [params, setParams] = useSearchParams();
  const asked = params.get('view');
  const view: View = views.find((v) => v === asked) ?? 'surfaces';
  const go = (to: View) => setParams(to === 'surfaces' ? {} : { view: to }, { replace: true });
  const stale = staleVerdicts(record).some(({ verdict }) => verdict === 'read again');
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <Choice
        label="How to read"
        options={views}
        value={view}
        choose={go}
        words={{
          surfaces: 'Surface by surface',
          sweep: 'One slow sweep',
          check: stale ? '△ Still true?' : 'Still true?',
          file: 'Files',
        }}
      />
      {view === 'surfaces' ? <SurfacesView /> : null}
      {view === 'sweep' ? <SweepView /> : null}
      {view === 'check' ? <StaleView readAgain={() => go('surfaces')} /> : null}
      {view === 'file' ? (
        <Suspense fallback={<Loading what="the files" />}>
          <FileBoard
            robot={robot}
            kit={record.kit}
            usual={{
              socket: record.lesson.need.socket,
              kind: record.lesson.need.kind,
              surface: record.lesson.read.tasks[0]?.surface ?? '',
            }}
          />
        </Suspense>
      ) : null}
    </div>
  );
}
