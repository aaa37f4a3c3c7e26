import { Award, DoorOpen, FileText, House } from 'lucide-react';
import { useParams } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { LinkButton } from '../ui/Button.tsx';
import { useClass, useClassHours } from '../data/queries.ts';
import { HourList } from '../hours/HourLists.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ClassActions } from './ClassActions.tsx';
import { TeacherOfClass } from './TeacherOfClass.tsx';
import { TeamsPanel } from './TeamsPanel.tsx';

/** A class: all its lesson hours, for ever, and its teams with their robots. */
export default function ClassPage() {
  const { id = '' } = useParams();
  const query = useClassHours(id);
  const detail = useClass(id);
  if (query.isPending || detail.isPending) return <Loading what="the class" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  if (detail.isError) return <Failed error={detail.error} again={() => void detail.refetch()} />;
  const { hours, now } = query.data;
  const klass = detail.data;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to="/start" title="Back to all classes" />
        <h1 className="text-title font-bold">{klass.name}</h1>
        <span className="mr-auto text-ink-2">
          {klass.school}, {countOf(klass.teams, 'team')}
          {klass.archived ? ', put away' : ''}
        </span>
        <ClassActions klass={klass} />
        {klass.archived ? null : (
          <LinkButton main to="/start">
            Start or plan an hour
          </LinkButton>
        )}
      </header>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <nav aria-label="Of this class" className="flex flex-wrap gap-2">
          <LinkButton icon={Award} to={`/classes/${klass.id}/skills`}>
            What they have shown
          </LinkButton>
          <LinkButton icon={House} to={`/classes/${klass.id}/homework`}>
            Homework
          </LinkButton>
          <LinkButton icon={FileText} to={`/classes/${klass.id}/report`}>
            Report
          </LinkButton>
          <LinkButton icon={DoorOpen} to={`/classes/${klass.id}/doors`}>
            Doors and cards
          </LinkButton>
        </nav>
        <span className="ml-auto max-sm:ml-0">
          <TeacherOfClass klass={klass} />
        </span>
      </div>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2">
        <Panel title="Lesson hours, latest first" aside={countOf(hours.length, 'hour')}>
          {hours.length === 0 ? (
            <p className="text-ink-2">This class has had no lesson hour yet.</p>
          ) : (
            <HourList hours={hours} skew={now - query.dataUpdatedAt} ofClass />
          )}
        </Panel>
        <TeamsPanel klass={klass} />
      </div>
    </main>
  );
}
