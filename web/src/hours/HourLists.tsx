import { Link } from 'react-router';
import type { Hour } from '@vigilum/contract/types';
import { Panel } from '../ui/Panel.tsx';
import { HourActions } from './HourActions.tsx';
import { whenOf } from './when.ts';

/** Hours as a list: when, who, what; each leads to its board. */
export function HourList({
  hours,
  skew,
  ofClass = false,
}: {
  hours: readonly Hour[];
  skew: number;
  ofClass?: boolean;
}) {
  return (
    <ul className="flex flex-col divide-y divide-line-soft">
      {hours.map((hour) => (
        <li key={hour.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
          <Link
            to={`/hours/${hour.id}`}
            className="group flex min-h-11 min-w-0 flex-1 flex-col justify-center"
          >
            <span className="font-bold group-hover:underline">{hour.lesson.title}</span>
            <span className="text-ink-2">
              {whenOf(hour.startsAt)}
              {ofClass ? '' : `, ${hour.class.name}`}
              {hour.first === hour.id ? '' : ', goes on'}
            </span>
          </Link>
          <HourActions hour={hour} skew={skew} removable />
        </li>
      ))}
    </ul>
  );
}

/** What comes next and what was, below the hour that is going on. */
export function HourLists({
  next,
  past,
  skew,
}: {
  next: readonly Hour[];
  past: readonly Hour[];
  skew: number;
}) {
  const classes = [...new Map([...past, ...next].map((hour) => [hour.class.id, hour.class])).values()];
  return (
    <div className="grid grid-cols-1 gap-4 lg:grid-cols-2">
      <Panel
        title="Next"
        aside={
          <Link to="/start" className="inline-flex min-h-11 items-center underline">
            start or plan an hour
          </Link>
        }
      >
        {next.length === 0 ? (
          <p className="text-ink-2">Nothing is planned.</p>
        ) : (
          <HourList hours={next} skew={skew} />
        )}
      </Panel>
      <Panel
        title="Before"
        aside={classes.map(({ id, name }) => (
          <Link key={id} to={`/classes/${id}`} className="mr-3 inline-flex min-h-11 items-center underline">
            all of {name}
          </Link>
        ))}
      >
        {past.length === 0 ? (
          <p className="text-ink-2">No hour has ended yet.</p>
        ) : (
          <HourList hours={past} skew={skew} />
        )}
      </Panel>
    </div>
  );
}
