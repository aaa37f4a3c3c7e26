import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { staleVerdicts } from '@vigilum/core/classroom';
import { SweepBoard } from '../../reading/SweepBoard.tsx';
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

/** Stage 2: what the robot sees before anything is programmed. */
export default function ReadStage() {
  const { robot, record, reader, sweep } = useStage();
  const [params, setParams] = useSearchParams();
  const asked = params.get('view');
  const view: View = views.find((v) => v === asked) ?? 'surfaces';
  const go = (to: View) => setParams(to === 'surfaces' ? {} : { view: to }, { replace: true });
  const stale = staleVerdicts(record).some(({ verdict }) => verdict === 'read again');
  const { need, read } = record.lesson;
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
      ) : (
        <StaleView reader={reader} readAgain={() => go('surfaces')} />
      )}
    </div>
  );
}
