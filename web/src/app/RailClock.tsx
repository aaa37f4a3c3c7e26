import { Link } from 'react-router';
import { hourLeft, hourState } from '@vigilum/core/classroom';
import { useRunningHours } from '../data/queries.ts';
import { clock, useNow } from '../ui/time.ts';

/** What is left of the hour that is going on, on every page; it leads to the live sheet. */
export function RailClock() {
  const query = useRunningHours();
  const now = useNow() + (query.data ? query.data.now - query.dataUpdatedAt : 0);
  const hour = query.data?.hours[0];
  if (!hour) return null;
  const left = hourLeft(hour, now);
  const state = hourState(hour, now);
  if (state === 'ended') return null;
  return (
    <Link
      to={`/hours/${hour.id}/live`}
      title={`${hour.class.name}, ${hour.lesson.title}: the live sheet`}
      className="flex min-h-14 w-full flex-col items-center justify-center rounded-lg px-1 py-1 text-sm text-rail-ink hover:bg-rail-here hover:text-white max-sm:hidden"
    >
      <strong className="font-mono text-base text-white">{state === 'over' ? '0:00' : clock(left)}</strong>
      {state === 'paused' ? 'paused' : state === 'over' ? 'time is up' : 'left'}
    </Link>
  );
}
