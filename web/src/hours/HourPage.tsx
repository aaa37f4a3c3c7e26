import { useParams } from 'react-router';
import { hourState } from '@vigilum/core/classroom';
import { LinkButton } from '../ui/Button.tsx';
import { usePeriod } from '../data/queries.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { Board, GoNext } from './Board.tsx';
import { HourActions } from './HourActions.tsx';
import { TimeLeft } from './TimeLeft.tsx';
import { whenOf } from './when.ts';

/** One lesson hour, whenever it was: its board as its teams left it. */
export default function HourPage() {
  const { hour = '' } = useParams();
  const query = usePeriod(hour);
  if (query.isPending) return <Loading what="the lesson hour" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { period, now } = query.data;
  const skew = now - query.dataUpdatedAt;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to={`/classes/${period.class.id}`} title="Back to the hours of the class" />
        <h1 className="text-title font-bold">
          {period.class.name} · {period.lesson.title}
        </h1>
        <span className="text-ink-2">{whenOf(period.startsAt)}</span>
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <LinkButton to={`/class/${period.id}`}>Thresholds</LinkButton>
          <LinkButton to={`/class/${period.id}/notes`}>Written down</LinkButton>
          {hourState(period, now) === 'ended' ? (
            <LinkButton to={`/hours/${period.id}/next`}>What next</LinkButton>
          ) : (
            <LinkButton to={`/hours/${period.id}/live`}>Live sheet</LinkButton>
          )}
          <TimeLeft hour={period} skew={skew} />
          <HourActions hour={period} skew={skew} />
        </span>
      </header>
      <div className="flex min-h-0 flex-1 gap-4 max-lg:flex-col">
        <Board period={period} />
        <GoNext period={period} ended={hourState(period, now) === 'ended'} />
      </div>
    </main>
  );
}
