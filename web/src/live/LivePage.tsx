import { useParams } from 'react-router';
import type { Sheet } from '@vigilum/contract/types';
import { useIsStaff } from '../data/me.ts';
import { useSheet } from '../data/queries.ts';
import { HourActions } from '../hours/HourActions.tsx';
import { TimeLeft } from '../hours/TimeLeft.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { GoPanel } from './GoPanel.tsx';
import { MatsPanel } from './MatsPanel.tsx';
import { PacePanel } from './PacePanel.tsx';
import { SheetTable } from './SheetTable.tsx';
import { StopAll } from './StopAll.tsx';
import { useLive, useRunning } from './useLive.ts';

function Running({ sheet, receivedAt }: { sheet: Sheet; receivedAt: number }) {
  const live = useLive(sheet, receivedAt);
  const running = useRunning(sheet);
  const isStaff = useIsStaff();
  const { hour, run } = sheet;
  const may = isStaff && live.state !== 'planned' && live.state !== 'ended';
  return (
    <main
      data-part="Live"
      className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3 lg:h-dvh lg:min-h-[46rem] lg:flex-none"
    >
      <header className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <BackLink to="/" title="Back to Today" />
        <h1 className="text-title font-bold">
          {hour.class.name} · {hour.lesson.title}
        </h1>
        <TimeLeft hour={hour} skew={sheet.now - receivedAt} />
        <span className="ml-auto flex flex-wrap items-center gap-1.5">
          {may ? <StopAll run={run} running={running} /> : null}
          <HourActions hour={hour} skew={sheet.now - receivedAt} />
        </span>
      </header>
      {run.stopped !== null ? (
        <p role="status" className="border-l-4 border-l-fault bg-fault-soft px-4 py-2 font-bold text-fault">
          Everybody is stopped: “{run.stopped}”
        </p>
      ) : null}
      {run.told !== null ? (
        <p role="status" className="border-l-4 border-l-sea bg-sea-soft px-4 py-1.5 text-sea">
          On all tablets: “{run.told.says}”
        </p>
      ) : null}
      <div className="flex min-h-0 flex-1 gap-4 max-lg:flex-col">
        <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-3">
          <PacePanel live={live} running={running} may={may} />
          <SheetTable live={live} running={running} canSend={may} />
        </div>
        <div className="flex min-h-0 flex-col gap-3 overflow-y-auto lg:w-[18rem] lg:shrink-0">
          <GoPanel live={live} running={running} may={may} />
          <MatsPanel live={live} running={running} may={may} />
        </div>
      </div>
    </main>
  );
}

/** The hour that is going on, run from one page: where every team is, how it will go on, the mats, who to go to. */
export default function LivePage() {
  const { hour = '' } = useParams();
  const query = useSheet(hour);
  if (query.isPending) return <Loading what="the hour" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  return <Running sheet={query.data} receivedAt={query.dataUpdatedAt} />;
}
