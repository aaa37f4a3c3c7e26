import { useParams } from 'react-router';
import { useTeamGoes } from '../data/queries.ts';
import { Onward } from '../ui/Onward.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

/** A team's own link: it leads into the hour that is going on, else on with what it left, else to its homework. */
export default function TeamPage() {
  const { team = '' } = useParams();
  const query = useTeamGoes(team);
  if (query.isPending) return <Loading what="the team" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { lesson, step, team: own } = query.data;
  if (lesson !== null)
    return (
      <Onward to={`/teams/${team}/lessons/${lesson}${step === null ? '' : `/${step}`}`} what="the lesson" />
    );
  return (
    <main className="flex flex-1 flex-col px-6 py-3.5">
      <h1 className="text-title font-bold">
        {own.name}, {own.class}
      </h1>
      <Empty title="Your class has had no lesson yet.">
        <p>This page opens it as soon as it begins.</p>
      </Empty>
    </main>
  );
}
