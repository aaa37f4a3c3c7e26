import { useSearchParams } from 'react-router';
import { useWalk } from '../tuning/useWalk.ts';
import { Choice } from '../ui/Choice.tsx';
import { useBench } from './LessonLayout.tsx';
import { SweepView } from './SweepView.tsx';
import type { Subject } from './useSubject.ts';
import { WalksView } from './WalksView.tsx';
import { WithSubject } from './WithSubject.tsx';

const views = ['sweep', 'walks'] as const;

function TeamSweep({ subject, team, slug }: { subject: Subject; team: number; slug: string }) {
  const walk = useWalk({ id: team, slug });
  return <SweepView subject={subject} trials={walk.data?.trials ?? []} />;
}

/** Numbers of a lesson’s scripts: swept over their ranges, and how every team walks towards its own. */
export default function TuningView() {
  const bench = useBench();
  const [search, setSearch] = useSearchParams();
  const view = search.get('view') === 'walks' ? 'walks' : 'sweep';
  const choose = (next: string) => {
    const all = new URLSearchParams(search);
    if (next === 'walks') all.set('view', next);
    else all.delete('view');
    setSearch(all, { replace: true });
  };
  const toggle = (
    <Choice
      label="What is looked at"
      options={views}
      words={{ sweep: 'A sweep', walks: 'Every team’s walk' }}
      value={view}
      choose={choose}
    />
  );
  if (view === 'walks')
    return (
      <>
        <div>{toggle}</div>
        <WalksView />
      </>
    );
  return (
    <WithSubject bench={bench} beside={toggle}>
      {(subject) => {
        const team = /^team-(\d+)$/.exec(subject.id)?.[1];
        return team ? (
          <TeamSweep key={subject.id} subject={subject} team={Number(team)} slug={bench.lesson.slug} />
        ) : (
          <SweepView key={subject.id} subject={subject} trials={[]} />
        );
      }}
    </WithSubject>
  );
}
