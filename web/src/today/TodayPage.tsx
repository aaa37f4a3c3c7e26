import { Radio } from 'lucide-react';
import { Link } from 'react-router';
import { LinkButton } from '../ui/Button.tsx';
import { useIsStaff } from '../data/me.ts';
import { useStorage, useToday } from '../data/queries.ts';
import type { Period } from '@vigilum/contract/types';
import { Board, GoNext } from '../hours/Board.tsx';
import { HourActions } from '../hours/HourActions.tsx';
import { HourLists } from '../hours/HourLists.tsx';
import { TimeLeft } from '../hours/TimeLeft.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

/** A backup that is older than this is told of, ms. */
const OLD_BACKUP_MS = 7 * 86_400_000;

function PeriodView({ period, skew, alone }: { period: Period; skew: number; alone: boolean }) {
  const Heading = alone ? 'h1' : 'h2';
  const done = (stage: string) =>
    period.teams.filter((t) => t.stages.find((s) => s.stage === stage)?.state === 'done').length;
  const settled =
    period.teams.length > 0 ? `${done('prove')} of ${period.teams.length} proved` : 'no team yet';
  return (
    <section
      className={`flex min-h-0 flex-col ${alone ? 'lg:h-[calc(100dvh-1.75rem)] lg:min-h-[38rem]' : ''}`}
    >
      <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Heading className="text-title font-bold">
          {period.class.name} · {period.lesson.title}
        </Heading>
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <LinkButton main icon={Radio} to={`/hours/${period.id}/live`}>
            Run the hour
          </LinkButton>
          <TimeLeft hour={period} skew={skew} />
          <span className="rounded-full border border-line bg-sheet px-3.5 py-1.5">{settled}</span>
          <HourActions hour={period} skew={skew} />
        </span>
      </header>
      <div className="flex min-h-0 flex-1 gap-4 max-lg:flex-col">
        <Board period={period} />
        <GoNext period={period} />
      </div>
    </section>
  );
}

/** What the teacher must know of the server: that nothing can be written, or that the last backup is old. */
function StorageNotice() {
  const isStaff = useIsStaff();
  const { data } = useStorage(isStaff);
  if (!data) return null;
  const [newest] = data.backups;
  const old = newest !== undefined && data.now - newest.at > OLD_BACKUP_MS;
  if (data.refusal === null && !old) return null;
  return (
    <p
      role={data.refusal ? 'alert' : 'status'}
      className={`border-l-4 bg-sheet px-4 py-2 font-semibold ${data.refusal ? 'border-l-fault text-fault' : 'border-l-brass text-brass'}`}
    >
      {data.refusal ?? 'The last backup is more than a week old.'}{' '}
      <Link to="/data" className="underline">
        Data and backups
      </Link>
    </p>
  );
}

/** The class at a glance: where each team stands, what came out of each stage, who needs help and why. */
export function TodayPage() {
  const today = useToday();
  if (today.isPending) return <Loading what="today" />;
  if (today.isError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const skew = today.data.now - today.dataUpdatedAt;
  const { periods, next, past } = today.data;
  const others = next.length + past.length > 0;
  return (
    <main className="flex flex-1 flex-col gap-6 px-6 py-3.5 max-sm:px-3">
      <StorageNotice />
      {periods.length === 1 ? null : (
        <h1 className={periods.length === 0 ? 'sr-only' : 'text-title font-bold'}>Today</h1>
      )}
      {periods.length === 0 ? (
        <div className="flex">
          <Empty title={others ? 'No lesson is going on.' : 'No lesson yet.'}>
            <p>
              {others
                ? 'Begin a planned one, or start another.'
                : 'Set up school, kit, robots and class, or start a lesson with a class that is there.'}
            </p>
            <span className="flex flex-wrap gap-2">
              {others ? null : (
                <LinkButton main to="/first-day">
                  Set up the first day
                </LinkButton>
              )}
              <LinkButton to="/start" main={others}>
                Start a lesson hour
              </LinkButton>
            </span>
          </Empty>
        </div>
      ) : (
        periods.map((period) => (
          <PeriodView key={period.id} period={period} skew={skew} alone={periods.length === 1} />
        ))
      )}
      <HourLists next={next} past={past} skew={skew} />
    </main>
  );
}
