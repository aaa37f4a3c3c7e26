import { Link, useParams } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { useClassHours } from '../data/queries.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { HourList } from './HourLists.tsx';

/** All lesson hours of a class, for ever. */
export default function ClassHoursPage() {
  const { id = '' } = useParams();
  const query = useClassHours(id);
  if (query.isPending) return <Loading what="the hours" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { class: klass, hours, now } = query.data;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to="/" title="Back to Today" />
        <h1 className="text-title font-bold">Hours of {klass.name}</h1>
        <span className="mr-auto text-ink-2">
          {klass.school}, {countOf(klass.teams, 'team')}
        </span>
        <Link to="/start" className="btn btn-primary">
          Start or plan an hour
        </Link>
      </header>
      {hours.length === 0 ? (
        <Empty title="This class has had no lesson hour yet." />
      ) : (
        <Panel title="Latest first" aside={countOf(hours.length, 'hour')}>
          <HourList hours={hours} skew={now - query.dataUpdatedAt} ofClass />
        </Panel>
      )}
    </main>
  );
}
